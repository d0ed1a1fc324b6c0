/** Zone tint: the tone ruler with three hills and two crossovers, and a disc for the chosen zone. */
import { useState } from "react";
import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import type { StepOf } from "../../api/types";
import { Amount } from "../../kit/amount";
import { Segments } from "../../kit/segments";
import { parameter } from "../parameters";
import { numbers, path } from "../trace";
import { Disc } from "./disc";
import type { EditorProps, StepView } from "./kind";
import type { Trace } from "../../viewer/table";
import { WIDE } from "./thumbs";
import { Centred, Gap } from "../../kit/layout";

const ZONES = [
  ["shadows", "Shadows"],
  ["midtones", "Midtones"],
  ["highlights", "Highlights"],
  ["overall", "Overall"],
] as const;
type Zone = (typeof ZONES)[number][0];
const W = 268;
const H = 64;
const DISC = 168;

const Ruler = styled.div`
  position: relative;
  width: ${W}px;
  margin-bottom: 14px;
  svg {
    display: block;
    background: var(--g0);
    border-radius: 3px 3px 0 0;
  }
  .ramp {
    height: 8px;
    background: linear-gradient(to right, var(--black), var(--white));
  }
  .crossovers {
    position: absolute;
    inset: 0;
  }
  .crossovers .track {
    position: absolute;
    inset: 0;
    touch-action: none;
  }
  .thumb {
    top: ${H + 5}px;
    width: 12px;
    height: 16px;
    background: var(--t1);
    border: 2px solid var(--g0);
    border-radius: 3px;
    cursor: ew-resize;
  }
  .thumb:before {
    content: "";
    position: absolute;
    left: 3.5px;
    bottom: 14px;
    width: 1px;
    height: ${H - 2}px;
    background: var(--glow);
  }
  .thumb[data-focus-visible] {
    outline: 2px solid var(--accent);
  }
`;

function ZoneTintEditor({ step, kind, trace, change }: EditorProps<"zone_tint">) {
  const [zone, setZone] = useState<Zone>("shadows");
  const lightness = numbers(trace, "lightness");
  const swatches = (trace?.swatches ?? {}) as Partial<Record<Zone, string>>;
  const tone = step[zone];
  const set = (what: string, change_: Partial<typeof tone>) =>
    change(`${zone} ${what}`, (s: StepOf<"zone_tint">) => ({ ...s, [zone]: { ...s[zone], ...change_ } }));
  const [lower, upper] = [parameter(kind, "low_crossover"), parameter(kind, "high_crossover")];
  const ends = { low: lower, high: upper, least: lower.minimum, most: upper.maximum, fine: lower.fine };
  const [low, high] = [
    Math.min(step.low_crossover, step.high_crossover),
    Math.max(step.low_crossover, step.high_crossover),
  ];

  return (
    <>
      <Ruler>
        <svg width={W} height={H} viewBox={`0 0 ${W} ${H}`} aria-hidden>
          {(["shadows", "midtones", "highlights"] as const).map((name) => {
            const line = path(
              lightness,
              numbers(trace, name).map((v) => v * 0.9),
              W,
              H,
            );
            return (
              <g key={name}>
                <polygon
                  points={`0,${H} ${line} ${W},${H}`}
                  fill={swatches[name] ?? "var(--t4)"}
                  fillOpacity={name === zone ? 0.75 : 0.35}
                />
                <polyline
                  points={line}
                  fill="none"
                  stroke={name === zone ? "var(--white)" : "var(--t3)"}
                  strokeWidth={name === zone ? 1.4 : 0.8}
                />
              </g>
            );
          })}
        </svg>
        <div className="ramp" />
        <Slider
          className="crossovers"
          aria-label="Crossovers, OKLab lightness"
          minValue={ends.least}
          maxValue={ends.most}
          step={ends.fine}
          value={[low, high]}
          onChange={(v) => {
            const [a, b] = v;
            change("crossovers", (s: StepOf<"zone_tint">) => ({
              ...s,
              low_crossover: Math.min(a ?? low, ends.low.maximum),
              high_crossover: Math.max(b ?? high, ends.high.minimum),
            }));
          }}
        >
          <SliderTrack
            className="track"
            style={{ left: `${ends.least * W}px`, right: `${(1 - ends.most) * W}px` }}
          >
            <SliderThumb index={0} className="thumb" aria-label="Shadows to midtones" />
            <SliderThumb index={1} className="thumb" aria-label="Midtones to highlights" />
          </SliderTrack>
        </Slider>
      </Ruler>
      <Amount
        parameter={parameter(kind, "overlap")}
        value={step.overlap}
        onChange={(v) => change("overlap", (s) => ({ ...s, overlap: v }))}
      />
      <Gap />
      <Segments label="Zone" options={ZONES} chosen={zone} onChange={setZone} stretch />
      <Centred>
        <Disc
          label={`Tint of the ${zone}`}
          size={DISC}
          value={{ hue: tone.hue, amount: tone.amount }}
          swatch={swatches[zone]}
          onChange={(v) => set("tint", v)}
          onReset={() => set("tint", { amount: 0 })}
        />
      </Centred>
      {(["hue", "amount", "lightness", "saturation"] as const).map((name) => (
        <Amount
          key={name}
          parameter={parameter(kind, name, "ZoneTone")}
          value={tone[name]}
          onChange={(v) => set(name, { [name]: v })}
        />
      ))}
    </>
  );
}

/** The three hills in the colours of their tints, and the overall tint under them. */
function HillsThumb({ trace, high }: { trace: Trace | undefined; high: number }) {
  const lightness = numbers(trace, "lightness");
  const swatches = (trace?.swatches ?? {}) as Record<string, string>;
  return (
    <>
      <rect x={0} width={WIDE} y={high - 3} height={3} fill={swatches.overall ?? "none"} />
      {["shadows", "midtones", "highlights"].map((n) => (
        <polygon
          key={n}
          points={`0,${high - 4} ${path(lightness, numbers(trace, n), WIDE, high - 4)} ${WIDE},${high - 4}`}
          fill={swatches[n] ?? "none"}
          fillOpacity={0.75}
        />
      ))}
    </>
  );
}

export const zone_tint: StepView<"zone_tint"> = {
  Editor: ZoneTintEditor,
  summary: (step) => {
    const set = (["shadows", "midtones", "highlights", "overall"] as const).filter((z) => step[z].amount > 0);
    return set.length ? set.join(", ") : "no tint";
  },
  Thumb: HillsThumb,
};
