/** A button; `look` is main for the one thing a screen is for, quiet for what is seldom used. */
import { Button as AriaButton, type ButtonProps } from "react-aria-components";
import styled from "styled-components";

const Pill = styled(AriaButton)`
  height: 30px;
  padding: 0 13px;
  border-radius: 15px;
  border: 1px solid var(--g4);
  background: none;
  cursor: pointer;
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: 7px;
  font-weight: 500;
  white-space: nowrap;
  flex: none;
  &[data-hovered] {
    background: var(--g3);
  }
  &[data-pressed] {
    background: var(--g4);
  }
  &[data-disabled] {
    color: var(--t3);
    border-color: var(--g3);
    cursor: default;
  }
  &.main {
    background: var(--accent);
    border-color: var(--accent);
    color: var(--on-accent);
    font-weight: 640;
  }
  &.main[data-hovered] {
    background: var(--accent-lit);
  }
  &.main[data-disabled] {
    background: var(--g3);
    border-color: var(--g3);
    color: var(--t3);
  }
  &.quiet {
    border-color: transparent;
    color: var(--t2);
    padding: 0 8px;
  }
  &.quiet[data-disabled] {
    color: var(--g4);
  }
  &.icon {
    width: 26px;
    height: 26px;
    padding: 0;
    border-color: transparent;
    color: var(--t2);
  }
`;

interface Props extends Omit<ButtonProps, "className"> {
  look?: "" | "main" | "quiet" | "icon";
  className?: string;
}

export function Button({ look = "", className = "", ...rest }: Props) {
  return <Pill className={`${look} ${className}`.trim()} {...rest} />;
}
