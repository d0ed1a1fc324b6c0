/** A number that can be typed. Shown values; the caller scales. */
import { Input, NumberField } from "react-aria-components";
import styled from "styled-components";

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
