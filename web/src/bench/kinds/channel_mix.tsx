/** Channel mix: where each output comes from, as bars and numbers. */
import styled from "styled-components";
import type { StepOf } from "../../api/types";
import { Amount } from "../../kit/amount";
import { Switch } from "../../kit/switch";
import { parameter } from "../parameters";
import type { EditorProps, StepView } from "./kind";
import type { Trace } from "../../viewer/table";
import { Gap } from "../../kit/layout";

const ROWS = ["red", "green", "blue"] as const;
const PARTS = { red: "RedMix", green: "GreenMix", blue: "BlueMix" } as const;
const INK = { red: "var(--red)", green: "var(--green)", blue: "var(--blue)" } as const;

const Section = styled.section`
  padding: 10px 0 4px;
  border-top: 1px solid var(--line);
  h3 {
    font-size: 13px;
    font-weight: 600;
    display: flex;
    justify-content: space-between;
  }
  h3 span {
    font-weight: 400;
    color: var(--t2);
    font-size: 12px;
  }
  .bars {
    position: relative;
    height: 12px;
    background: var(--g0);
    margin: 6px 0;
    border-radius: 2px;
    overflow: hidden;
  }
  .bars i {
    position: absolute;
    top: 0;
    bottom: 0;
  }
  .bars u {
    position: absolute;
    top: 0;
    bottom: 0;
    left: 33.33%;
    width: 1px;
    background: var(--g4);
  }
  .own {
    display: flex;
    justify-content: space-between;
    color: var(--t2);
    padding: 3px 0 6px;
  }
`;

/**
 * What a row is made of, laid end to end: what is added to the right of the mark, what is taken away to its
 * left.
 */
function Bars({ row }: { row: number[] }) {
  let plus = 33.33;
  let minus = 33.33;
  return (
    <div className="bars" aria-hidden>
      {row.map((v, c) => {
        const width = Math.abs(v) * 33.33;
        const left = v >= 0 ? plus : minus - width;
        if (v >= 0) plus += width;
        else minus -= width;
        return <i key={c} style={{ left: `${left}%`, width: `${width}%`, background: INK[ROWS[c]!] }} />;
      })}
      <u />
    </div>
  );
}

function ChannelMixEditor({ step, kind, trace, change }: EditorProps<"channel_mix">) {
  const matrix = (trace?.matrix ?? []) as number[][];
  return (
    <>
      <Switch
        label="Keep white: each row adds up to 100 %"
        on={step.keep_white}
        onChange={(keep_white) => change("keep white", (s) => ({ ...s, keep_white }))}
      />
      <Gap />
      {ROWS.map((row, r) => {
        const made = matrix[r] ?? [];
        const sum = made.reduce((a, b) => a + b, 0);
        return (
          <Section key={row} aria-label={`New ${row}`}>
            <h3>
              New {row} <span>sum {Math.round(sum * 100)} %</span>
            </h3>
            <Bars row={made} />
            {ROWS.map((from, c) =>
              step.keep_white && from === row ? (
                <div className="own" key={from}>
                  <span>from {from}, the rest</span>
                  <span>{Math.round((made[c] ?? 0) * 100)} %</span>
                </div>
              ) : (
                <Amount
                  key={from}
                  parameter={parameter(kind, from, PARTS[row])}
                  value={step[row][from]}
                  onChange={(v) =>
                    change(`${row} from ${from}`, (s: StepOf<"channel_mix">) => ({
                      ...s,
                      [row]: { ...s[row], [from]: v },
                    }))
                  }
                />
              ),
            )}
            <Amount
              parameter={parameter(kind, "constant", PARTS[row])}
              value={step[row].constant}
              onChange={(v) =>
                change(`${row} constant`, (s: StepOf<"channel_mix">) => ({
                  ...s,
                  [row]: { ...s[row], constant: v },
                }))
              }
            />
          </Section>
        );
      })}
    </>
  );
}

/** Three bars for each row of the matrix, from a line in the middle. */
function MatrixThumb({ trace, high }: { trace: Trace | undefined; high: number }) {
  const rows = (trace?.matrix ?? []) as number[][];
  const tall = (v: number) => (Math.min(Math.abs(v), 1.6) * high) / 3.2;
  return rows.flatMap((row, r) =>
    row.map((v, c) => (
      <rect
        key={`${r}${c}`}
        x={2 + r * 12 + c * 3}
        width={2}
        fill={r === c ? "var(--t1)" : "var(--t2)"}
        y={v >= 0 ? high / 2 - tall(v) : high / 2}
        height={Math.max(0.6, tall(v))}
      />
    )),
  );
}

export const channel_mix: StepView<"channel_mix"> = {
  Editor: ChannelMixEditor,
  summary: (step) => (step.keep_white ? "white kept" : "free"),
  Thumb: MatrixThumb,
};
