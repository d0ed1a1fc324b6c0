/** Sizes and methods, and how far each table is from the look: first what an eye would see. */
import { Radio, RadioGroup } from "react-aria-components";
import styled from "styled-components";
import type { Deviation, Proof } from "../api/types";
import { bytes } from "../kit/bytes";
import { GRIDS, METHODS, type Method } from "./order";

const Table = styled(RadioGroup)`
  display: grid;
  gap: 2px;
  margin-top: 8px;
  .head,
  .row {
    display: grid;
    grid-template-columns: 20px 62px 46px 70px repeat(3, 1fr) 8px repeat(3, 1fr) 46px;
    align-items: center;
    column-gap: 4px;
    padding: 3px 8px;
    text-align: right;
  }
  .head {
    color: var(--t2);
    font-size: 12px;
    padding-bottom: 0;
  }
  .head .over {
    grid-column: span 3;
    text-align: center;
    border-bottom: 1px solid var(--line);
    padding-bottom: 2px;
  }
  .grid {
    border: 1px solid transparent;
    border-radius: var(--r);
    padding: 4px 0;
  }
  .grid.chosen {
    background: var(--g2);
  }
  .grid p {
    padding: 2px 8px 2px 30px;
    display: flex;
    gap: 10px;
    align-items: baseline;
  }
  .grid p b {
    font-weight: 600;
  }
  .grid p span {
    color: var(--t2);
    flex: 1;
  }
  .grid p .best {
    color: var(--accent);
  }
  .row {
    cursor: pointer;
    border-radius: var(--r);
    color: var(--t2);
  }
  .row .method {
    text-align: left;
  }
  .row[data-selected] {
    color: var(--t1);
    font-weight: 560;
  }
  .row[data-focus-visible] {
    outline: 2px solid var(--accent);
  }
  .row i {
    width: 12px;
    height: 12px;
    border-radius: 50%;
    border: 2px solid var(--t2);
  }
  .row[data-selected] i {
    background: var(--accent);
    border-color: var(--accent);
  }
  .much {
    color: var(--warn);
  }
  svg {
    display: block;
  }
`;

/** Tables that are measured unasked: one may be recommended once they all are. */
const MEASURED_FIRST = 5;
/** ΔE that fill the small bar, and the two limits under which nobody sees a difference. */
const FULL = 4;
const [MOST, ALL] = [0.5, 2];
const BAR = 66;
const across = (delta: number) => (Math.min(delta, FULL) / FULL) * (BAR - 6) + 3;

/** 99 % as a bar, the largest as a ring. */
function Bar({ d }: { d: Deviation }) {
  const ink = d.delta_99 < MOST && d.delta_largest < ALL ? "var(--t1)" : "var(--warn)";
  return (
    <svg width={BAR} height={12} aria-hidden>
      {[MOST, ALL].map((limit) => (
        <line key={limit} x1={across(limit)} x2={across(limit)} y1={0} y2={12} stroke="var(--g4)" />
      ))}
      <line x1={3} x2={across(d.delta_largest)} y1={6} y2={6} stroke={ink} />
      <line x1={3} x2={across(d.delta_99)} y1={6} y2={6} stroke={ink} strokeWidth={4} />
      <circle cx={across(d.delta_largest)} cy={6} r={2.5} fill="var(--g0)" stroke={ink} />
    </svg>
  );
}

function Numbers({ d }: { d: Deviation | null | undefined }) {
  if (!d) return ["mean", "99", "largest"].map((k) => <span key={k}>…</span>);
  return (
    <>
      <span>{d.delta_mean.toFixed(3)}</span>
      <span className={d.delta_99 < MOST ? "" : "much"}>{d.delta_99.toFixed(2)}</span>
      <span className={d.delta_largest < ALL ? "" : "much"}>{d.delta_largest.toFixed(2)}</span>
    </>
  );
}

export const key = (grid: number, method: Method) => `${grid} ${method}`;

