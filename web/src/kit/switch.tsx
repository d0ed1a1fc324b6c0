/** On or off. */
import { Switch as AriaSwitch } from "react-aria-components";
import styled from "styled-components";

const Rocker = styled(AriaSwitch)`
  display: inline-flex;
  align-items: center;
  gap: 8px;
  cursor: pointer;
  color: var(--t2);
  .track {
    width: 26px;
    height: 14px;
    border-radius: 7px;
    border: 1px solid var(--t2);
    position: relative;
    flex: none;
  }
  .track:after {
    content: "";
    position: absolute;
    top: 2px;
    left: 2px;
    width: 8px;
    height: 8px;
    border-radius: 50%;
    background: var(--t3);
  }
  &[data-selected] .track:after {
    left: 14px;
    background: var(--t1);
  }
  &[data-focus-visible] .track {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
  &[data-disabled] {
    opacity: 0.5;
  }
`;

export function Switch(props: {
  label: string;
  hidden?: boolean;
  on: boolean;
  onChange: (on: boolean) => void;
  disabled?: boolean;
}) {
  return (
    <Rocker
      isSelected={props.on}
      onChange={props.onChange}
      isDisabled={props.disabled}
      aria-label={props.hidden ? props.label : undefined}
    >
      <span className="track" />
      {props.hidden ? null : props.label}
    </Rocker>
  );
}
