/** Editors of kinds that are made of parts: one part for each channel, or a list of ranges or stops. */
import { useState, type ReactNode } from "react";
import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import type { Kind, StepOf } from "../../api/types";
import { Amount } from "../../kit/amount";
import { Button, Segments, Switch } from "../../kit/controls";
import { flagsOf, numbersOf, parameter, partNumbers } from "../parameters";
import { Pick } from "../pick";
import { strings } from "../trace";
import { Disc, type Turned } from "./disc";
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
  step: StepOf<K>;
  kind: Kind;
  change: EditorProps<K>["change"];
}) {
  const { step, kind, change } = props;
  const values = step as unknown as Record<string, number | boolean>;
  const set = (name: string, v: number | boolean) => change(name, (s) => ({ ...(s as object), [name]: v }) as StepOf<K>);
  return (
    <>
      {numbersOf(kind).map(([name, p]) => (
        <Amount key={name} parameter={p} value={values[name] as number} onChange={(v) => set(name, v)} />
      ))}
      {flagsOf(kind).map(([name, title]) => (
        <div key={name} style={{ padding: "6px 0" }}>
          <Switch label={title} on={values[name] as boolean} onChange={(v) => set(name, v)} />
        </div>
      ))}
    </>
  );
}

const SOP = [
  ["red", "Red"],
  ["green", "Green"],
  ["blue", "Blue"],
] as const;
const LGG = [
  ["master", "Master"],
  ["red", "Red"],
  ["green", "Green"],
  ["blue", "Blue"],
] as const;

/** Where red, green and blue pull on a disc: a third of the circle apart. */
const PULLS: [string, number][] = [
  ["red", 30],
  ["green", 150],
  ["blue", 270],
];
/** How far the edge of a disc reaches, for each number. */
const REACH: Record<string, number> = { slope: 0.4, offset: 0.12, power: 0.4, lift: 0.12, gamma: 0.4, gain: 0.4 };

/** The differences between the channels as a direction and an amount, and back; what they have in common is left alone. */
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
  PULLS.map(([, hue]) => Number((middle + reach * turned.amount * Math.cos(((turned.hue - hue) * Math.PI) / 180)).toFixed(4)));

/** One disc for each number: where the channels differ, and which way. */
function Discs({ step, kind, change }: Omit<EditorProps<"slope_offset_power" | "lift_gamma_gain">, "trace" | "encodings">) {
  const part = step.kind === "slope_offset_power" ? "SopRow" : "LiftRow";
  const rows = step as unknown as Record<string, Numbers>;
  // Power and gamma pull against the colour that they weaken.
  const sign = (name: string) => (name === "power" ? -1 : 1);
  return (
    <div style={{ display: "flex", justifyContent: "space-between", margin: "2px 0 12px" }}>
      {partNumbers(kind, part).map(([name, p]) => {
        const values = PULLS.map(([c]) => rows[c]?.[name] ?? p.default);
        const middle = values.reduce((a, b) => a + b, 0) / 3;
        const reach = REACH[name]! * sign(name);
        const now = asTurn(
          values.map((v) => v - middle),
          reach,
        );
        const put = (next: Turned) =>
          change(`${name} disc`, (s) => {
            const found = fromTurn(next, reach, middle).map((v) => Math.min(Math.max(v, p.minimum), p.maximum));
            const own = s as unknown as Record<string, Numbers>;
            return { ...(s as object), ...Object.fromEntries(PULLS.map(([c], k) => [c, { ...own[c], [name]: found[k]! }])) } as never;
          });
        return (
          <div key={name} style={{ textAlign: "center", color: "var(--t2)", fontSize: 12 }}>
            <Disc
              label={`${p.label}, direction and amount`}
              size={84}
              value={now}
              onChange={(v) => put({ ...now, ...v })}
              onReset={() => put({ hue: 0, amount: 0 })}
            />
            {p.label}
          </div>
        );
      })}
    </div>
  );
}

