/** Hue curves: one of five curves at a time, its line from the core, its points as numbers. */
import { useState } from "react";
import styled from "styled-components";
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
/** Points of one curve. */
const MOST = 24;
/** As a share of the whole width, nearer two points do not come. */
const APART = 0.004;

const Below = styled.div`
  margin-top: 10px;
`;
const Foot = styled.div`
  height: 8px;
  border-radius: 2px;
`;
const List = styled.ul`
  list-style: none;
  padding: 0;
  margin-top: 10px;
  li {
    display: flex;
    gap: 8px;
    align-items: baseline;
    border-bottom: 1px solid var(--g3);
    padding: 2px 0;
  }
  span {
    color: var(--t3);
  }
`;
const Unit = styled.span`
  flex: 1;
`;

type Point = [number, number];
type Curve = (typeof CURVES)[Name];
const isByHue = (curve: Curve) => curve.x === 360;
const height = (curve: Curve, value: number) => (value - curve.low) / (curve.high - curve.low);

/** A place in the plot as a point, held to what the core takes. */
const held = (c: Curve, px: number, py: number): Point => [
  Number((Math.min(Math.max(px, 0), isByHue(c) ? 0.9997 : 1) * c.x).toFixed(3)),
  Number((c.low + Math.min(Math.max(py, 0), 1) * (c.high - c.low)).toFixed(4)),
];

/** Points keep their order: one does not pass another. */
function moved(c: Curve, points: Point[], k: number, px: number, py: number): Point[] {
  const low = ((points[k - 1]?.[0] ?? -1) + APART * c.x) / c.x;
  const high = ((points[k + 1]?.[0] ?? c.x + 1) - APART * c.x) / c.x;
  return points.map((q, i) => (i === k ? held(c, Math.min(Math.max(px, low), high), py) : q));
}

/** A place that no point is near to. */
function free(c: Curve, points: Point[]): number {
  for (let k = 0; k < 12; k++) {
    const place = (((k * 5) % 12) / 12) * c.x;
    if (points.every((p) => Math.abs(p[0] - place) > c.x / 40)) return place;
  }
  return c.x / 2.1;
}

/** The points as numbers. */
function PointList(props: { curve: Curve; points: Point[]; onChange: (points: Point[]) => void }) {
  const { curve: c, points, onChange } = props;
  const inUnit = isByHue(c) ? 1 : 100;
  const put = (k: number, point: Point) => onChange(points.map((q, i) => (i === k ? point : q)));
  return (
    <List aria-label={`Points of ${c.label}`}>
      {points.map((p, k) => (
        <li key={k}>
          <NumberBox
            label={`Point ${k + 1}, place`}
            value={p[0] * inUnit}
            low={0}
            high={isByHue(c) ? 359.9 : 100}
            fine={0.1}
            digits={1}
            onChange={(v) => put(k, [v / inUnit, p[1]])}
          />
          <span>{isByHue(c) ? "°" : "%"} →</span>
          <NumberBox
            label={`Point ${k + 1}, value`}
            value={p[1] * c.scale}
            low={c.low * c.scale}
            high={c.high * c.scale}
            fine={0.1}
            digits={1}
            onChange={(v) => put(k, [p[0], v / c.scale])}
          />
          <Unit>{c.unit}</Unit>
          <Button
            look="icon"
            aria-label={`Remove point ${k + 1}`}
            onPress={() => onChange(points.filter((_, i) => i !== k))}
          >
            ✕
          </Button>
        </li>
      ))}
    </List>
  );
}

/** One curve with its points to be moved, over the hues or tones that it goes by. */
function Plot(props: {
  curve: Curve;
  points: Point[];
  at: number;
  line: [number[], number[]];
  hues: string[];
  onChoose: (k: number) => void;
  onChange: (points: Point[]) => void;
}) {
  const { curve: c, points, line, hues, onChoose, onChange } = props;
  const byHue = isByHue(c);
  const rest = H - height(c, c.rest) * H;
  const tones = "linear-gradient(to right, var(--black), var(--white))";
  const add = ([px, py]: Point) => {
    if (points.length >= MOST || points.some((p) => Math.abs(p[0] / c.x - px) < 4 * APART)) return null;
    onChange([...points, held(c, px, py)]);
    const k = points.filter((p) => p[0] / c.x < px).length;
    onChoose(k);
    return k;
  };
  const said = (k: number) => {
    const [place, value] = points[k]!;
    return `at ${(place * (byHue ? 1 : 100)).toFixed(1)} ${byHue ? "°" : "%"}, ${(value * c.scale).toFixed(1)} ${c.unit}`;
  };
  return (
    <>
      <Below>
        <PointPlot
          label={c.label}
          width={W}
          height={H}
          points={points.map((p) => [p[0] / c.x, height(c, p[1])])}
          chosen={props.at}
          onChoose={onChoose}
          onMove={(k, [px, py]) => onChange(moved(c, points, k, px, py))}
          onRemove={(k) => onChange(points.filter((_, i) => i !== k))}
          fine={[byHue ? 1 / 360 : 0.01, 0.01]}
          onAdd={add}
          name={(k) => `Point ${k + 1} of ${c.label}`}
          value={(k) => Number((points[k]![1] * c.scale).toFixed(1))}
          said={said}
        >
          <line x1={0} x2={W} y1={rest} y2={rest} stroke="var(--g4)" strokeDasharray="2 4" />
          <polyline points={path(...line, W, H)} fill="none" stroke="var(--t1)" strokeWidth={1.6} />
        </PointPlot>
      </Below>
      <Foot
        style={{
          background:
            byHue && hues.length ? `linear-gradient(to right, ${[...hues, hues[0]!].join(",")})` : tones,
        }}
      />
    </>
  );
}

function HueCurvesEditor({ step, trace, change }: EditorProps<"hue_curves">) {
  const [name, setName] = useState<Name>("hue_saturation");
  const [at, setAt] = useState(0);
  const c = CURVES[name];
  const byHue = isByHue(c);
  const points = [...step[name]] as Point[];
  const put = (next: Point[]) =>
    change(c.label, (s: StepOf<"hue_curves">) => ({ ...s, [name]: [...next].sort((a, b) => a[0] - b[0]) }));
  const picked = ({ given }: Probed) => {
    if (given) put([...points, [Number((byHue ? given.hue : given.lightness).toFixed(3)), c.rest]]);
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
        <Below>
          <Ring
            trace={trace}
            marks={points.map((p) => p[0])}
            chosen={at}
            onMove={(k, hue) => {
              setAt(k);
              put(points.map((q, i) => (i === k ? [hue, q[1]] : q)));
            }}
          />
        </Below>
      ) : null}
      <Plot
        curve={c}
        points={points}
        at={at}
        line={[
          numbers(trace, byHue ? "hue" : "x").map((v) => v / c.x),
          numbers(trace, name).map((v) => height(c, v)),
        ]}
        hues={strings(trace, "before")}
        onChoose={setAt}
        onChange={put}
      />
      <PointList curve={c} points={points} onChange={put} />
      <Below>
        <Button
          isDisabled={points.length >= MOST}
          onPress={() => put([...points, [free(c, points), c.rest]])}
        >
          Add point
        </Button>{" "}
        {name === "saturation_saturation" ? null : (
          <Pick step={step.id} what={byHue ? "Pick a hue" : "Pick a tone"} take={picked} />
        )}
      </Below>
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
