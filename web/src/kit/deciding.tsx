/** Screens on which people decide what is kept: rows, what is said of them beside, and a foot. */
import styled from "styled-components";

/** The rows beside what is said of them; a foot takes the last line. */
export const Deciding = styled.main`
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) clamp(270px, 25vw, 340px);
  grid-template-rows: minmax(0, 1fr) auto;
`;

/** Around a long list of rows: takes the room that is left, and scrolls. */
export const Listed = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
  .react-aria-GridList {
    flex: 1;
    min-height: 0;
    overflow: auto;
    outline: none;
  }
`;

/** A line in a row; what has no room is cut off. */
export const Line = styled.span<{ $warns?: boolean; $quiet?: boolean }>`
  display: block;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  color: ${({ $warns, $quiet }) => ($warns ? "var(--warn)" : $quiet ? "var(--t2)" : "inherit")};
  font-size: ${({ $quiet }) => ($quiet ? "12px" : "inherit")};
`;

/** The line that says what a row is of. */
export const Name = styled(Line)`
  font-weight: 600;
`;

/** Over the rows: what came in, and which rows are shown. */
export const DecidingHead = styled.header`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px;
  padding: 10px 14px;
  white-space: nowrap;
`;
