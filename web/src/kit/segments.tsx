/** One of a few, side by side. */
import type { ReactNode } from "react";
import { ToggleButton, ToggleButtonGroup } from "react-aria-components";
import styled from "styled-components";

const Row = styled(ToggleButtonGroup)`
  display: inline-flex;
  border: 1px solid var(--g4);
  border-radius: 14px;
  overflow: hidden;
  height: 26px;
  flex: none;
  button {
    padding: 0 11px;
    border: 0;
    background: none;
    color: var(--t2);
    font-size: 12px;
    cursor: pointer;
    white-space: nowrap;
  }
  button + button {
    border-left: 1px solid var(--g4);
  }
  button[data-hovered] {
    background: var(--g2);
  }
  button[data-selected] {
    background: var(--g4);
    color: var(--t1);
  }
  button[data-focus-visible] {
    outline-offset: -3px;
    border-radius: 12px;
  }
  button[data-disabled] {
    color: var(--g4);
  }
`;

/** As wide as there is room. */
const Stretched = styled(Row)`
  display: flex;
  button {
    flex: 1 1 auto;
    padding: 0 6px;
  }
`;

export function Segments<K extends string>(props: {
  label: string;
  options: readonly (readonly [K, ReactNode])[];
  chosen: K;
  onChange: (key: K) => void;
  stretch?: boolean;
}) {
  const Buttons = props.stretch ? Stretched : Row;
  return (
    <Buttons
      aria-label={props.label}
      selectionMode="single"
      disallowEmptySelection
      selectedKeys={[props.chosen]}
      onSelectionChange={(keys) => {
        const [key] = [...keys];
        if (key !== undefined) props.onChange(key as K);
      }}
    >
      {props.options.map(([key, label]) => (
        <ToggleButton key={key} id={key}>
          {label}
        </ToggleButton>
      ))}
    </Buttons>
  );
}
