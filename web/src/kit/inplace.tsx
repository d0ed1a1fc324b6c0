/** A line of text that is typed where it stands, in a row of a list. */
import styled from "styled-components";

const Typed = styled.input`
  background: none;
  border: 1px solid transparent;
  border-radius: 4px;
  padding: 2px 6px;
  margin-left: -7px;
  width: 100%;
  max-width: 190px;
  min-width: 0;
  &:hover {
    border-color: var(--g4);
  }
  &::placeholder {
    color: var(--t3);
  }
`;

/** What was typed is told when it is left, and by the Enter key. */
export function InPlace(props: {
  label: string;
  value: string;
  hint: string;
  longest: number;
  onChange: (value: string) => void;
}) {
  return (
    <Typed
      key={props.value}
      aria-label={props.label}
      defaultValue={props.value}
      placeholder={props.hint}
      maxLength={props.longest}
      onBlur={(e) => e.target.value !== props.value && props.onChange(e.target.value)}
      // The list would take letters for a search among its rows.
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter") e.currentTarget.blur();
      }}
    />
  );
}
