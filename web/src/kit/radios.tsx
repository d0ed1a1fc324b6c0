/** One of a few, written out in a line, each with a round to press. */
import type { ReactNode } from "react";
import { Radio, RadioGroup } from "react-aria-components";
import styled from "styled-components";

const Row = styled(RadioGroup)`
  display: flex;
  gap: 8px 16px;
  flex-wrap: wrap;
  label {
    display: inline-flex;
    align-items: center;
    gap: 7px;
    cursor: pointer;
    color: var(--t2);
    position: relative;
  }
  label[data-selected] {
    color: var(--t1);
  }
  label[data-disabled] {
    color: var(--t3);
    cursor: default;
  }
  i {
    width: 12px;
    height: 12px;
    border-radius: 50%;
    border: 2px solid var(--t2);
  }
  label[data-selected] i {
    background: var(--accent);
    border-color: var(--accent);
  }
  label[data-focus-visible] {
    outline: none;
  }
  label[data-focus-visible] i {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
`;

export function Radios<K extends string>(props: {
  label: string;
  options: readonly { key: K; label: ReactNode; disabled?: boolean }[];
  chosen: K;
  onChange: (key: K) => void;
}) {
  return (
    <Row aria-label={props.label} value={props.chosen} onChange={(key) => props.onChange(key as K)}>
      {props.options.map((o) => (
        <Radio key={o.key} value={o.key} isDisabled={o.disabled}>
          <i />
          {o.label}
        </Radio>
      ))}
    </Row>
  );
}
