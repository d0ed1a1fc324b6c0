/** The column of the control: one step, a finish, the trim of a frame, or ways to begin. */
import styled from "styled-components";

export const Column = styled.section`
  width: 304px;
  flex: none;
  border-right: 1px solid var(--line);
  background: var(--g1);
  overflow-y: auto;
  padding: 12px 16px 20px;
  header {
    display: flex;
    align-items: baseline;
    gap: 2px 10px;
    margin-bottom: 8px;
    flex-wrap: wrap;
  }
  header h1 {
    flex: 1 1 auto;
    max-width: 100%;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  header span {
    color: var(--t2);
    font-size: 12px;
    white-space: nowrap;
  }
  .easing {
    margin-top: 16px;
    padding-top: 10px;
    border-top: 1px solid var(--line);
    display: grid;
    gap: 8px;
  }
  fieldset {
    border: 0;
    padding: 0;
    min-width: 0;
  }
`;
