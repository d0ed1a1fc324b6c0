/** A box to tick, with its label beside it or for a reader of the screen alone. */
import type { ReactNode } from "react";
import { Checkbox, type CheckboxProps } from "react-aria-components";
import styled from "styled-components";

const Box = styled(Checkbox)`
  /* The box itself is hidden inside: it must scroll with its label. */
  position: relative;
  display: inline-flex;
  align-items: center;
  gap: 9px;
  cursor: pointer;
  i {
    width: 15px;
    height: 15px;
    border: 1.5px solid var(--t2);
    border-radius: 3px;
    flex: none;
  }
  &[data-selected] i {
    background: var(--accent);
    border-color: var(--accent);
  }
  &[data-indeterminate] i {
    background: var(--g4);
  }
  &[data-focus-visible] {
    outline: none;
  }
  &[data-focus-visible] i {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
  &[data-disabled] {
    color: var(--t3);
    cursor: default;
  }
  &[data-disabled] i {
    border-color: var(--g4);
  }
`;

export function Tick({ children, ...rest }: Omit<CheckboxProps, "children"> & { children?: ReactNode }) {
  return (
    <Box {...rest}>
      <i />
      {children}
    </Box>
  );
}
