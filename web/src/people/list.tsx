/** Rows of the page of people: something round, two lines, and what can be done, one below the other. */
import styled from "styled-components";
import { initialsOf } from "../kit/initials";

export const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  > li {
    display: grid;
    grid-template-columns: 32px minmax(0, 1fr) auto;
    align-items: center;
    gap: 11px;
    padding: 9px 0;
    border-top: 1px solid var(--line);
  }
  > li > .two {
    min-width: 0;
  }
  > li > .two > * {
    display: block;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  b {
    font-weight: 560;
  }
  small {
    color: var(--t2);
    font-size: 12px;
  }
  .late {
    color: var(--warn);
  }
  .here {
    color: var(--accent);
  }
`;

const Round = styled.span`
  width: 30px;
  height: 30px;
  border: 1px solid var(--g4);
  border-radius: 50%;
  display: grid;
  place-items: center;
  font-size: 11px;
  font-weight: 600;
  &.asked {
    border-style: dashed;
    color: var(--t2);
  }
`;

/** A person as a round mark; somebody who has not come in yet is a question. */
export function Initials(props: { name: string; asked?: boolean }) {
  return (
    <Round className={props.asked ? "asked" : ""} aria-hidden>
      {props.asked ? "?" : initialsOf(props.name)}
    </Round>
  );
}

export const Block = styled.section`
  padding: 16px 18px;
  border-bottom: 1px solid var(--line);
  > header {
    display: flex;
    align-items: center;
    gap: 10px;
    min-height: 32px;
    margin-bottom: 6px;
  }
  > header > :last-child:not(:first-child) {
    margin-left: auto;
  }
  > header > h1,
  > header > h2 {
    font-size: 15px;
    font-weight: 640;
    color: var(--t1);
  }
  h3 {
    font-size: 12px;
    font-weight: 400;
    color: var(--t2);
    margin: 10px 0 4px;
  }
`;
