/** How the order looks. */
import { GridList } from "react-aria-components";
import styled from "styled-components";

export const Column = styled.aside`
  width: 232px;
  flex: none;
  border-right: 1px solid var(--line);
  background: var(--g1);
  display: flex;
  flex-direction: column;
  min-height: 0;
  > header {
    display: flex;
    align-items: center;
    padding: 12px 8px 6px 14px;
    gap: 4px;
  }
  > header h2 {
    flex: 1;
  }
  .ends {
    padding: 2px 8px 2px 18px;
    display: flex;
    align-items: center;
    color: var(--t2);
    font-size: 12px;
    gap: 2px;
    white-space: nowrap;
  }
  .scroll {
    flex: 1;
    overflow: auto;
    min-height: 0;
    padding-bottom: 12px;
  }
  .bracket {
    border-left: 2px solid var(--accent);
    margin-left: 16px;
  }
  .empty {
    padding: 14px;
    color: var(--t2);
  }
  .kin {
    padding: 0 14px 8px;
    color: var(--t2);
    font-size: 12px;
  }
  details ul {
    padding-left: 16px;
    margin-top: 4px;
  }
  summary {
    cursor: pointer;
  }
  .said {
    margin: 8px 14px;
    color: var(--warn);
    font-size: 12px;
  }
  .ends {
    position: relative;
  }
  .whole {
    padding: 4px 14px 8px 18px;
  }
  .foot {
    padding: 8px 8px 8px 14px;
    display: flex;
    gap: 4px;
    border-top: 1px solid var(--line);
  }
`;

export const Rows = styled(GridList)`
  outline: none;
  .row {
    display: grid;
    grid-template-columns: 20px 1fr auto auto;
    align-items: center;
    column-gap: 6px;
    padding: 5px 6px 5px 0;
    cursor: default;
    border-right: 2px solid transparent;
    position: relative;
    min-height: 46px;
    padding-bottom: 9px;
  }
  .row[data-selected] {
    background: var(--g3);
    border-right-color: var(--t1);
  }
  .row[data-focus-visible] {
    outline: 2px solid var(--accent);
    outline-offset: -2px;
  }
  .row.inside {
    margin-left: 12px;
    border-left: 1px solid var(--g4);
  }
  .row.group {
    border-top: 1px solid var(--g4);
    border-left: 1px solid var(--g4);
    margin-left: 12px;
    border-radius: 6px 0 0 0;
  }
  .row.off .name,
  .row.off svg {
    opacity: 0.5;
  }
  .number {
    color: var(--t3);
    font-size: 11.5px;
    text-align: right;
  }
  .grip {
    background: none;
    border: 0;
    padding: 0;
    color: var(--t3);
    cursor: grab;
    width: 20px;
    text-align: right;
    font-size: 11.5px;
  }
  .row[data-selected] .grip,
  .row[data-selected] .number {
    color: var(--t1);
  }
  .name {
    min-width: 0;
  }
  .name b {
    display: block;
    font-weight: 500;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .name small {
    display: block;
    color: var(--t2);
    font-size: 11.5px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .name small.broken {
    color: var(--warn);
  }
  .bar {
    position: absolute;
    left: 26px;
    right: 2px;
    bottom: 0;
    height: 9px;
    padding-top: 6px;
    cursor: ew-resize;
    touch-action: none;
  }
  .bar i {
    display: block;
    height: 2px;
  }
  .bar:before {
    content: "";
    position: absolute;
    left: 0;
    right: 0;
    top: 6px;
    height: 2px;
    background: var(--g3);
  }
  .bar i {
    position: relative;
  }
  .bar i {
    background: var(--g4);
  }
  .bar i.eased,
  .row:hover .bar i,
  .row[data-selected] .bar i {
    background: var(--t1);
  }
  .turn {
    grid-column: 1 / -1;
    color: var(--accent);
    font-size: 11.5px;
    padding: 3px 0 3px 26px;
  }
  .between {
    position: absolute;
    left: 2px;
    bottom: -10px;
    z-index: 2;
    opacity: 0;
  }
  .between button {
    width: 19px;
    height: 19px;
    background: var(--g2);
    border-color: var(--g4);
  }
  .row:hover .between,
  .row[data-focus-visible-within] .between,
  .between:focus-within {
    opacity: 1;
  }
  .row.dimmed {
    opacity: 0.45;
  }
  .react-aria-DropIndicator {
    height: 0;
    outline: 1px solid transparent;
  }
  .react-aria-DropIndicator[data-drop-target] {
    outline-color: var(--accent);
  }
`;
