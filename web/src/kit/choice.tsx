/** One of many, from a list that opens. */
import {
  Button as AriaButton,
  Label,
  ListBox,
  ListBoxItem,
  Select as AriaSelect,
  SelectValue,
  type Key,
} from "react-aria-components";
import styled from "styled-components";
import { Menued } from "./menued";
import { Opens } from "./layout";

const Drop = styled(AriaSelect)`
  display: flex;
  flex-direction: column;
  gap: 4px;
  min-width: 0;
  > .react-aria-Label {
    color: var(--t2);
    font-size: 12px;
  }
  &.inline {
    flex-direction: row;
    align-items: center;
    gap: 10px;
  }
  > button {
    height: 30px;
    border: 1px solid var(--g4);
    border-radius: var(--r);
    background: var(--g0);
    padding: 0 9px;
    cursor: pointer;
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 8px;
    text-align: left;
    min-width: 0;
  }
  > button > span:first-child {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  &.bare > button {
    border-color: transparent;
    background: none;
    padding: 0 6px;
    height: 26px;
    font-weight: 600;
  }
  &.bare > button[data-hovered] {
    background: var(--g3);
  }
  &[data-disabled] > button {
    color: var(--t3);
    cursor: default;
  }
`;

export function Choice<K extends Key>(props: {
  label: string;
  options: readonly { key: K; label: string; note?: string }[];
  chosen: K | null;
  onChange: (key: K) => void;
  hidden?: boolean;
  look?: "" | "inline" | "bare";
  disabled?: boolean;
  empty?: string;
}) {
  return (
    <Drop
      className={props.look}
      isDisabled={props.disabled}
      aria-label={props.hidden ? props.label : undefined}
      placeholder={props.empty}
      selectedKey={props.chosen}
      onSelectionChange={(key) => key !== null && props.onChange(key as K)}
    >
      {props.hidden ? null : <Label>{props.label}</Label>}
      <AriaButton>
        <SelectValue>{({ selectedText, defaultChildren }) => selectedText || defaultChildren}</SelectValue>
        <Opens />
      </AriaButton>
      <Menued>
        <ListBox>
          {props.options.map((o) => (
            <ListBoxItem key={o.key} id={o.key} textValue={o.label}>
              {o.label}
              {o.note ? <small>{o.note}</small> : null}
            </ListBoxItem>
          ))}
        </ListBox>
      </Menued>
    </Drop>
  );
}
