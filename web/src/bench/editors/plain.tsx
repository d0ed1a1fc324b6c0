/** The editor of kinds whose parameters are a few numbers: their plot, then the numbers as the core declares them. */
import styled from "styled-components";
import type { EncodingKey, Step, StepOf } from "../../api/types";
import { Amount } from "../../kit/amount";
import { Choice, Switch } from "../../kit/controls";
import { flagsOf, numbersOf } from "../parameters";
import { Pick } from "../pick";
import type { Trace } from "../../viewer/table";
import { numbers, path, strings } from "../trace";
import type { EditorProps } from "./editor";
import { RampPlot } from "./plot";

export type Plain = "exposure" | "contrast" | "saturation" | "balance" | "scene_to_display" | "encode" | "roll_off" | "monochrome";

export function PlainEditor({ step, kind, trace, encodings, change }: EditorProps<Plain>) {
  const display = step.kind === "scene_to_display";
  const offered = encodings.filter((e) => !display || e.referred === "display");
  return (
    <>
      <Drawn kind={step.kind} title={kind.title} trace={trace} />
      {step.kind === "balance" && typeof trace?.neutral === "string" ? (
        <div style={{ display: "flex", gap: 10, alignItems: "center", marginBottom: 10, color: "var(--t2)" }}>
          <span style={{ width: 44, height: 26, borderRadius: 3, background: trace.neutral }} /> what a grey becomes
          <span style={{ flex: 1 }} />
          <Pick
            step={step.id}
            what="Pick a neutral"
            take={({ neutral }) =>
              neutral &&
              change("neutral", (s: StepOf<Plain>) => ({ ...(s as StepOf<"balance">), temperature: neutral[0], tint: neutral[1] }))
            }
          />
        </div>
      ) : null}
      {step.kind === "encode" || display ? (
        <div style={{ marginBottom: 10 }}>
          <Choice
            label="To"
            options={offered.map((e) => ({ key: e.key, label: e.label }))}
            chosen={step.to}
            onChange={(to: EncodingKey) => change("to", (s: StepOf<Plain>) => ({ ...s, to }) as StepOf<Plain>)}
          />
        </div>
      ) : null}
      {numbersOf(kind).map(([name, p]) => (
        <Amount
          key={name}
          parameter={p}
          value={(step as unknown as Record<string, number>)[name] ?? p.default}
          stops={strings(trace, name).join(" ") || undefined}
          onChange={(v) => change(name, (s: StepOf<Plain>) => ({ ...(s as Step), [name]: v }) as StepOf<Plain>)}
        />
      ))}
      {flagsOf(kind).map(([name, title]) => (
        <div key={name} style={{ padding: "6px 0" }}>
          <Switch
            label={title}
            on={(step as unknown as Record<string, boolean>)[name] ?? false}
            onChange={(v) => change(name, (s: StepOf<Plain>) => ({ ...(s as Step), [name]: v }) as StepOf<Plain>)}
          />
        </div>
      ))}
      {step.kind === "encode" ? (
        <Choice
          label="White adaptation"
          options={[
            { key: "cat16" as const, label: "CAT16" },
            { key: "bradford" as const, label: "Bradford" },
          ]}
          chosen={step.adaptation}
          onChange={(adaptation) => change("adaptation", (s: StepOf<Plain>) => ({ ...s, adaptation }) as StepOf<Plain>)}
        />
      ) : null}
    </>
  );
}

/** What the step does, drawn: over the tones, over the hues, or over both. */
function Drawn({ kind, title, trace }: { kind: Plain; title: string; trace: Trace | undefined }) {
  if (kind === "saturation") return <Gain hue={numbers(trace, "hue")} gain={numbers(trace, "gain")} />;
  if (kind === "monochrome") return <Drained trace={trace} />;
  return <RampPlot trace={trace} label={`Grey ramp after ${title}`} />;
}

const Bands = styled.div`
  margin-bottom: 12px;
  div {
    display: flex;
    height: 26px;
  }
  div.tones {
    height: 14px;
    margin-top: 6px;
  }
  span {
    flex: 1;
  }
  p {
    color: var(--t2);
    font-size: 11.5px;
    margin-top: 4px;
  }
`;

function Band({ colours, label, className }: { colours: string[]; label: string; className?: string }) {
  return (
    <div role="img" aria-label={label} className={className}>
      {colours.map((c, k) => (
        <span key={k} style={{ background: c }} />
      ))}
    </div>
  );
}

/** Hues over what becomes of them, the tones below, and how much of each channel goes in. */
function Drained({ trace }: { trace: Trace | undefined }) {
  const names = ["red", "green", "blue"];
  const weights = numbers(trace, "weights")
    .map((w, k) => `${Math.round(w * 100)} % ${names[k]!}`)
    .join(", ");
  return (
    <Bands>
      <Band label="Hues before" colours={strings(trace, "before")} />
      <Band label="Hues after" colours={strings(trace, "after")} />
      <Band label="Black to white after" colours={strings(trace, "tones")} className="tones" />
      <p>grey of {weights || "…"}</p>
    </Bands>
  );
}

/** Saturation's gain around the hue circle. */
function Gain({ hue, gain }: { hue: number[]; gain: number[] }) {
  const [W, H] = [268, 90];
  if (!hue.length) return null;
  return (
    <div style={{ marginBottom: 12 }}>
      <svg
        width={W}
        height={H}
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-label="Gain of chroma over hue"
        style={{ background: "var(--g0)", borderRadius: 3, overflow: "hidden" }}
      >
        <line x1={0} x2={W} y1={H / 2} y2={H / 2} stroke="var(--g4)" strokeDasharray="2 4" />
        <polyline
          points={path(
            hue.map((h) => h / 360),
            gain.map((g) => g / 2),
            W,
            H,
          )}
          fill="none"
          stroke="#f0f0f0"
          strokeWidth={1.6}
        />
      </svg>
      <div style={{ display: "flex", justifyContent: "space-between", color: "var(--t3)", fontSize: 11.5 }}>
        <span>0° red</span>
        <span>90° yellow</span>
        <span>180° green</span>
        <span>270° blue</span>
        <span>360°</span>
      </div>
    </div>
  );
}
