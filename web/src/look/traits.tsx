/** What a look does in numbers, each over how all looks are spread along it. */
import styled from "styled-components";
import type { Card, Scale } from "../api/types";
import { inWords } from "../catalogue/spread";

const List = styled.dl`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 0 22px;
  font-size: 12.5px;
  div {
    display: grid;
    grid-template-columns: 84px 1fr 48px;
    gap: 8px;
    align-items: center;
    padding: 3px 0;
    border-bottom: 1px solid var(--line);
  }
  dt {
    color: var(--t2);
    white-space: nowrap;
  }
  dd {
    margin: 0;
    text-align: right;
  }
  svg {
    width: 100%;
    height: 18px;
    overflow: visible;
  }
`;

const WIDTH = 140;

export function Traits(props: { card: Card; scales: Scale[]; bars: Record<string, number[]> }) {
  return (
    <List>
      {props.scales.map((s) => {
        const value = props.card.traits[s.key];
        const bars = props.bars[s.key] ?? [];
        const most = Math.max(1, ...bars);
        const wide = WIDTH / Math.max(1, bars.length);
        const share = (v: number) => Math.min(1, Math.max(0, (v - s.low) / (s.high - s.low))) * WIDTH;
        const own = value === undefined ? -1 : Math.min(bars.length - 1, Math.floor(share(value) / wide));
        return value === undefined ? null : (
          <div key={s.key}>
            <dt>{s.label}</dt>
            <dd>
              <svg viewBox={`0 0 ${WIDTH} 18`} preserveAspectRatio="none" aria-hidden>
                {bars.map((n, k) => {
                  const high = Math.max(0.8, (14 * Math.sqrt(n)) / Math.sqrt(most));
                  return (
                    <rect
                      key={k}
                      x={k * wide}
                      width={wide - 1}
                      y={14 - high}
                      height={high}
                      fill={k === own ? "var(--t1)" : "var(--g4)"}
                    />
                  );
                })}
                <line
                  x1={share(s.neutral)}
                  x2={share(s.neutral)}
                  y1={0}
                  y2={14}
                  stroke="var(--t3)"
                  strokeDasharray="2 2"
                />
                <path
                  d={`M${share(value) - 3.5} 18 L${share(value)} 14.5 L${share(value) + 3.5} 18 Z`}
                  fill="var(--t1)"
                />
              </svg>
            </dd>
            <dd>{inWords(s, value)}</dd>
          </div>
        );
      })}
    </List>
  );
}
