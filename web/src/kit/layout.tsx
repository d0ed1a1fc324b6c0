/** Small pieces of layout and of quiet text that many screens share. */
import styled from "styled-components";

/** Takes the room that is left, and moves what follows to the end. */
export const Grow = styled.span`
  flex: 1;
`;

/** What is said beside the thing itself. */
export const Said = styled.p`
  color: var(--t2);
`;

/** What is wrong, or needs a decision. */
export const Warned = styled.p`
  color: var(--warn);
`;

/** Fields one below the other. */
export const Fields = styled.div`
  display: grid;
  gap: 12px;
`;

/** Two fields side by side. */
export const Pair = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
`;
