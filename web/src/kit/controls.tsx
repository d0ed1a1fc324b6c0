/** Buttons, fields and choices: React Aria's behaviour, Saucer's looks. */
import type { ReactNode } from "react";
import {
  Button as AriaButton,
  Input,
  Label,
  ListBox,
  ListBoxItem,
  NumberField,
  Popover,
  Select as AriaSelect,
  SelectValue,
  Switch as AriaSwitch,
  TextArea,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
  type ButtonProps,
  type Key,
} from "react-aria-components";
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
    background: #bde2d1;
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

/** A button; `look` is main for the one thing a screen is for, quiet for what is seldom used. */
export function Button({ look = "", ...rest }: ButtonProps & { look?: "" | "main" | "quiet" | "icon" }) {
  return <Pill className={look} {...rest} />;
}

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

/** On or off. */
export function Switch(props: { label: string; hidden?: boolean; on: boolean; onChange: (on: boolean) => void; disabled?: boolean }) {
  return (
    <Rocker isSelected={props.on} onChange={props.onChange} isDisabled={props.disabled} aria-label={props.hidden ? props.label : undefined}>
      <span className="track" />
      {props.hidden ? null : props.label}
    </Rocker>
  );
}

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

/** One of a few, side by side. */
export function Segments<K extends string>(props: {
  label: string;
  options: readonly (readonly [K, ReactNode])[];
  chosen: K;
  onChange: (key: K) => void;
  stretch?: boolean;
}) {
  return (
    <Row
      aria-label={props.label}
      selectionMode="single"
      disallowEmptySelection
      selectedKeys={[props.chosen]}
      style={props.stretch ? { display: "flex" } : undefined}
      onSelectionChange={(keys) => {
        const [key] = [...keys];
        if (key !== undefined) props.onChange(key as K);
      }}
    >
      {props.options.map(([key, label]) => (
        <ToggleButton key={key} id={key} style={props.stretch ? { flex: "1 1 auto", padding: "0 6px" } : undefined}>
          {label}
        </ToggleButton>
      ))}
    </Row>
  );
}

export const Menued = styled(Popover)`
  background: var(--g2);
  border: 1px solid var(--g4);
  border-radius: var(--r);
  padding: 4px;
  min-width: var(--trigger-width);
  box-shadow: 0 10px 30px #0009;
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

const Drop = styled(AriaSelect)`
  display: flex;
  flex-direction: column;
  gap: 4px;
  min-width: 0;
  label {
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

/** One of many, from a list that opens. */
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
        <SelectValue>{({ selectedText, defaultChildren }) => selectedText ?? defaultChildren}</SelectValue>
        <span aria-hidden style={{ color: "var(--t3)", fontSize: 10 }}>
          ▾
        </span>
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

const Written = styled(TextField)`
  display: flex;
  flex-direction: column;
  gap: 4px;
  min-width: 0;
  label {
    color: var(--t2);
    font-size: 12px;
  }
  input,
  textarea {
    border: 1px solid var(--g4);
    border-radius: var(--r);
    background: var(--g0);
    padding: 6px 9px;
    min-width: 0;
    width: 100%;
    resize: vertical;
  }
  input {
    height: 30px;
  }
  ::placeholder {
    color: var(--t3);
  }
  &.search input {
    border-radius: 15px;
    padding: 0 13px;
  }
`;

/** A line of text, or several. */
export function Text(props: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  hidden?: boolean;
  lines?: number;
  type?: string;
  hint?: string;
  search?: boolean;
  required?: boolean;
  autoFocus?: boolean;
  autoComplete?: string;
  maxLength?: number;
}) {
  return (
    <Written
      className={props.search ? "search" : ""}
      value={props.value}
      onChange={props.onChange}
      type={props.type ?? "text"}
      aria-label={props.hidden ? props.label : undefined}
      isRequired={props.required}
      autoFocus={props.autoFocus}
      autoComplete={props.autoComplete}
      maxLength={props.maxLength ?? 300}
    >
      {props.hidden ? null : <Label>{props.label}</Label>}
      {props.lines ? <TextArea rows={props.lines} placeholder={props.hint} /> : <Input placeholder={props.hint} />}
    </Written>
  );
}

const Typed = styled(NumberField)`
  display: inline-flex;
  align-items: baseline;
  gap: 4px;
  flex: none;
  input {
    width: 52px;
    height: 22px;
    text-align: right;
    background: none;
    border: 0;
    border-bottom: 1px solid transparent;
    padding: 0;
  }
  input:hover {
    border-bottom-color: var(--g4);
  }
  input:focus {
    border-bottom-color: var(--accent);
    outline: none;
  }
  &[data-disabled] input {
    color: var(--t3);
  }
`;

/** A number that can be typed. Shown values; the caller scales. */
export function NumberBox(props: {
  label: string;
  value: number;
  low: number;
  high: number;
  fine: number;
  digits: number;
  onChange: (value: number) => void;
  disabled?: boolean;
  width?: number;
}) {
  return (
    <Typed
      aria-label={props.label}
      value={props.value}
      minValue={props.low}
      maxValue={props.high}
      isDisabled={props.disabled}
      formatOptions={{ maximumFractionDigits: props.digits, useGrouping: false }}
      step={props.fine}
      onChange={(v) => !Number.isNaN(v) && props.onChange(v)}
      isWheelDisabled
    >
      <Input style={props.width ? { width: props.width } : undefined} />
    </Typed>
  );
}
