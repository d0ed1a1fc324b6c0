/** Levels: black, white and gamma, in and out, together and a channel each. */
import { useState } from "react";
import type { StepOf } from "../../api/types";
import { Amount } from "../../kit/amount";
import { Segments } from "../../kit/controls";
import { parameter } from "../parameters";
import type { EditorProps } from "./editor";
import { RampPlot } from "./plot";

const CHANNELS = [["all", "All"], ["red", "Red"], ["green", "Green"], ["blue", "Blue"]] as const;
const NAMES = ["in_black", "in_white", "gamma", "out_black", "out_white"] as const;
const APART = 0.01;

export function LevelsEditor({ step, kind, trace, change }: EditorProps<"levels">) {
  const [channel, setChannel] = useState<(typeof CHANNELS)[number][0]>("all");
  const own = step[channel];
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
      <Segments label="Channel" options={CHANNELS} chosen={channel} onChange={setChannel} stretch />
      <div style={{ height: 8 }} />
      {NAMES.map((name) => (
        <Amount key={name} parameter={parameter(kind, name, "LevelSet")} value={own[name]} onChange={(v) => set(name, v)} />
      ))}
    </>
  );
}
