/** A name, and what is said of it, over what the pointer or the keys rest on. */
import type { ReactNode } from "react";
import { Tooltip, TooltipTrigger } from "react-aria-components";
import styled from "styled-components";

const Box = styled(Tooltip)`
  background: var(--g4);
  border-radius: 4px;
  padding: 3px 9px;
  font-size: 12px;
  max-width: 240px;
  small {
    display: block;
    color: var(--t2);
  }
`;

/** `children` is one button. */
export function Tip({
  name,
  note,
  delay = 150,
  children,
}: {
  name: string;
  note?: string;
  delay?: number;
  children: ReactNode;
}) {
  return (
    <TooltipTrigger delay={delay} closeDelay={0}>
      {children}
      <Box placement="top" offset={4}>
        {name}
        {note ? <small>{note}</small> : null}
      </Box>
    </TooltipTrigger>
  );
}
