/** A large area that files and folders are dropped on: what may come, in strong words, and buttons below. */
import { DropZone } from "react-aria-components";
import styled from "styled-components";

export const DropArea = styled(DropZone)`
  border: 1px dashed var(--g4);
  border-radius: 10px;
  min-height: 240px;
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 14px;
  text-align: center;
  padding: 24px;
  color: var(--t2);
  strong {
    color: var(--t1);
    font-size: 15px;
    font-weight: 600;
  }
  &[data-drop-target] {
    border-color: var(--accent);
    background: var(--g2);
  }
  div {
    display: flex;
    gap: 10px;
  }
  p {
    max-width: 64ch;
  }
`;
