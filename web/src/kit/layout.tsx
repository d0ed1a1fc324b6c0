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

/** Words that stand back beside others. */
export const Quiet = styled.span`
  color: var(--t2);
`;

/** Room between what is above and what is below. */
export const Gap = styled.div`
  height: 10px;
`;

/** Things in a line, their middles level; they wrap. */
export const Level = styled.div`
  margin: 10px 0 4px;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  color: var(--t2);
`;

/** The first at the beginning, the last at the end. */
export const Apart = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  ${Level} {
    margin: 0;
  }
`;

/** One thing in the middle. */
export const Centred = styled.div`
  display: grid;
  justify-content: center;
  margin: 10px 0;
`;

/** Says that a list opens here. */
export const Opens = styled.span.attrs({ "aria-hidden": true, children: "▾" })`
  color: var(--t3);
  font-size: 10px;
`;
