/** What becomes of each event: one row each, those that are asked for. */
import { GridList, ListLayout, Virtualizer } from "react-aria-components";
import styled from "styled-components";
import type { Cut, Recutting } from "../api/types";
import { Listed } from "../kit/deciding";
import { EventRow, inColumns, ROW } from "./eventrow";
import { keyOf } from "./judging";

const Heads = styled.div`
  ${inColumns}
  padding: 5px 18px;
  color: var(--t2);
  font-size: 12px;
  border-bottom: 1px solid var(--line);
`;

export function Rows(props: {
  project: number;
  cut: Cut;
  rows: Recutting[];
  chosen: string;
  onChoose: (key: string) => void;
}) {
  return (
    <>
      <Heads aria-hidden>
        <span className="drawn" />
        <span />
        <span>event</span>
        <span>length, s:f</span>
        <span>{props.cut.number === null ? "how" : "frames of its clip"}</span>
        <span>look and trim, kept</span>
      </Heads>
      <Listed>
        <Virtualizer layout={ListLayout} layoutOptions={{ rowHeight: ROW }}>
          <GridList
            aria-label="What becomes of each event"
            items={props.rows.map((row) => ({ id: keyOf(row), row }))}
            dependencies={[props.cut]}
            selectionMode="single"
            selectionBehavior="replace"
            selectedKeys={[props.chosen]}
            onSelectionChange={(keys) => {
              const [key] = keys === "all" ? [] : [...keys];
              if (key !== undefined) props.onChoose(String(key));
            }}
          >
            {({ row }) => <EventRow project={props.project} cut={props.cut} row={row} />}
          </GridList>
        </Virtualizer>
      </Listed>
    </>
  );
}
