/** Hue curves: one of five curves at a time, its line from the core, its points as numbers. */
import { useState } from "react";
import type { StepOf } from "../../api/types";
import { Button, Choice, NumberBox } from "../../kit/controls";
import { numbers, path } from "../trace";
import type { EditorProps } from "./editor";

const CURVES = {
  hue_hue: { label: "Hue by hue", x: 360, low: -180, high: 180, rest: 0, unit: "°", scale: 1 },
  hue_saturation: { label: "Saturation by hue", x: 360, low: 0, high: 3, rest: 1, unit: "%", scale: 100 },
  hue_lightness: { label: "Lightness by hue", x: 360, low: -1, high: 1, rest: 0, unit: "%", scale: 100 },
  lightness_saturation: { label: "Saturation by lightness", x: 1, low: 0, high: 3, rest: 1, unit: "%", scale: 100 },
  saturation_saturation: { label: "Saturation by saturation", x: 1, low: 0, high: 3, rest: 1, unit: "%", scale: 100 },
} as const;
type Name = keyof typeof CURVES;
const [W, H] = [268, 130];
const HUES = "linear-gradient(to right, #e5737a, #d98a3a, #a3a02f, #4fae6a, #2fa7b3, #5d93e0, #a97fd6, #e5737a)";

export function HueCurvesEditor({ step, trace, change }: EditorProps<"hue_curves">) {
  const [name, setName] = useState<Name>("hue_saturation");
  const c = CURVES[name];
  const points = [...step[name]] as [number, number][];
  const put = (next: [number, number][]) =>
    change(c.label, (s: StepOf<"hue_curves">) => ({ ...s, [name]: [...next].sort((a, b) => a[0] - b[0]) }));
  const x = numbers(trace, c.x === 360 ? "hue" : "x").map((v) => v / c.x);
  const y = numbers(trace, name).map((v) => (v - c.low) / (c.high - c.low));
  const inUnit = c.x === 360 ? 1 : 100;
  const free = () => {
    for (let k = 0; k < 12; k++) {
      const place = (((k * 5) % 12) / 12) * c.x;
      if (points.every((p) => Math.abs(p[0] - place) > c.x / 40)) return place;
    }
    return c.x / 2.1;
  };
  return (
    <>
      <Choice label="Curve" hidden options={(Object.keys(CURVES) as Name[]).map((key) => ({ key, label: CURVES[key].label, note: step[key].length ? `${step[key].length} points` : "flat" }))} chosen={name} onChange={setName} />
      <svg width={W} height={H} viewBox={`0 0 ${W} ${H}`} role="img" aria-label={c.label} style={{ background: "var(--g0)", marginTop: 10, display: "block", overflow: "hidden" }}>
        <line x1={0} x2={W} y1={H - ((c.rest - c.low) / (c.high - c.low)) * H} y2={H - ((c.rest - c.low) / (c.high - c.low)) * H} stroke="var(--g4)" strokeDasharray="2 4" />
        <polyline points={path(x, y, W, H)} fill="none" stroke="#f0f0f0" strokeWidth={1.6} />
        {points.map((p, k) => <circle key={k} cx={(p[0] / c.x) * W} cy={H - ((p[1] - c.low) / (c.high - c.low)) * H} r={4} fill="#fff" />)}
      </svg>
      <div style={{ height: 8, background: c.x === 360 ? HUES : "linear-gradient(to right, #000, #fff)", borderRadius: 2 }} />
      <ul style={{ listStyle: "none", padding: 0, marginTop: 10 }} aria-label={`Points of ${c.label}`}>
        {points.map((p, k) => (
          <li key={k} style={{ display: "flex", gap: 8, alignItems: "baseline", borderBottom: "1px solid var(--g3)", padding: "2px 0" }}>
            <NumberBox label={`Point ${k + 1}, place`} value={p[0] * inUnit} low={0} high={c.x === 360 ? 359.9 : 100} fine={0.1} digits={1} onChange={(v) => put(points.map((q, i) => (i === k ? [v / inUnit, q[1]] : q)))} />
            <span style={{ color: "var(--t3)" }}>{c.x === 360 ? "°" : "%"} →</span>
            <NumberBox label={`Point ${k + 1}, value`} value={p[1] * c.scale} low={c.low * c.scale} high={c.high * c.scale} fine={0.1} digits={1} onChange={(v) => put(points.map((q, i) => (i === k ? [q[0], v / c.scale] : q)))} />
            <span style={{ color: "var(--t3)", flex: 1 }}>{c.unit}</span>
            <Button look="icon" aria-label={`Remove point ${k + 1}`} onPress={() => put(points.filter((_, i) => i !== k))}>✕</Button>
          </li>
        ))}
      </ul>
      <div style={{ marginTop: 10 }}><Button isDisabled={points.length >= 24} onPress={() => put([...points, [free(), c.rest]])}>Add point</Button></div>
    </>
  );
}
