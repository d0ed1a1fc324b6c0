/** Along the bottom of a screen of decisions: how far work is, what will be done, and the doing. */
import styled from "styled-components";

export const Foot = styled.footer`
  grid-column: 1 / -1;
  border-top: 1px solid var(--line);
  padding: 10px 16px;
  display: flex;
  align-items: center;
  gap: 14px;
  position: relative;
  min-height: 58px;
  progress {
    position: absolute;
    top: -2px;
    left: 0;
    width: 100%;
    height: 3px;
    appearance: none;
    border: 0;
    background: none;
  }
  progress::-webkit-progress-bar {
    background: none;
  }
  progress::-webkit-progress-value {
    background: var(--accent);
  }
  progress::-moz-progress-bar {
    background: var(--accent);
  }
  strong {
    font-weight: 600;
  }
  kbd {
    margin: 0 4px 0 10px;
  }
`;
