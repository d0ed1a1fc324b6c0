/** A trait drawn over how it is spread: two thumbs narrow it to a range. */
import { useEffect, useState } from "react";
import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import type { Scale } from "../api/types";
import { rangeOf, type Filters } from "./filters";

const WIDTH = 183;
const HEIGHT = 16;

const Box = styled(Slider)`
  display: block;
  margin-bottom: 4px;
  .head {
    display: flex;
    justify-content: space-between;
    color: var(--t2);
    font-size: 12.5px;
  }
  .head output {
    font-size: 12px;
    color: var(--t2);
  }
  &.set .head,
  &.set .head output {
    color: var(--t1);
  }
  svg {
    display: block;
    width: 100%;
    height: ${HEIGHT}px;
    margin-top: 2px;
  }
  .all {
    fill: var(--g4);
  }
  .in {
    fill: var(--t2);
  }
  .track {
    height: 14px;
    position: relative;
    cursor: pointer;
    touch-action: none;
  }
  .track:before,
  .between {
    content: "";
    position: absolute;
    left: 0;
    right: 0;
    top: 2px;
    height: 1px;
    background: var(--g4);
  }
  .between {
    background: none;
  }
  &.set .between {
    background: var(--accent);
  }
  .thumb {
    width: 9px;
    height: 9px;
    border-radius: 50%;
    top: 3px;
    background: var(--g1);
    border: 1.5px solid var(--t2);
  }
  &.set .thumb {
    border-color: var(--accent);
  }
  .thumb[data-focus-visible] {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
`;

/** A value of a trait with its unit, as people read it. */
export function inWords(scale: Scale, value: number): string {
  const number = (value * scale.factor).toFixed(scale.digits).replace("-", "−");
  const signed = scale.neutral === 0 && scale.low < 0 && value > 0 ? `+${number}` : number;
  return scale.unit ? `${signed} ${scale.unit}`.replace(" °", "°") : signed;
}

function Bars(props: { all: number[]; found: number[] }) {
  const most = Math.max(1, ...props.all);
  const wide = WIDTH / props.all.length;
  // A single look is still to be seen beside hundreds.
  const high = (n: number) => (n ? Math.max(1.5, (HEIGHT * Math.sqrt(n)) / Math.sqrt(most)) : 0.6);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="none" aria-hidden>
      {props.all.map((n, k) => (
        <rect key={k} className="all" x={k * wide} width={wide - 1} y={HEIGHT - high(n)} height={high(n)} />
      ))}
      {props.found.map((n, k) =>
        n ? (
          <rect key={k} className="in" x={k * wide} width={wide - 1} y={HEIGHT - high(n)} height={high(n)} />
        ) : null,
      )}
    </svg>
  );
}

export function Spread(props: { scale: Scale; by: Filters; all: number[]; found: number[] }) {
  const { scale, by } = props;
  const [low, high] = rangeOf(by.search, scale.key);
  const kept: [number, number] = [low ?? scale.low, high ?? scale.high];
  const [shown, setShown] = useState(kept);
  useEffect(() => setShown([low ?? scale.low, high ?? scale.high]), [low, high, scale]);
  const step = (scale.high - scale.low) / 120;
  const share = (v: number) => ((v - scale.low) / (scale.high - scale.low)) * 100;
  // An end of the scale is open: what lies beyond it counts.
  const open = ([a, b]: number[]) => {
    const rounded = (v: number) => Number(v.toFixed(4));
    by.range(
      scale.key,
      a! <= scale.low + step / 2 ? null : rounded(a!),
      b! >= scale.high - step / 2 ? null : rounded(b!),
    );
  };
  const set = low !== null || high !== null;
  const words = !set
    ? "any"
    : low === null
      ? `up to ${inWords(scale, shown[1])}`
      : high === null
        ? `over ${inWords(scale, shown[0])}`
        : `${inWords(scale, shown[0])} … ${inWords(scale, shown[1])}`;
  return (
    <Box
      className={set ? "set" : ""}
      aria-label={scale.label}
      minValue={scale.low}
      maxValue={scale.high}
      step={step}
      value={shown}
      onChange={(v) => setShown(v as [number, number])}
      onChangeEnd={(v) => open(v as number[])}
    >
      <div className="head">
        <span>{scale.label}</span>
        <output>{words}</output>
      </div>
      <Bars all={props.all} found={props.found} />
      <SliderTrack className="track">
        <div
          className="between"
          style={{ left: `${share(shown[0])}%`, right: `${100 - share(shown[1])}%` }}
        />
        <SliderThumb className="thumb" index={0} aria-label={`${scale.label}, from`} />
        <SliderThumb className="thumb" index={1} aria-label={`${scale.label}, to`} />
      </SliderTrack>
    </Box>
  );
}
