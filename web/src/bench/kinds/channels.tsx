/** Slope, offset, power, and lift, gamma, gain: a plot, a disc for each, then a channel at a time. */
import { useState } from "react";
import type { StepOf } from "../../api/types";
import { Segments } from "../../kit/segments";
import { partNumbers } from "../parameters";
import { Disc, type Turned } from "./disc";
import type { EditorProps } from "./kind";
import { Part, Whole, withPart, type Numbers } from "./numbers";
import { RampPlot } from "./plot";
import { Apart, Gap } from "../../kit/layout";
import styled from "styled-components";

/** A disc with its name below it. */
const Named = styled.div`
  text-align: center;
  color: var(--t2);
  font-size: 12px;
`;

type Channelled = "slope_offset_power" | "lift_gamma_gain";
/** What a row of the step is called in its schema, and which rows there are. */
interface Rows {
  part: string;
  rows: readonly (readonly [string, string])[];
}

/** Where red, green and blue pull on a disc: a third of the circle apart. */
const PULLS: [string, number][] = [
  ["red", 30],
  ["green", 150],
  ["blue", 270],
];
/** How far the edge of a disc reaches, for each number. */
const REACH: Record<string, number> = {
  slope: 0.4,
  offset: 0.12,
  power: 0.4,
  lift: 0.12,
  gamma: 0.4,
  gain: 0.4,
};

/**
 * The differences between the channels as a direction and an amount, and back; what they have in common is
 * left alone.
 */
function asTurn(values: number[], reach: number): Turned {
  const [x, y] = PULLS.reduce(
    ([a, b], [, hue], k) => [
      a + (values[k]! / reach) * Math.cos((hue * Math.PI) / 180),
      b + (values[k]! / reach) * Math.sin((hue * Math.PI) / 180),
    ],
    [0, 0],
  );
  const [px, py] = [(x * 2) / 3, (y * 2) / 3];
  return { hue: ((Math.atan2(py, px) * 180) / Math.PI + 360) % 360, amount: Math.min(Math.hypot(px, py), 1) };
}
const fromTurn = (turned: Turned, reach: number, middle: number) =>
  PULLS.map(([, hue]) =>
    Number((middle + reach * turned.amount * Math.cos(((turned.hue - hue) * Math.PI) / 180)).toFixed(4)),
  );

/** One disc for each number: where the channels differ, and which way. */
function Discs<K extends Channelled>({
  step,
  kind,
  change,
  part,
}: Omit<EditorProps<K>, "trace" | "encodings"> & { part: string }) {
  const rows = step as unknown as Record<string, Numbers>;
  // Power and gamma pull against the colour that they weaken.
  const sign = (name: string) => (name === "power" ? -1 : 1);
  return (
    <Apart>
      {partNumbers(kind, part).map(([name, p]) => {
        const values = PULLS.map(([c]) => rows[c]?.[name] ?? p.default);
        const middle = values.reduce((a, b) => a + b, 0) / 3;
        const reach = REACH[name]! * sign(name);
        const apart = values.map((v) => v - middle);
        const now = asTurn(apart, reach);
        const put = (next: Turned) => {
          const found = fromTurn(next, reach, middle).map((v) => Math.min(Math.max(v, p.minimum), p.maximum));
          change(`${name} disc`, (s: StepOf<K>) =>
            PULLS.reduce((made, [c], k) => withPart(made, c, name, found[k]!), s),
          );
        };
        return (
          <Named key={name}>
            <Disc
              label={`${p.label}, direction and amount`}
              size={84}
              value={now}
              onChange={(v) => put({ ...now, ...v })}
              onReset={() => put({ hue: 0, amount: 0 })}
            />
            {p.label}
          </Named>
        );
      })}
    </Apart>
  );
}

export function ChannelsEditor<K extends Channelled>(props: EditorProps<K> & Rows) {
  const { step, kind, trace, change, part, rows } = props;
  const [channel, setChannel] = useState(rows[0]![0]);
  const value = (step as unknown as Record<string, Numbers>)[channel] ?? {};
  return (
    <>
      <RampPlot trace={trace} label={`Grey ramp after ${kind.title}`} />
      <Discs<K> step={step} kind={kind} change={change} part={part} />
      <Segments label="Channel" options={rows} chosen={channel} onChange={setChannel} stretch />
      <Gap />
      <Part
        kind={kind}
        part={part}
        value={value}
        onChange={(name, v) => change(`${channel} ${name}`, (s) => withPart(s, channel, name, v))}
      />
      <Whole<K> step={step} kind={kind} trace={trace} change={change} />
    </>
  );
}
