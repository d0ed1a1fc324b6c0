/** What a step does to a grey ramp, from the core's trace. */
import type { Trace } from "../../viewer/table";
import { numbers, path } from "../trace";
import styled from "styled-components";

/** The ground that lines are drawn on. */
export const Ground = styled.svg`
  background: var(--g0);
  border-radius: 3px;
  overflow: hidden;
`;
const Above = styled(Ground)`
  margin-bottom: 12px;
`;

const W = 268;
const H = 150;
const INK = { all: "var(--t1)", red: "var(--red)", green: "var(--green)", blue: "var(--blue)" } as const;

export function RampPlot({ trace, label }: { trace: Trace | undefined; label: string }) {
  const x = numbers(trace, "x");
  if (!x.length) return null;
  const names = (["all", "red", "green", "blue"] as const).filter((n) => numbers(trace, n).length);
  const same =
    names.length === 3 &&
    ["green", "blue"].every((n) =>
      numbers(trace, n).every((v, i) => Math.abs(v - numbers(trace, "red")[i]!) < 1e-4),
    );
  const drawn = same ? (["red"] as const) : names;
  return (
    <Above width={W} height={H} viewBox={`0 0 ${W} ${H}`} role="img" aria-label={label}>
      <g stroke="var(--g3)">
        {[0.25, 0.5, 0.75].map((v) => (
          <g key={v}>
            <line x1={v * W} x2={v * W} y1={0} y2={H} />
            <line y1={v * H} y2={v * H} x1={0} x2={W} />
          </g>
        ))}
      </g>
      <line x1={0} y1={H} x2={W} y2={0} stroke="var(--g4)" strokeDasharray="2 4" />
      {drawn.map((n) => (
        <polyline
          key={n}
          points={path(x, numbers(trace, n), W, H)}
          fill="none"
          stroke={same ? INK.all : INK[n]}
          strokeWidth={1.6}
        />
      ))}
    </Above>
  );
}
