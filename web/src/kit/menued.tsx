/** A list that opens over the page. */
import { Popover } from "react-aria-components";
import styled from "styled-components";

export const Menued = styled(Popover)`
  background: var(--g2);
  border: 1px solid var(--g4);
  border-radius: var(--r);
  padding: 4px;
  min-width: var(--trigger-width);
  box-shadow: 0 10px 30px var(--shade);
  max-height: 60vh;
  overflow: auto;
  [role="option"],
  [role="menuitem"] {
    padding: 6px 10px;
    border-radius: 4px;
    cursor: pointer;
    outline: none;
    display: flex;
    gap: 10px;
    align-items: baseline;
  }
  [role="option"],
  [role="menuitem"] {
    &[data-focused],
    &[data-hovered] {
      background: var(--g4);
    }
  }
  [data-disabled] {
    color: var(--t3);
    cursor: default;
  }
  [role="option"][data-selected] {
    box-shadow: inset 2px 0 0 var(--accent);
  }
  small {
    color: var(--t2);
  }
  header {
    padding: 8px 10px 3px;
    font-size: 11.5px;
    color: var(--t2);
    font-weight: 600;
  }
`;
