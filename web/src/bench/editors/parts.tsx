/** Editors of kinds that are made of parts: one part for each channel, or a list of ranges or stops. */
import { useState, type ReactNode } from "react";
import type { Kind, Parameter, StepOf } from "../../api/types";
import { Amount } from "../../kit/amount";
import { Button, Segments, Switch } from "../../kit/controls";
import { flagsOf, numbersOf, parameter, partNumbers } from "../parameters";
import type { EditorProps } from "./editor";
import { RampPlot } from "./plot";
import { Ring } from "./ring";

type Numbers = Record<string, number>;

function Part(props: { kind: Kind; part: string; value: Numbers; onChange: (name: string, v: number) => void }) {
  return (
    <>
      {partNumbers(props.kind, props.part).map(([name, p]) => (
        <Amount key={name} parameter={p} value={props.value[name] ?? p.default} onChange={(v) => props.onChange(name, v)} />
      ))}
    </>
  );
}

/** The numbers and switches that belong to the whole step. */
export function Common<K extends "slope_offset_power" | "lift_gamma_gain" | "tone_ramp" | "roll_off" | "monochrome">(props: {
  step: StepOf<K>; kind: Kind; change: EditorProps<K>["change"];
}) {
  const { step, kind, change } = props;
  const values = step as unknown as Record<string, number | boolean>;
  const set = (name: string, v: number | boolean) => change(name, (s) => ({ ...(s as object), [name]: v }) as StepOf<K>);
  return (
    <>
      {numbersOf(kind).map(([name, p]) => <Amount key={name} parameter={p} value={values[name] as number} onChange={(v) => set(name, v)} />)}
      {flagsOf(kind).map(([name, title]) => <div key={name} style={{ padding: "6px 0" }}><Switch label={title} on={values[name] as boolean} onChange={(v) => set(name, v)} /></div>)}
    </>
  );
}

const SOP = [["red", "Red"], ["green", "Green"], ["blue", "Blue"]] as const;
const LGG = [["master", "Master"], ["red", "Red"], ["green", "Green"], ["blue", "Blue"]] as const;

/** Slope, offset, power, and lift, gamma, gain: a plot, then a channel at a time. */
export function ChannelsEditor({ step, kind, trace, change }: EditorProps<"slope_offset_power" | "lift_gamma_gain">) {
  const rows = step.kind === "slope_offset_power" ? SOP : LGG;
  const [channel, setChannel] = useState<string>(rows[0][0]);
  const part = step.kind === "slope_offset_power" ? "SopRow" : "LiftRow";
  const value = (step as unknown as Record<string, Numbers>)[channel] ?? {};
  return (
    <>
      <RampPlot trace={trace} label={`Grey ramp after ${kind.title}`} />
      <Segments label="Channel" options={rows as readonly (readonly [string, string])[]} chosen={channel} onChange={setChannel} stretch />
      <div style={{ height: 8 }} />
      <Part
        kind={kind} part={part} value={value}
        onChange={(name, v) => change(`${channel} ${name}`, (s) => ({ ...(s as object), [channel]: { ...(s as unknown as Record<string, Numbers>)[channel], [name]: v } }) as never)}
      />
      <Common step={step} kind={kind} change={change as never} />
    </>
  );
}

/** Colour wash: the colour that is laid over. */
export function WashEditor({ step, kind, trace, change }: EditorProps<"colour_wash">) {
  return (
    <>
      <div style={{ height: 64, borderRadius: 4, background: typeof trace?.colour === "string" ? trace.colour : "var(--g3)", marginBottom: 10 }} role="img" aria-label="The colour" />
      <Part
        kind={kind} part="Colour" value={step.colour as unknown as Numbers}
        onChange={(name, v) => change(`colour ${name}`, (s) => ({ ...s, colour: { ...s.colour, [name]: v } }))}
      />
    </>
  );
}

/** A list of parts: which one is chosen, a new one, one less. */
function Listed(props: { count: number; at: number; onAt: (k: number) => void; name: string; least: number; most: number; onAdd: () => void; onRemove: () => void; extra?: readonly [string, string]; children: ReactNode }) {
  const options = [...Array.from({ length: props.count }, (_, k) => [String(k), `${k + 1}`] as const), ...(props.extra ? [props.extra] : [])];
  return (
    <>
      <div style={{ display: "flex", gap: 8, alignItems: "center", margin: "12px 0 6px", flexWrap: "wrap" }}>
        <Segments label={props.name} options={options} chosen={props.extra && props.at < 0 ? props.extra[0] : String(props.at)} onChange={(k) => props.onAt(k === props.extra?.[0] ? -1 : Number(k))} />
        <Button look="icon" aria-label={`Add ${props.name.toLowerCase()}`} isDisabled={props.count >= props.most} onPress={props.onAdd}>+</Button>
        <Button look="icon" aria-label={`Remove ${props.name.toLowerCase()}`} isDisabled={props.count <= props.least || props.at < 0} onPress={props.onRemove}>✕</Button>
      </div>
      {props.children}
    </>
  );
}

