/** A box that is ticked, in lists of things to be chosen. */
import { Checkbox } from "react-aria-components";
import styled from "styled-components";

export const Tick = styled(Checkbox)`
  width: 16px;
  height: 16px;
  border: 1px solid var(--t2);
  border-radius: 4px;
  display: grid;
  place-items: center;
  cursor: pointer;
  flex: none;
  &[data-selected],
  &[data-indeterminate] {
    background: var(--accent);
    border-color: var(--accent);
  }
  &[data-indeterminate] {
    background: none;
    border-color: var(--t1);
  }
  &[data-indeterminate]:after {
    content: "";
    width: 8px;
    height: 2px;
    background: var(--t1);
  }
  &[data-disabled] {
    border-color: var(--g4);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
`;
