/** A number with a label above it, typed as long as it is published; empty where it may be left out. */
import { FieldError, Input, Label, NumberField } from "react-aria-components";
import styled from "styled-components";

const Written = styled(NumberField)`
  display: flex;
  flex-direction: column;
  gap: 4px;
  min-width: 0;
  label,
  small {
    color: var(--t2);
    font-size: 12px;
  }
  small {
    color: var(--t3);
  }
  input {
    height: 30px;
    border: 1px solid var(--g4);
    border-radius: var(--r);
    background: var(--g0);
    padding: 6px 9px;
    min-width: 0;
    width: 100%;
    text-align: right;
  }
  input:read-only {
    border-color: transparent;
    text-align: left;
    padding-left: 0;
  }
  ::placeholder {
    color: var(--t3);
  }
  [slot="errorMessage"] {
    color: var(--warn);
    font-size: 12px;
  }
`;

/** Digits behind the point that makers publish. */
const DIGITS = 12;

export function TypedNumber(props: {
  label: string;
  value: number | null;
  onChange: (value: number | null) => void;
  low: number;
  high: number;
  help?: string;
  /** Said where no number stands. */
  none?: string;
  hidden?: boolean;
  readOnly?: boolean;
}) {
  return (
    <Written
      aria-label={props.hidden ? props.label : undefined}
      value={props.value ?? NaN}
      minValue={props.low}
      maxValue={props.high}
      isReadOnly={props.readOnly}
      formatOptions={{ maximumFractionDigits: DIGITS, useGrouping: false }}
      onChange={(v) => props.onChange(Number.isNaN(v) ? null : v)}
      isWheelDisabled
    >
      {props.hidden ? null : <Label>{props.label}</Label>}
      <Input title={props.help} placeholder={props.none} />
      <FieldError />
    </Written>
  );
}
