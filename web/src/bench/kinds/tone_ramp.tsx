/** Tone ramp: its stops on a ruler, then a stop at a time. */
import { useState } from "react";
import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import type { StepOf } from "../../api/types";
import { Amount } from "../../kit/amount";
import { parameter } from "../parameters";
import { percent } from "../percent";
import { strings } from "../trace";
import { ColourFields } from "./colourfields";
import type { EditorProps, StepView } from "./kind";
import { Listed } from "./listed";
import { Whole } from "./numbers";
import { Band } from "./thumbs";

type Stop = StepOf<"tone_ramp">["stops"][number];

const Ramp = styled.div`
  height: 36px;
  border-radius: 4px 4px 0 0;
  background: var(--g3);
`;
const Stops = styled(Slider)`
  margin-bottom: 10px;
  .track {
    height: 18px;
    touch-action: none;
    background: linear-gradient(to right, var(--black), var(--white)) top / 100% 6px no-repeat;
  }
  .thumb {
    top: 9px;
    width: 10px;
    height: 14px;
    border-radius: 3px;
    background: var(--t3);
    border: 2px solid var(--g0);
    cursor: ew-resize;
  }
  .thumb.chosen {
    background: var(--t1);
  }
  .thumb[data-focus-visible] {
    outline: 2px solid var(--accent);
  }
`;

function ToneRampEditor({ step, kind, trace, change }: EditorProps<"tone_ramp">) {
  const [chosen, setAt] = useState(0);
  const at = Math.min(chosen, step.stops.length - 1);
  const stop = step.stops[at]!;
  const ramp = strings(trace, "ramp");
  const put = (what: string, stops: StepOf<"tone_ramp">["stops"]) => change(what, (s) => ({ ...s, stops }));
  const move = (v: number) => {
    const low = (step.stops[at - 1]?.at ?? -0.01) + 0.01;
    const high = (step.stops[at + 1]?.at ?? 1.01) - 0.01;
    put(
      `stop ${at} tone`,
      step.stops.map((s, k) => (k === at ? { ...s, at: Math.min(Math.max(v, low), high) } : s)),
    );
  };
  const between = () => {
    const next = step.stops[at + 1] ?? step.stops[at - 1]!;
    const tone = ((stop.at ?? 0) + (next.at ?? 1)) / 2;
    const added: Stop = { ...stop, at: tone };
    put(
      "add stop",
      [...step.stops, added].sort((a, b) => (a.at ?? 0) - (b.at ?? 0)),
    );
  };
  return (
    <>
      <Ramp
        style={ramp.length ? { background: `linear-gradient(to right, ${ramp.join(",")})` } : undefined}
        role="img"
        aria-label="The ramp from black to white"
      />
      <Stops
        aria-label="Tones of the stops"
        minValue={0}
        maxValue={1}
        step={0.005}
        value={step.stops.map((s) => s.at ?? 0)}
        onChange={(v) => {
          const k = (v as number[]).findIndex((tone, i) => tone !== step.stops[i]!.at);
          if (k < 0) return;
          setAt(k);
          put(
            `stop ${k} tone`,
            step.stops.map((s, i) => (i === k ? { ...s, at: (v as number[])[k]! } : s)),
          );
        }}
      >
        <SliderTrack className="track">
          {step.stops.map((_, k) => (
            <SliderThumb
              key={k}
              index={k}
              className={k === at ? "thumb chosen" : "thumb"}
              aria-label={`Stop ${k + 1}`}
              onFocus={() => setAt(k)}
            />
          ))}
        </SliderTrack>
      </Stops>
      <Whole<"tone_ramp"> step={step} kind={kind} trace={trace} change={change} />
      <Listed
        name="Stop"
        count={step.stops.length}
        at={at}
        onAt={setAt}
        least={2}
        most={12}
        onAdd={between}
        onRemove={() =>
          put(
            "remove stop",
            step.stops.filter((_, k) => k !== at),
          )
        }
      >
        <Amount parameter={parameter(kind, "at", "Stop")} value={stop.at ?? 0} onChange={move} />
        <ColourFields
          kind={kind}
          label={`Colour of stop ${at + 1}`}
          value={stop.colour}
          onChange={(what, next) =>
            put(
              `stop ${at} ${what}`,
              step.stops.map((s, k): Stop => (k === at ? { ...s, colour: next } : s)),
            )
          }
        />
      </Listed>
    </>
  );
}

export const tone_ramp: StepView<"tone_ramp"> = {
  Editor: ToneRampEditor,
  summary: (step) => `${step.stops.length} stops, ${percent(step.amount)}`,
  Thumb: ({ trace, high }) => <Band colours={strings(trace, "ramp")} top={3} high={high - 6} />,
};
