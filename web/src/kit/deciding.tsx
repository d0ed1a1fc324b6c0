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

/** Over the rows: what came in, and which rows are shown. */
export const DecidingHead = styled.header`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px;
  padding: 10px 14px;
  white-space: nowrap;
`;