/** Hue ranges: the ring before and after, then a range at a time. */
export function HueRangesEditor({ step, kind, trace, change }: EditorProps<"hue_ranges">) {
  const [chosen, setAt] = useState(0);
  const at = chosen < step.ranges.length ? chosen : -1;
  const range = at >= 0 ? step.ranges[at] : undefined;
  const fresh = Object.fromEntries(partNumbers(kind, "HueRange").map(([n, p]) => [n, p.default])) as unknown as StepOf<"hue_ranges">["ranges"][number];
  const put = (what: string, ranges: StepOf<"hue_ranges">["ranges"]) => change(what, (s) => ({ ...s, ranges }));
  return (
    <>
      <Ring trace={trace} marks={step.ranges.map((r) => r.hue ?? 30)} chosen={at} onMove={(k, hue) => { setAt(k); put(`hue ${k}`, step.ranges.map((r, i) => (i === k ? { ...r, hue } : r))); }} />
      <Listed
        name="Range" count={step.ranges.length} at={at} onAt={setAt} least={0} most={12} extra={["rest", "everything else"]}
        onAdd={() => { put("add range", [...step.ranges, { ...fresh, name: "", hue: ((step.ranges.at(-1)?.hue ?? 0) + 90) % 360 }]); setAt(step.ranges.length); }}
        onRemove={() => { put("remove range", step.ranges.filter((_, k) => k !== at)); setAt(0); }}
      >
        {range ? (
          <Part kind={kind} part="HueRange" value={range as unknown as Numbers} onChange={(name, v) => put(`range ${at} ${name}`, step.ranges.map((r, k) => (k === at ? { ...r, [name]: v } : r)))} />
        ) : (
          <Part kind={kind} part="HueChange" value={step.rest as unknown as Numbers} onChange={(name, v) => change(`rest ${name}`, (s) => ({ ...s, rest: { ...s.rest, [name]: v } }))} />
        )}
      </Listed>
    </>
  );
}

type Stop = StepOf<"tone_ramp">["stops"][number];

/** Tone ramp: its stops on a ruler, then a stop at a time. */
export function ToneRampEditor({ step, kind, trace, change }: EditorProps<"tone_ramp">) {
  const [chosen, setAt] = useState(0);
  const at = Math.min(chosen, step.stops.length - 1);
  const stop = step.stops[at]!;
  const ramp = Array.isArray(trace?.ramp) ? (trace.ramp as string[]) : [];
  const put = (what: string, stops: StepOf<"tone_ramp">["stops"]) => change(what, (s) => ({ ...s, stops }));
  const move = (v: number) => {
    const low = (step.stops[at - 1]?.at ?? -0.01) + 0.01;
    const high = (step.stops[at + 1]?.at ?? 1.01) - 0.01;
    put(`stop ${at} tone`, step.stops.map((s, k) => (k === at ? { ...s, at: Math.min(Math.max(v, low), high) } : s)));
  };
  const between = () => {
    const next = step.stops[at + 1] ?? step.stops[at - 1]!;
    const tone = ((stop.at ?? 0) + (next.at ?? 1)) / 2;
    const added: Stop = { ...stop, at: tone };
    put("add stop", [...step.stops, added].sort((a, b) => (a.at ?? 0) - (b.at ?? 0)));
  };
  return (
    <>
      <div style={{ height: 36, borderRadius: 4, background: ramp.length ? `linear-gradient(to right, ${ramp.join(",")})` : "var(--g3)" }} role="img" aria-label="The ramp from black to white" />
      <Common step={step} kind={kind} change={change} />
      <Listed name="Stop" count={step.stops.length} at={at} onAt={setAt} least={2} most={12} onAdd={between} onRemove={() => put("remove stop", step.stops.filter((_, k) => k !== at))}>
        <Amount parameter={parameter(kind, "at", "Stop") as Parameter} value={stop.at ?? 0} onChange={move} />
        <Part
          kind={kind} part="Colour" value={stop.colour as unknown as Numbers}
          onChange={(name, v) => put(`stop ${at} ${name}`, step.stops.map((s, k): Stop => (k === at ? { ...s, colour: { ...s.colour!, [name]: v } } : s)))}
        />
      </Listed>
    </>
  );
}
