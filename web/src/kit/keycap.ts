/** A key of the keyboard, as hints show it. */
import styled from "styled-components";

export const KeyCap = styled.kbd`
  border: 1px solid var(--g4);
  border-radius: 4px;
  padding: 0 5px;
  font: inherit;
  font-size: 12px;
  color: var(--t1);
`;
