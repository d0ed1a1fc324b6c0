/** A line of text, or several. */
import { Input, Label, TextArea, TextField } from "react-aria-components";
import styled from "styled-components";

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
  /** The line was left, or the Enter key pressed. */
  onDone?: () => void;
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
      onBlur={props.onDone}
      onKeyDown={(e) => e.key === "Enter" && props.onDone?.()}
    >
      {props.hidden ? null : <Label>{props.label}</Label>}
      {props.lines ? (
        <TextArea rows={props.lines} placeholder={props.hint} />
      ) : (
        <Input placeholder={props.hint} />
      )}
    </Written>
  );
}