/** Of the tables that are enough the smallest, sampled before fitted; where none is, the nearest. */
export function best(proofs: Proof[]): Proof | undefined {
  const bySize = [...proofs].sort((a, b) => a.grid - b.grid || b.method.localeCompare(a.method));
  return (
    bySize.find((p) => p.enough) ??
    [...proofs].sort((a, b) => a.report.cube.delta_99 - b.report.cube.delta_99)[0]
  );
}

export function Grids(props: {
  proofs: Map<string, Proof>;
  frames: number;
  grid: number;
  method: Method;
  onChoose: (grid: number, method: Method) => void;
}) {
  const { proofs, grid, method } = props;
  const found = [...proofs.values()];
  const wanted = found.length >= MEASURED_FIRST ? best(found) : undefined;
  const metric = found[0]?.report.cube.metric.split(" ")[0] ?? "ΔE2000";
  const words = (g: number): { text: string; best: boolean } => {
    if (wanted?.grid === g)
      return {
        text: wanted.enough
          ? `recommended, ${wanted.method}: nothing an eye would catch`
          : `nearest, ${wanted.method}`,
        best: true,
      };
    const [sampled, fitted] = [proofs.get(key(g, "sampled")), proofs.get(key(g, "fitted"))];
    if (wanted && g > wanted.grid) return { text: "no better to the eye, 8 times the file", best: false };
    if (sampled && !sampled.enough && fitted?.enough) return { text: "enough only fitted", best: false };
    return { text: sampled && !sampled.enough ? "an eye can see it" : "", best: false };
  };
  return (
    <section aria-label="What an eye would see first">
      <h1>
        What an eye would see first <small>{metric} between table and look</small>
      </h1>
      <Table
        aria-label="Grid and method"
        value={key(grid, method)}
        onChange={(chosen) => {
          const [g, m] = chosen.split(" ");
          props.onChoose(Number(g), m as Method);
        }}
      >
        <div className="head">
          <span />
          <span />
          <span />
          <span />
          <span className="over">{props.frames ? `on your ${props.frames} frames` : "no frames yet"}</span>
          <span />
          <span className="over">over the whole cube</span>
          <span />
        </div>
        <div className="head">
          <span />
          <span />
          <span>made in</span>
          <span />
          <span>mean</span>
          <span>99 %</span>
          <span>largest</span>
          <span />
          <span>mean</span>
          <span>99 %</span>
          <span>largest</span>
          <span title="Mean of the largest channel's error, in codes of ten bits">codes</span>
        </div>
        {GRIDS.map((g) => {
          const one = proofs.get(key(g, "sampled"));
          const said = words(g);
          return (
            <div key={g} className={g === grid ? "grid chosen" : "grid"}>
              <p>
                <b>
                  {g} × {g} × {g}
                </b>
                <span className={said.best ? "best" : ""}>{said.text}</span>
                <small>{one ? `${bytes(one.bytes)} as .cube` : ""}</small>
              </p>
              {METHODS.map((m) => {
                const proof = proofs.get(key(g, m));
                const seen = proof && (proof.report.pictures ?? proof.report.cube);
                return (
                  <Radio key={m} value={key(g, m)} className="row" aria-label={`${g}, ${m}`}>
                    <i />
                    <span className="method">{m}</span>
                    <span>
                      {proof
                        ? proof.seconds < 0.95
                          ? `${Math.round(proof.seconds * 1000)} ms`
                          : `${proof.seconds.toFixed(1)} s`
                        : ""}
                    </span>
                    <span>{seen ? <Bar d={seen} /> : null}</span>
                    {props.frames ? (
                      <Numbers d={proof?.report.pictures} />
                    ) : (
                      ["a", "b", "c"].map((k) => <span key={k}>–</span>)
                    )}
                    <span />
                    <Numbers d={proof?.report.cube} />
                    <span>{proof ? proof.report.cube.mean.toFixed(2) : "…"}</span>
                  </Radio>
                );
              })}
            </div>
          );
        })}
      </Table>
    </section>
  );
}
