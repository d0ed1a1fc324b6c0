/** How many marks say what. */
import styled from "styled-components";
import { Sign } from "./sign";

export type Sums = { yes: number; changes: number; no: number };
export const NONE: Sums = { yes: 0, changes: 0, no: 0 };

const Line = styled.span`
  display: flex;
  gap: 10px;
  white-space: nowrap;
  span {
    display: inline-flex;
    gap: 4px;
    align-items: center;
  }
`;

export function Counted({ sums }: { sums: Sums }) {
  return (
    <Line role="img" aria-label={`${sums.yes} for it, ${sums.changes} with changes, ${sums.no} against`}>
      {(["for", "with changes", "against"] as const).map((v, k) => (
        <span key={v}>
          <Sign verdict={v} size={13} /> {[sums.yes, sums.changes, sums.no][k]}
        </span>
      ))}
    </Line>
  );
}