/** Slope, offset, power, and lift, gamma, gain: a plot, a disc for each, then a channel at a time. */
export function ChannelsEditor({ step, kind, trace, change }: EditorProps<"slope_offset_power" | "lift_gamma_gain">) {
  const rows = step.kind === "slope_offset_power" ? SOP : LGG;
  const [channel, setChannel] = useState<string>(rows[0][0]);
  const part = step.kind === "slope_offset_power" ? "SopRow" : "LiftRow";
  const value = (step as unknown as Record<string, Numbers>)[channel] ?? {};
  return (
    <>
      <RampPlot trace={trace} label={`Grey ramp after ${kind.title}`} />
      <Discs step={step} kind={kind} change={change} />
      <Segments label="Channel" options={rows as readonly (readonly [string, string])[]} chosen={channel} onChange={setChannel} stretch />
      <div style={{ height: 8 }} />
      <Part
        kind={kind}
        part={part}
        value={value}
        onChange={(name, v) =>
          change(
            `${channel} ${name}`,
            (s) => ({ ...(s as object), [channel]: { ...(s as unknown as Record<string, Numbers>)[channel], [name]: v } }) as never,
          )
        }
      />
      <Common step={step} kind={kind} change={change} />
    </>
  );
}

/** Chroma at the edge of a colour's disc. */
const CHROMA = 0.25;

/** A colour: its hue and chroma on a disc, then as numbers. */
function ColourFields(props: {
  kind: Kind;
  label: string;
  value: Numbers;
  swatch?: string;
  onChange: (what: string, next: Numbers) => void;
}) {
  const { value } = props;
  const put = (what: string, next: Numbers) => props.onChange(what, { ...value, ...next });
  return (
    <>
      <div style={{ display: "grid", justifyContent: "center", margin: "4px 0 8px" }}>
        <Disc
          label={props.label}
          size={140}
          swatch={props.swatch}
          value={{ hue: value.hue ?? 0, amount: (value.chroma ?? 0) / CHROMA }}
          onChange={(v) =>
            put("colour", {
              ...(v.hue === undefined ? {} : { hue: v.hue }),
              ...(v.amount === undefined ? {} : { chroma: Number((v.amount * CHROMA).toFixed(4)) }),
            })
          }
        />
      </div>
      <Part kind={props.kind} part="Colour" value={value} onChange={(name, v) => put(name, { [name]: v })} />
    </>
  );
}

/** Colour wash: the colour that is laid over. */
export function WashEditor({ step, kind, trace, change }: EditorProps<"colour_wash">) {
  return (
    <>
      <div
        style={{
          height: 64,
          borderRadius: 4,
          background: typeof trace?.colour === "string" ? trace.colour : "var(--g3)",
          marginBottom: 10,
        }}
        role="img"
        aria-label="The colour"
      />
      <ColourFields
        kind={kind}
        label="Colour of the wash"
        value={step.colour}
        swatch={typeof trace?.colour === "string" ? trace.colour : undefined}
        onChange={(what, next) => change(`colour ${what}`, (s) => ({ ...s, colour: next as never }))}
      />
    </>
  );
}

