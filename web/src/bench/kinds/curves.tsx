/** Curves: points by mouse, keys and numbers; the line is the core's. */
import { useState } from "react";
import { Menu, MenuItem, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import type { CurvePoint, Probed, StepOf } from "../../api/types";
import { Button } from "../../kit/button";
import { Choice } from "../../kit/choice";
import { Menued } from "../../kit/menued";
import { NumberBox } from "../../kit/numberbox";
import { Segments } from "../../kit/segments";
import { useRead } from "../../viewer/readings";
import { Pick } from "../pick";
import { numbers, path } from "../trace";
import type { EditorProps, StepView } from "./kind";
import { Line } from "./thumbs";
import { PointPlot } from "./points";
import { Level } from "../../kit/layout";

const CHANNELS = [
  ["all", "All"],
  ["red", "Red"],
  ["green", "Green"],
  ["blue", "Blue"],
  ["luma", "Luma"],
] as const;
type Channel = (typeof CHANNELS)[number][0];

/** Marks which channel a line belongs to; the only colours on the chrome. */
const INK: Record<Channel, string> = {
  all: "#f0f0f0",
  red: "#e08a7d",
  green: "#86c08a",
  blue: "#86a5ee",
  luma: "#d8d8d8",
};
const UNITS = { "0–1": 1, "%": 100, "8-bit": 255, "10-bit": 1023 } as const;
type Unit = keyof typeof UNITS;
const DIGITS: Record<Unit, number> = { "0–1": 4, "%": 2, "8-bit": 1, "10-bit": 0 };
const SIDE = 250;
const APART = 0.004;
const STRAIGHT: CurvePoint[] = [
  [0, 0],
  [1, 1],
];

const Square = styled.div`
  display: grid;
  grid-template-columns: 8px ${SIDE}px;
  gap: 5px;
  justify-content: end;
  .side,
  .foot {
    border-radius: 2px;
  }
  .foot {
    height: 8px;
    grid-column: 2;
  }
  .density {
    grid-column: 2;
    height: 26px;
  }
`;

const Points = styled.table`
  width: 100%;
  border-collapse: collapse;
  margin-top: 2px;
  th {
    font-weight: 400;
    color: var(--t2);
    text-align: right;
    padding: 4px 0;
    font-size: 12px;
  }
  th:first-child,
  td:first-child {
    text-align: left;
    padding-left: 8px;
  }
  td {
    text-align: right;
    padding: 1px 0;
  }
  td:last-child {
    width: 30px;
  }
  tr.chosen {
    background: var(--g3);
  }
  tbody tr {
    border-bottom: 1px solid var(--g3);
  }
`;

/** Points kept in order and inside what the core takes. */
function settle(points: CurvePoint[], index: number, to: CurvePoint): CurvePoint[] {
  const low = index > 0 ? points[index - 1]![0] + APART : 0;
  const high = index < points.length - 1 ? points[index + 1]![0] - APART : 1;
  const x = Math.min(Math.max(to[0], low), high);
  const y = Math.min(Math.max(to[1], -1), 2);
  return points.map((p, k) => (k === index ? [Number(x.toFixed(5)), Number(y.toFixed(5))] : p));
}

function CurvesEditor({ step, trace, change }: EditorProps<"curves">) {
  const [channel, setChannel] = useState<Channel>("all");
  const [unit, setUnit] = useState<Unit>("8-bit");
  const [at, setAt] = useState(0);
  const points = step[channel] as CurvePoint[];
  const full = UNITS[unit];
  const x = numbers(trace, "x");

  const put = (next: CurvePoint[], what = `${channel} curve`) =>
    change(what, (s: StepOf<"curves">) => ({ ...s, [channel]: next }));
  const add = ([px, py]: CurvePoint) => {
    const index = points.findIndex((p) => p[0] > px);
    const k = index < 0 ? points.length : index;
    const before = points[k - 1];
    const after = points[k];
    if ((before && px - before[0] < APART * 4) || (after && after[0] - px < APART * 4)) return null;
    put([
      ...points.slice(0, k),
      [Number(px.toFixed(5)), Number(Math.min(Math.max(py, 0), 1).toFixed(5))],
      ...points.slice(k),
    ]);
    setAt(k);
    return k;
  };
  const discard = (index: number) => {
    if (points.length <= 2) return;
    put(
      points.filter((_, k) => k !== index),
      `remove point ${channel}`,
    );
    setAt(Math.max(0, index - 1));
  };
  const insert = () => {
    const gaps = points.slice(1).map((p, k) => p[0] - points[k]![0]);
    const k = gaps.indexOf(Math.max(...gaps));
    const [a, b] = [points[k]!, points[k + 1]!];
    const mid = (a[0] + b[0]) / 2;
    const line = numbers(trace, channel);
    const y = line[Math.round(mid * (line.length - 1))] ?? (a[1] + b[1]) / 2;
    put([...points.slice(0, k + 1), [Number(mid.toFixed(5)), Number(y.toFixed(5))], ...points.slice(k + 1)]);
    setAt(k + 1);
  };
  /** Puts a point on the line where the picked tone is. */
  const picked = (found: Probed) => {
    const given = found.given;
    if (!given) return;
    const tone = {
      all: given.luma,
      luma: given.luma,
      red: given.code[0],
      green: given.code[1],
      blue: given.code[2],
    }[channel];
    const px = Number(Math.min(Math.max(tone, 0), 1).toFixed(5));
    const near = points.findIndex((p) => Math.abs(p[0] - px) < APART * 4);
    if (near >= 0) {
      setAt(near);
      return;
    }
    const line = numbers(trace, channel);
    const y = line[Math.round(px * (line.length - 1))] ?? px;
    const k = points.filter((p) => p[0] < px).length;
    put([...points.slice(0, k), [px, Number(y.toFixed(5))], ...points.slice(k)], `pick ${channel}`);
    setAt(k);
  };
  const shownAs = (v: number) => Number((v * full).toFixed(4));
  const given = useRead((s) => s.read?.given);
  const density = given?.[channel === "red" ? 0 : channel === "green" ? 1 : channel === "blue" ? 2 : 3];
  const most = density ? Math.max(...density.slice(2, 254), 1) : 1;
  const ink = INK[channel];

  return (
    <>
      <Segments
        label="Channel"
        options={CHANNELS}
        chosen={channel}
        onChange={(c) => {
          setChannel(c);
          setAt(0);
        }}
        stretch
      />
      <Square style={{ marginTop: 12 }}>
        <div className="side" style={{ background: `linear-gradient(to top, #000, ${ink})` }} />
        <PointPlot
          label={`${channel} curve`}
          width={SIDE}
          height={SIDE}
          points={points}
          chosen={at}
          onChoose={setAt}
          onAdd={add}
          onRemove={discard}
          onMove={(k, to) => put(settle(points, k, to))}
          fine={[1 / 255, 1 / 255]}
          name={(k) => `Point ${k + 1} of the ${channel} curve`}
          value={(k) => shownAs(points[k]![1])}
          said={(k) => `in ${shownAs(points[k]![0])}, out ${shownAs(points[k]![1])}, ${unit}`}
        >
          <line x1={0} y1={SIDE} x2={SIDE} y2={0} stroke="var(--g4)" strokeDasharray="2 4" />
          {CHANNELS.filter(
            ([c]) => c !== channel && JSON.stringify(step[c]) !== JSON.stringify(STRAIGHT),
          ).map(([c]) => (
            <polyline
              key={c}
              points={path(x, numbers(trace, c), SIDE, SIDE)}
              fill="none"
              stroke={INK[c]}
              strokeOpacity={0.45}
            />
          ))}
          <polyline
            points={path(x, numbers(trace, channel), SIDE, SIDE)}
            fill="none"
            stroke={ink}
            strokeWidth={1.8}
          />
        </PointPlot>
        <div className="foot" style={{ background: "linear-gradient(to right, #000, #fff)" }} />
        {density ? (
          <svg className="density" viewBox="0 0 256 26" preserveAspectRatio="none" aria-hidden>
            <path
              d={`M0,0 ${density.map((n, k) => `L${k},${(Math.min(n / most, 1) * 26).toFixed(1)}`).join(" ")} L255,0Z`}
              fill="var(--g4)"
            />
          </svg>
        ) : null}
      </Square>
      <Points aria-label={`Points of the ${channel} curve`}>
        <thead>
          <tr>
            <th>point</th>
            <th>in</th>
            <th>out</th>
            <th colSpan={2}>
              <Choice
                look="bare"
                hidden
                label="Unit"
                chosen={unit}
                onChange={setUnit}
                options={(Object.keys(UNITS) as Unit[]).map((u) => ({ key: u, label: u }))}
              />
            </th>
          </tr>
        </thead>
        <tbody>
          {points.map((p, k) => (
            <tr key={k} className={k === at ? "chosen" : ""} onFocus={() => setAt(k)}>
              <td>{k + 1}</td>
              <td>
                <NumberBox
                  label={`Point ${k + 1} in, ${unit}`}
                  value={shownAs(p[0])}
                  low={0}
                  high={full}
                  fine={full / 10 ** (DIGITS[unit] ? 5 : 4)}
                  digits={DIGITS[unit]}
                  onChange={(v) => put(settle(points, k, [v / full, p[1]]))}
                />
              </td>
              <td>
                <NumberBox
                  label={`Point ${k + 1} out, ${unit}`}
                  value={shownAs(p[1])}
                  low={-full}
                  high={2 * full}
                  fine={full / 10 ** (DIGITS[unit] ? 5 : 4)}
                  digits={DIGITS[unit]}
                  onChange={(v) => put(settle(points, k, [p[0], v / full]))}
                />
              </td>
              <td />
              <td>
                <Button
                  look="icon"
                  aria-label={`Remove point ${k + 1}`}
                  isDisabled={points.length <= 2}
                  onPress={() => discard(k)}
                >
                  ✕
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </Points>
      <Level>
        <Pick step={step.id} what="Pick a tone" take={picked} />
        <Button onPress={insert}>Add point</Button>
        <Button
          onPress={() =>
            put(
              [
                [0, 0],
                [1, 1],
              ],
              `straighten ${channel}`,
            )
          }
        >
          Straighten
        </Button>
        <Button
          onPress={() =>
            put(
              points.map(([px, py]) => [px, Number((1 - py).toFixed(5))]),
              `invert ${channel}`,
            )
          }
        >
          Invert
        </Button>
        <MenuTrigger>
          <Button>Copy to ▾</Button>
          <Menued placement="top start">
            <Menu
              aria-label={`Copy the ${channel} curve to`}

              onAction={(to) =>
                change(`copy ${channel} to ${String(to)}`, (s: StepOf<"curves">) => ({
                  ...s,
                  [to as Channel]: points.map((p) => [...p]),
                }))
              }
            >
              {CHANNELS.filter(([c]) => c !== channel).map(([c, name]) => (
                <MenuItem key={c} id={c}>
                  {name}
                </MenuItem>
              ))}
            </Menu>
          </Menued>
        </MenuTrigger>
        <Choice
          look="inline"
          hidden
          label="Between points"
          chosen={step.interpolation}
          onChange={(v) => change("between points", (s: StepOf<"curves">) => ({ ...s, interpolation: v }))}
          options={[
            { key: "monotone" as const, label: "no overshoot" },
            { key: "smooth" as const, label: "smooth" },
            { key: "straight" as const, label: "straight" },
          ]}
        />
      </Level>
    </>
  );
}

const LINES = ["red", "green", "blue", "all"];

export const curves: StepView<"curves"> = {
  Editor: CurvesEditor,
  summary: (step) => {
    const set = (["all", "red", "green", "blue", "luma"] as const).filter(
      (c) => JSON.stringify(step[c]) !== "[[0,0],[1,1]]",
    );
    return set.length ? set.join(", ") : "straight";
  },
  Thumb: ({ trace, high }) =>
    LINES.map((n) => (
      <Line key={n} high={high} x={numbers(trace, "x")} y={numbers(trace, n)} dim={n !== "all"} />
    )),
};
