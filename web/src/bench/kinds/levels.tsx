/** Levels: black, white and gamma, in and out, together and a channel each. */
import { useState } from "react";
import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import type { StepOf } from "../../api/types";
import { Amount } from "../../kit/amount";
import { Segments } from "../../kit/segments";
import { useRead } from "../../viewer/readings";
import { parameter } from "../parameters";
import type { EditorProps, StepView } from "./kind";
import { percent } from "../percent";
import { RampPlot } from "./plot";
import { Gap } from "../../kit/layout";

const CHANNELS = [
  ["all", "All"],
  ["red", "Red"],
  ["green", "Green"],
  ["blue", "Blue"],
] as const;
const NAMES = ["in_black", "in_white", "gamma", "out_black", "out_white"] as const;
const APART = 0.01;

/** Which plane of the histogram belongs to a channel. */
const PLANE = { all: 3, red: 0, green: 1, blue: 2 } as const;

const Track = styled.div`
  margin-bottom: 12px;
  color: var(--t2);
  font-size: 12px;
  svg {
    display: block;
    width: 100%;
    height: 44px;
    background: var(--g0);
    border-radius: 3px 3px 0 0;
  }
  .track {
    height: 18px;
    touch-action: none;
    background: linear-gradient(to right, var(--black), var(--white)) top / 100% 8px no-repeat;
  }
  .thumb {
    top: 10px;
    width: 11px;
    height: 15px;
    border-radius: 3px;
    border: 2px solid var(--t1);
    background: var(--g0);
    cursor: ew-resize;
  }
  .thumb.white {
    background: var(--t1);
    border-color: var(--g0);
    box-shadow: 0 0 0 1px var(--t1);
  }
  .thumb[data-focus-visible] {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
`;

/** Black and white on a ramp, under the tones of the frame where there are any. */
function Ruler(props: {
  label: string;
  low: number;
  high: number;
  counts: number[] | null;
  onLow: (v: number) => void;
  onHigh: (v: number) => void;
}) {
  const { low, high, counts } = props;
  const most = counts ? Math.max(...counts.slice(2, 254), 1) : 1;
  const [a, b] = [Math.min(Math.max(low, 0), 1), Math.min(Math.max(high, 0), 1)];
  return (
    <Track>
      {props.label}
      {counts ? (
        <svg viewBox="0 0 255 44" preserveAspectRatio="none" aria-hidden>
          <path
            d={`M0,44 ${counts.map((n, k) => `L${k},${(44 - Math.min(n / most, 1) * 42).toFixed(1)}`).join(" ")} L255,44Z`}
            fill="var(--g4)"
          />
        </svg>
      ) : null}
      <Slider
        aria-label={props.label}
        minValue={0}
        maxValue={1}
        step={0.005}
        value={a <= b ? [a, b] : [b, a]}
        onChange={(v) => {
          const [x, y] = v as [number, number];
          if (x !== Math.min(a, b)) props.onLow(x);
          if (y !== Math.max(a, b)) props.onHigh(y);
        }}
      >
        <SliderTrack className="track">
          <SliderThumb index={0} className="thumb" aria-label="Black" />
          <SliderThumb index={1} className="thumb white" aria-label="White" />
        </SliderTrack>
      </Slider>
    </Track>
  );
}

function LevelsEditor({ step, kind, trace, change }: EditorProps<"levels">) {
  const [channel, setChannel] = useState<(typeof CHANNELS)[number][0]>("all");
  const own = step[channel];
  const given = useRead((s) => s.read?.given);
  const set = (name: (typeof NAMES)[number], v: number) => {
    const next = { ...own, [name]: v };
    // Black and white in push each other rather than cross.
    if (name === "in_black") next.in_white = Math.max(next.in_white, v + APART);
    if (name === "in_white") next.in_black = Math.min(next.in_black, v - APART);
    change(`${channel} ${name}`, (s: StepOf<"levels">) => ({ ...s, [channel]: next }));
  };
  return (
    <>
      <RampPlot trace={trace} label="Grey ramp after these levels" />
      <Ruler
        label="In: what becomes black and white"
        low={own.in_black}
        high={own.in_white}
        counts={given?.[PLANE[channel]] ?? null}
        onLow={(v) => set("in_black", v)}
        onHigh={(v) => set("in_white", v)}
      />
      <Ruler
        label="Out: where black and white go"
        low={own.out_black}
        high={own.out_white}
        counts={null}
        onLow={(v) => set("out_black", v)}
        onHigh={(v) => set("out_white", v)}
      />
      <Segments label="Channel" options={CHANNELS} chosen={channel} onChange={setChannel} stretch />
      <Gap />
      {NAMES.map((name) => (
        <Amount
          key={name}
          parameter={parameter(kind, name, "LevelSet")}
          value={own[name]}
          onChange={(v) => set(name, v)}
        />
      ))}
    </>
  );
}

export const levels: StepView<"levels"> = {
  Editor: LevelsEditor,
  summary: ({ all }) => `${percent(all.in_black)} – ${percent(all.in_white)} in`,
};