/** A list of parts: which one is chosen, a new one, one less. */
function Listed(props: {
  count: number;
  at: number;
  onAt: (k: number) => void;
  name: string;
  least: number;
  most: number;
  onAdd: () => void;
  onRemove: () => void;
  extra?: readonly [string, string];
  more?: ReactNode;
  children: ReactNode;
}) {
  const options = [
    ...Array.from({ length: props.count }, (_, k) => [String(k), `${k + 1}`] as const),
    ...(props.extra ? [props.extra] : []),
  ];
  return (
    <>
      <div style={{ display: "flex", gap: 8, alignItems: "center", margin: "12px 0 6px", flexWrap: "wrap" }}>
        <Segments
          label={props.name}
          options={options}
          chosen={props.extra && props.at < 0 ? props.extra[0] : String(props.at)}
          onChange={(k) => props.onAt(k === props.extra?.[0] ? -1 : Number(k))}
        />
        <Button look="icon" aria-label={`Add ${props.name.toLowerCase()}`} isDisabled={props.count >= props.most} onPress={props.onAdd}>
          +
        </Button>
        <Button
          look="icon"
          aria-label={`Remove ${props.name.toLowerCase()}`}
          isDisabled={props.count <= props.least || props.at < 0}
          onPress={props.onRemove}
        >
          ✕
        </Button>
        {props.more}
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
  const fresh = Object.fromEntries(
    partNumbers(kind, "HueRange").map(([n, p]) => [n, p.default]),
  ) as unknown as StepOf<"hue_ranges">["ranges"][number];
  const put = (what: string, ranges: StepOf<"hue_ranges">["ranges"]) => change(what, (s) => ({ ...s, ranges }));
  /** The range nearest to a hue is chosen; a new one is made where none is near. */
  const picked = (hue: number) => {
    const off = step.ranges.map((r) => Math.abs(((hue - (r.hue ?? 0) + 540) % 360) - 180));
    const near = off.indexOf(Math.min(...off));
    if (step.ranges.length && (off[near]! < 12 || step.ranges.length >= 12)) setAt(near);
    else {
      put("add range", [...step.ranges, { ...fresh, name: "", hue: Number(hue.toFixed(1)) }]);
      setAt(step.ranges.length);
    }
  };
  return (
    <>
      <Ring
        trace={trace}
        marks={step.ranges.map((r) => r.hue ?? 30)}
        chosen={at}
        onMove={(k, hue) => {
          setAt(k);
          put(
            `hue ${k}`,
            step.ranges.map((r, i) => (i === k ? { ...r, hue } : r)),
          );
        }}
      />
      <Listed
        name="Range"
        count={step.ranges.length}
        at={at}
        onAt={setAt}
        least={0}
        most={12}
        extra={["rest", "everything else"]}
        onAdd={() => {
          put("add range", [...step.ranges, { ...fresh, name: "", hue: ((step.ranges.at(-1)?.hue ?? 0) + 90) % 360 }]);
          setAt(step.ranges.length);
        }}
        onRemove={() => {
          put(
            "remove range",
            step.ranges.filter((_, k) => k !== at),
          );
          setAt(0);
        }}
        more={<Pick step={step.id} what="Pick a hue" take={(found) => found.given && picked(found.given.hue)} />}
      >
        {range ? (
          <Part
            kind={kind}
            part="HueRange"
            value={range as unknown as Numbers}
            onChange={(name, v) =>
              put(
                `range ${at} ${name}`,
                step.ranges.map((r, k) => (k === at ? { ...r, [name]: v } : r)),
              )
            }
          />
        ) : (
          <Part
            kind={kind}
            part="HueChange"
            value={step.rest}
            onChange={(name, v) => change(`rest ${name}`, (s) => ({ ...s, rest: { ...s.rest, [name]: v } }))}
          />
        )}
      </Listed>
    </>
  );
}

type Stop = StepOf<"tone_ramp">["stops"][number];

const Stops = styled(Slider)`
  margin-bottom: 10px;
  .track {
    height: 18px;
    touch-action: none;
    background: linear-gradient(to right, #000, #fff) top / 100% 6px no-repeat;
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
    background: #f0f0f0;
  }
  .thumb[data-focus-visible] {
    outline: 2px solid var(--accent);
  }
`;

/** Tone ramp: its stops on a ruler, then a stop at a time. */
export function ToneRampEditor({ step, kind, trace, change }: EditorProps<"tone_ramp">) {
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
      <div
        style={{
          height: 36,
          borderRadius: "4px 4px 0 0",
          background: ramp.length ? `linear-gradient(to right, ${ramp.join(",")})` : "var(--g3)",
        }}
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
      <Common step={step} kind={kind} change={change} />
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
          value={stop.colour as unknown as Numbers}
          onChange={(what, next) =>
            put(
              `stop ${at} ${what}`,
              step.stops.map((s, k): Stop => (k === at ? { ...s, colour: next as never } : s)),
            )
          }
        />
      </Listed>
    </>
  );
}
