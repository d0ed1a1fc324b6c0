/** What is in the table, and what stays out of it. */
import type { ReactNode } from "react";
import styled from "styled-components";
import { useEncodingLabel, useFrames, useKinds } from "../api/queries";
import type { Look, Step } from "../api/types";
import { summary } from "../bench/kinds/registry";
import { percent } from "../bench/percent";
import { titleOf } from "../bench/words";
import { trimWords } from "../kit/trim";

const Column = styled.aside`
  width: 236px;
  flex: none;
  background: var(--g1);
  border-right: 1px solid var(--line);
  overflow: auto;
  padding: 14px;
  header {
    display: flex;
    justify-content: space-between;
    margin-bottom: 10px;
  }
  header span {
    color: var(--accent);
    font-size: 12px;
  }
  .end {
    color: var(--t2);
    padding: 6px 0 6px 20px;
  }
  .end b {
    color: var(--t1);
    font-weight: 560;
  }
  ol {
    list-style: none;
    padding: 0;
    border-left: 2px solid var(--accent);
  }
  ol ol {
    border: 1px solid var(--g4);
    border-radius: 5px;
    margin: 4px 0 2px;
  }
  li {
    padding: 5px 0 5px 18px;
  }
  ol ol li {
    padding-left: 10px;
  }
  b {
    font-weight: 560;
  }
  li b {
    display: block;
  }
  small {
    color: var(--t2);
    font-size: 12px;
  }
  .off b {
    color: var(--t2);
  }
  .stays {
    border-top: 1px dashed var(--g4);
    margin-top: 16px;
    padding-top: 14px;
  }
  .stays header span {
    color: var(--t2);
  }
  .stays ul {
    list-style: none;
    padding: 0;
  }
  .stays li {
    padding: 5px 0;
  }
`;

export function Inside({ look, strength }: { look: Look; strength: number }) {
  const { data: kinds = [] } = useKinds();
  const { data: frames = [] } = useFrames();
  const label = useEncodingLabel();
  const off: { step: Step; number: number }[] = [];
  let count = 0;
  const rows = (steps: Step[]): ReactNode =>
    steps.map((step) => {
      const number = step.kind === "group" ? 0 : (count += 1);
      if (!step.on) {
        off.push({ step, number });
        return null;
      }
      return (
        <li key={step.id}>
          <b>{titleOf(step, kinds)}</b>
          <small>
            {summary(step, label)}
            {step.strength < 1 ? ` · ${Math.round(step.strength * 100)} %` : ""}
          </small>
          {step.kind === "group" ? <ol>{rows(step.steps)}</ol> : null}
        </li>
      );
    });
  const inside = rows(look.steps);
  const effects = Object.entries(look.finish ?? {}).filter(
    ([, effect]) => "amount" in effect && effect.amount !== 0,
  );
  const trimmed = frames.filter((f) => trimWords(f.trim) !== "none").length;
  return (
    <Column aria-label="What is in the table">
      <header>
        <h2>Order</h2>
        <span>in the table</span>
      </header>
      <p className="end">
        comes in as <b>{label(look.input)}</b>
      </p>
      <ol>{inside}</ol>
      <p className="end">
        goes out as <b>{label(look.output)}</b>
      </p>
      {strength < 1 ? (
        <p className="end">
          strength of the look <b>{percent(strength)}</b>
        </p>
      ) : null}
      <div className="stays">
        <header>
          <h2>Stays out</h2>
        </header>
        <ul>
          {effects.map(([name]) => (
            <li key={name}>
              <b>{name.replaceAll("_", " ").replace(/^./, (c) => c.toUpperCase())}</b>{" "}
              <small>of the finish: stills show it, no table holds it</small>
            </li>
          ))}
          {trimmed ? (
            <li>
              <b>Trims of {trimmed} frames</b> <small>they belong to the frames</small>
            </li>
          ) : null}
          {off.map(({ step, number }) => (
            <li key={step.id} className="off">
              <b>{titleOf(step, kinds)}</b>{" "}
              <small>{number ? `step ${number} is` : "a group that is"} switched off</small>
            </li>
          ))}
          {effects.length + trimmed + off.length ? null : <li>Nothing: the table holds the whole look.</li>}
        </ul>
      </div>
    </Column>
  );
}
