/** A page, or part of one, that has nothing to show yet. */
import type { ReactNode } from "react";
import styled from "styled-components";

/** What stands in the middle of a page. */
export const Middle = styled.div`
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 14px;
  height: 100%;
  min-height: 220px;
  text-align: center;
  padding: 24px;
  color: var(--t2);
  h1 {
    color: var(--t1);
  }
  p {
    max-width: 46ch;
  }
`;

export function Empty(props: { title: string; children?: ReactNode; action?: ReactNode }) {
  return (
    <Middle>
      <h1>{props.title}</h1>
      {props.children ? <p>{props.children}</p> : null}
      {props.action}
    </Middle>
  );
}
