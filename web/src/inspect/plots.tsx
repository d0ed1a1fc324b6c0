/** The grey axis of each channel, and what becomes of hues and chroma at one lightness. */
import styled from "styled-components";
import type { Inspection } from "../api/types";
import { Apart, Quiet } from "../kit/layout";
import { signed } from "../kit/signed";

const Two = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 18px;
  svg {
    width: 100%;
    display: block;
    background: var(--g0);
  }
  section {
    display: grid;
    gap: 6px;
    align-content: start;
    min-width: 0;
    font-size: 12px;
  }
  .disc {
    background: none;
  }
  ${Apart} {
    flex-wrap: wrap;
    gap: 0 10px;
  }
  .ends {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 8px;
    white-space: nowrap;
  }
  .ends b {
    display: block;
    font-weight: 400;
  }
`;
const CHANNELS = [
  ["red", "var(--red)"],
  ["green", "var(--green)"],
  ["blue", "var(--blue)"],
] as const;
const SIZE = 100;
/** Chroma at the rim of the disc. */
const RIM = 0.17;

const path = (x: number[], y: number[]) =>
  x.map((v, i) => `${i ? "L" : "M"}${v * SIZE} ${SIZE - (y[i] ?? 0) * SIZE}`).join("");
const percent = (v: number | undefined) => signed((v ?? 0) * 100, 0).replace("+", "");

export function Plots({ greys, disc }: { greys: Inspection["greys"]; disc: Inspection["disc"] }) {
  const x = greys.x ?? [];
  const { arrows, turned, skin, light } = disc;
  const at = (v: number) => 50 + (v / RIM) * 48;
  return (
    <Two>
      <section aria-label="Grey axis">
        <Apart>
          <h2>Grey axis</h2>
          <Quiet>out over in</Quiet>
        </Apart>
        <svg viewBox={`0 0 ${SIZE} ${SIZE}`} role="img" aria-label="What becomes of greys, each channel">
          {[25, 50, 75].map((k) => (
            <path key={k} d={`M${k} 0V${SIZE}M0 ${k}H${SIZE}`} stroke="var(--g3)" strokeWidth="0.5" />
          ))}
          <path d={`M0 ${SIZE}L${SIZE} 0`} stroke="var(--t4)" strokeWidth="0.5" strokeDasharray="1.5 2" />
          {CHANNELS.map(([name, colour]) => (
            <path key={name} d={path(x, greys[name] ?? [])} stroke={colour} strokeWidth="1.1" fill="none" />
          ))}
        </svg>
        <div className="ends">
          {CHANNELS.map(([name, colour]) => (
            <span key={name}>
              <b style={{ color: colour }}>{name}</b>
              {percent(greys[name]?.[0])} to {percent(greys[name]?.at(-1))} %
            </span>
          ))}
        </div>
      </section>
      <section aria-label="Hue and chroma">
        <Apart>
          <h2>Hue and chroma</h2>
          <Quiet>at lightness {percent(light)} %</Quiet>
        </Apart>
        <svg className="disc" viewBox="0 0 100 100" role="img" aria-label="Where hues go at this lightness">
          <circle cx="50" cy="50" r="48.5" fill="var(--g0)" stroke="var(--g4)" strokeWidth="0.6" />
          <path d="M50 2V98M2 50H98" stroke="var(--g3)" strokeWidth="0.5" />
          {arrows.map(([a, b, c, d, colour]) => (
            <g key={`${a} ${b}`}>
              <path d={`M${at(a)} ${at(-b)}L${at(c)} ${at(-d)}`} stroke={colour} strokeWidth="0.8" />
              <circle cx={at(c)} cy={at(-d)} r="1.1" fill={colour} />
            </g>
          ))}
        </svg>
        <Apart>
          <span>
            most turned: {turned[0]} {signed(turned[1], 0)}°
          </span>
          <span>skin {signed(skin, 0)}°</span>
        </Apart>
      </section>
    </Two>
  );
}
