/** Hue curves: one of five curves at a time, its line from the core, its points as numbers. */
import { useState } from "react";
import type { Probed, StepOf } from "../../api/types";
import { Button } from "../../kit/button";
import { Choice } from "../../kit/choice";
import { NumberBox } from "../../kit/numberbox";
import { numbers, path, strings } from "../trace";
import { Pick } from "../pick";
import type { EditorProps, StepView } from "./kind";
import { HuesThumb } from "./thumbs";
import { PointPlot } from "./points";
import { Ring } from "./ring";

const CURVES = {
  hue_hue: { label: "Hue by hue", x: 360, low: -180, high: 180, rest: 0, unit: "°", scale: 1 },
  hue_saturation: { label: "Saturation by hue", x: 360, low: 0, high: 3, rest: 1, unit: "%", scale: 100 },
  hue_lightness: { label: "Lightness by hue", x: 360, low: -1, high: 1, rest: 0, unit: "%", scale: 100 },
  lightness_saturation: {
    label: "Saturation by lightness",
    x: 1,
    low: 0,
    high: 3,
    rest: 1,
    unit: "%",
    scale: 100,
  },
  saturation_saturation: {
    label: "Saturation by saturation",
    x: 1,
    low: 0,
    high: 3,
    rest: 1,
    unit: "%",
    scale: 100,
  },
} as const;
type Name = keyof typeof CURVES;
const [W, H] = [268, 130];
const MOST = 24;

