/** A line across the screen about something that wants attention. */
import type { ReactNode } from "react";
import styled from "styled-components";

const Bar = styled.div`
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 9px 16px;
  background: var(--g2);
  border-bottom: 1px solid var(--line);
  border-left: 3px solid var(--warn);
  p {
    flex: 1;
  }
`;

export function Notice(props: { children: ReactNode; actions?: ReactNode }) {
  return (
    <Bar role="alert">
      <p>{props.children}</p>
      {props.actions}
    </Bar>
  );
}