function HueCurvesEditor({ step, trace, change }: EditorProps<"hue_curves">) {
  const [name, setName] = useState<Name>("hue_saturation");
  const [at, setAt] = useState(0);
  const c = CURVES[name];
  const points = [...step[name]] as [number, number][];
  const put = (next: [number, number][]) =>
    change(c.label, (s: StepOf<"hue_curves">) => ({ ...s, [name]: [...next].sort((a, b) => a[0] - b[0]) }));
  const x = numbers(trace, c.x === 360 ? "hue" : "x").map((v) => v / c.x);
  const y = numbers(trace, name).map((v) => (v - c.low) / (c.high - c.low));
  const byHue = c.x === 360;
  const inUnit = byHue ? 1 : 100;
  const hues = strings(trace, "before");
  const held = (px: number, py: number): [number, number] => [
    Number((Math.min(Math.max(px, 0), byHue ? 0.9997 : 1) * c.x).toFixed(3)),
    Number((c.low + Math.min(Math.max(py, 0), 1) * (c.high - c.low)).toFixed(4)),
  ];
  // Points keep their order: one does not pass another.
  const move = (k: number, px: number, py: number) => {
    const low = ((points[k - 1]?.[0] ?? -1) + 0.004 * c.x) / c.x;
    const high = ((points[k + 1]?.[0] ?? c.x + 1) - 0.004 * c.x) / c.x;
    put(points.map((q, i) => (i === k ? held(Math.min(Math.max(px, low), high), py) : q)));
  };
  const picked = (found: Probed) => {
    if (!found.given) return;
    put([...points, [Number((byHue ? found.given.hue : found.given.lightness).toFixed(3)), c.rest]]);
  };
  const free = () => {
    for (let k = 0; k < 12; k++) {
      const place = (((k * 5) % 12) / 12) * c.x;
      if (points.every((p) => Math.abs(p[0] - place) > c.x / 40)) return place;
    }
    return c.x / 2.1;
  };
  return (
    <>
      <Choice
        label="Curve"
        hidden
        options={(Object.keys(CURVES) as Name[]).map((key) => ({
          key,
          label: CURVES[key].label,
          note: step[key].length ? `${step[key].length} points` : "flat",
        }))}
        chosen={name}
        onChange={setName}
      />
      {byHue ? (
        <div style={{ marginTop: 10 }}>
          <Ring
            trace={trace}
            marks={points.map((p) => p[0])}
            chosen={at}
            onMove={(k, hue) => {
              setAt(k);
              put(points.map((q, i) => (i === k ? [hue, q[1]] : q)));
            }}
          />
        </div>
      ) : null}
      <div style={{ marginTop: 10 }}>
        <PointPlot
          label={c.label}
          width={W}
          height={H}
          points={points.map((p) => [p[0] / c.x, (p[1] - c.low) / (c.high - c.low)])}
          chosen={at}
          onChoose={setAt}
          onMove={(k, [px, py]) => move(k, px, py)}
          onRemove={(k) => put(points.filter((_, i) => i !== k))}
          fine={[byHue ? 1 / 360 : 0.01, 0.01]}
          onAdd={([px, py]) => {
            if (points.length >= MOST || points.some((p) => Math.abs(p[0] / c.x - px) < 0.016)) return null;
            put([...points, held(px, py)]);
            const k = points.filter((p) => p[0] / c.x < px).length;
            setAt(k);
            return k;
          }}
          name={(k) => `Point ${k + 1} of ${c.label}`}
          value={(k) => Number((points[k]![1] * c.scale).toFixed(1))}
          said={(k) =>
            `at ${(points[k]![0] * inUnit).toFixed(1)} ${byHue ? "°" : "%"}, ${(points[k]![1] * c.scale).toFixed(1)} ${c.unit}`
          }
        >
          <line
            x1={0}
            x2={W}
            y1={H - ((c.rest - c.low) / (c.high - c.low)) * H}
            y2={H - ((c.rest - c.low) / (c.high - c.low)) * H}
            stroke="var(--g4)"
            strokeDasharray="2 4"
          />
          <polyline points={path(x, y, W, H)} fill="none" stroke="#f0f0f0" strokeWidth={1.6} />
        </PointPlot>
      </div>
      <div
        style={{
          height: 8,
          background:
            byHue && hues.length
              ? `linear-gradient(to right, ${[...hues, hues[0]!].join(",")})`
              : "linear-gradient(to right, #000, #fff)",
          borderRadius: 2,
        }}
      />
      <ul style={{ listStyle: "none", padding: 0, marginTop: 10 }} aria-label={`Points of ${c.label}`}>
        {points.map((p, k) => (
          <li
            key={k}
            style={{
              display: "flex",
              gap: 8,
              alignItems: "baseline",
              borderBottom: "1px solid var(--g3)",
              padding: "2px 0",
            }}
          >
            <NumberBox
              label={`Point ${k + 1}, place`}
              value={p[0] * inUnit}
              low={0}
              high={c.x === 360 ? 359.9 : 100}
              fine={0.1}
              digits={1}
              onChange={(v) => put(points.map((q, i) => (i === k ? [v / inUnit, q[1]] : q)))}
            />
            <span style={{ color: "var(--t3)" }}>{c.x === 360 ? "°" : "%"} →</span>
            <NumberBox
              label={`Point ${k + 1}, value`}
              value={p[1] * c.scale}
              low={c.low * c.scale}
              high={c.high * c.scale}
              fine={0.1}
              digits={1}
              onChange={(v) => put(points.map((q, i) => (i === k ? [q[0], v / c.scale] : q)))}
            />
            <span style={{ color: "var(--t3)", flex: 1 }}>{c.unit}</span>
            <Button
              look="icon"
              aria-label={`Remove point ${k + 1}`}
              onPress={() => put(points.filter((_, i) => i !== k))}
            >
              ✕
            </Button>
          </li>
        ))}
      </ul>
      <div style={{ marginTop: 10 }}>
        <Button isDisabled={points.length >= 24} onPress={() => put([...points, [free(), c.rest]])}>
          Add point
        </Button>{" "}
        {name === "saturation_saturation" ? null : (
          <Pick step={step.id} what={byHue ? "Pick a hue" : "Pick a tone"} take={picked} />
        )}
      </div>
    </>
  );
}

const SHORT = {
  hue_hue: "hue",
  hue_saturation: "saturation",
  hue_lightness: "lightness",
  lightness_saturation: "by lightness",
  saturation_saturation: "by saturation",
} as const;

export const hue_curves: StepView<"hue_curves"> = {
  Editor: HueCurvesEditor,
  summary: (step) => {
    const set = (Object.keys(SHORT) as (keyof typeof SHORT)[])
      .filter((n) => step[n].length)
      .map((n) => SHORT[n]);
    return set.length ? set.join(", ") : "flat";
  },
  Thumb: HuesThumb,
};
