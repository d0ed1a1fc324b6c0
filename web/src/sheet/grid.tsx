/** The looks of a contact sheet by its frames. */
import type { FocusEvent, KeyboardEvent } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { useFrames } from "../api/queries";
import type { ContactSheet, SheetRow } from "../api/types";
import { Button } from "../kit/button";
import { Quiet } from "../kit/layout";
import { Saucer, saucerOf } from "../kit/saucer";
import { around } from "../kit/partshown";
import { cellOf } from "./asked";
import { Counted } from "./counted";
import { at, type Marks } from "./marks";
import { Sign, type Verdict } from "./sign";

const Scroll = styled.div`
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 0 18px 12px;
`;
const Table = styled.table`
  border-collapse: collapse;
  thead th {
    position: sticky;
    top: 0;
    background: var(--g0);
    z-index: 2;
    text-align: left;
    font-weight: 400;
    padding: 4px 7px 6px 0;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
    max-width: var(--cell);
  }
  tbody th {
    text-align: left;
    font-weight: 400;
    padding: 4px 10px 4px 0;
    min-width: 168px;
    max-width: 190px;
  }
  tbody tr {
    border-top: 1px solid var(--line);
  }
  td {
    padding: 4px 7px 4px 0;
  }
`;
const Name = styled.div`
  display: grid;
  grid-template-columns: 46px 1fr;
  gap: 0 10px;
  align-items: center;
  > :first-child {
    grid-row: span 2;
  }
  strong,
  small {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    font-weight: 600;
  }
  small {
    font-weight: 400;
    color: var(--t2);
    font-size: 12px;
  }
  a {
    text-decoration: none;
  }
`;
const Letter = styled.span`
  width: 44px;
  height: 44px;
  border-radius: 50%;
  border: 1px solid var(--g4);
  display: grid;
  place-items: center;
  box-shadow: inset 0 0 0 7px var(--g2);
  font-weight: 600;
`;
const Small = styled(Button)`
  &.quiet {
    height: 18px;
    padding: 0;
    font-size: 12px;
  }
`;
const Picture = styled.button`
  position: relative;
  display: block;
  border: 0;
  padding: 0;
  background: var(--g2);
  border-radius: 3px;
  overflow: hidden;
  width: var(--cell);
  height: calc(var(--cell) * 9 / 16);
  cursor: pointer;
  img {
    width: 100%;
    height: 100%;
    object-fit: cover;
    display: block;
  }
  svg {
    position: absolute;
    right: 5px;
    bottom: 5px;
  }
  &:focus-visible {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
    overflow: visible;
  }
`;
const Mark = styled.span`
  position: absolute;
  background: var(--over);
  border-radius: 9px;
  padding: 0 7px;
  font-size: 12px;
`;
const Others = styled(Mark)`
  left: 5px;
  bottom: 5px;
`;
const Noted = styled(Mark)`
  right: 5px;
  top: 5px;
`;

const KEYS: Record<string, Verdict> = { f: "for", w: "with changes", a: "against" };
const WAYS: Record<string, readonly [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** One cell at a time is reached by Tab: the one that was last in use. */
function takeTab(e: FocusEvent<HTMLElement>) {
  e.currentTarget
    .closest("table")
    ?.querySelectorAll<HTMLElement>("[data-at]")
    .forEach((c) => (c.tabIndex = -1));
  e.currentTarget.tabIndex = 0;
}

/** row: none for the original. place: its row and column in the table. */
function Cell(props: {
  sheet: ContactSheet;
  marks: Marks;
  row: SheetRow | null;
  column: ContactSheet["columns"][number];
  place: [number, number];
  onOpen: (row: SheetRow, column: number) => void;
}) {
  const { sheet, marks, row, column, place } = props;
  const verdict = row ? marks.verdictOf(row.id, column.id) : "";
  const sums = row ? marks.cells.get(at(row.id, column.id)) : undefined;
  const voted = row !== null && !row.judged_by;
  const said = verdict ? `, ${verdict}` : voted ? ", open" : "";
  return (
    <td>
      <Picture
        type="button"
        data-at={place.join(" ")}
        tabIndex={place.every((k) => k === 0) ? 0 : -1}
        aria-label={`${row?.name ?? "Original"} on ${column.name}${said}`}
        onFocus={takeTab}
        onClick={() => row && props.onOpen(row, column.id)}
      >
        {column.frame === null || row?.gone ? (
          "gone"
        ) : (
          <img
            src={cellOf(sheet, row?.id ?? null, column.id, 320)}
            alt=""
            loading="lazy"
            style={around(column.part)}
          />
        )}
        {voted && !marks.closed ? <Sign verdict={verdict} size={17} ringed /> : null}
        {marks.closed && sums ? <Others>{`${sums.yes} · ${sums.changes} · ${sums.no}`}</Others> : null}
        {row && marks.noted.has(at(row.id, column.id)) ? <Noted>note</Noted> : null}
      </Picture>
    </td>
  );
}

/** What a row is called, and the note on it as a whole. */
function RowName(props: { sheet: ContactSheet; row: SheetRow; onNote: () => void }) {
  const { sheet, row } = props;
  const note = sheet.notes.find((n) => n.row === row.id && n.column === null)?.note;
  return (
    <Name>
      {row.revision !== null ? (
        <Saucer src={saucerOf({ id: row.revision, digest: "" })} size={44} />
      ) : (
        <Letter aria-hidden>{row.gone ? "–" : row.name.replace("Look ", "")}</Letter>
      )}
      <strong title={row.name}>
        {row.look !== null ? <Link to={`/catalogue/look/${row.look}`}>{row.name}</Link> : row.name}
      </strong>
      <small>
        {row.gone ? (
          "gone"
        ) : row.judged_by ? (
          "always named"
        ) : (
          <Small look="quiet" onPress={props.onNote}>
            {note ?? "+ note"}
          </Small>
        )}
      </small>
    </Name>
  );
}

function Head({ sheet }: { sheet: ContactSheet }) {
  const { data: frames = [] } = useFrames();
  const voted = sheet.own.filter((m) => m.verdict).length;
  return (
    <thead>
      <tr>
        <th scope="col">
          <Quiet>
            {sheet.rows.length} looks · {sheet.columns.length} frames
          </Quiet>
        </th>
        {sheet.columns.map((c) => (
          <th scope="col" key={c.id}>
            {c.name} <Quiet>{frames.find((f) => f.id === c.frame)?.light}</Quiet>
          </th>
        ))}
        <th scope="col">
          <Quiet>{sheet.hidden && voted < sheet.to_vote ? "your votes" : "votes"}</Quiet>
        </th>
      </tr>
    </thead>
  );
}

export function Grid(props: {
  sheet: ContactSheet;
  rows: SheetRow[];
  marks: Marks;
  onOpen: (row: SheetRow, column: number) => void;
  onNote: (row: SheetRow) => void;
}) {
  const { sheet, rows, marks, onOpen } = props;
  /** Arrows go from cell to cell; a letter votes. */
  const keys = (e: KeyboardEvent<HTMLTableElement>) => {
    if (!(e.target instanceof HTMLElement) || e.ctrlKey || e.metaKey || e.altKey) return;
    const [j, k] = (e.target.dataset.at ?? "").split(" ").map(Number);
    if (j === undefined || k === undefined || Number.isNaN(j) || Number.isNaN(k)) return;
    const way = WAYS[e.key];
    const verdict = KEYS[e.key.toLowerCase()];
    const row = rows[j - 1];
    if (way) e.currentTarget.querySelector<HTMLElement>(`[data-at="${j + way[0]} ${k + way[1]}"]`)?.focus();
    else if (verdict && row) marks.vote(row, sheet.columns[k]!.id, verdict);
    else return;
    e.preventDefault();
  };
  const cells = (row: SheetRow | null, j: number) =>
    sheet.columns.map((column, k) => (
      <Cell
        key={column.id}
        sheet={sheet}
        marks={marks}
        row={row}
        column={column}
        place={[j, k]}
        onOpen={onOpen}
      />
    ));
  return (
    <Scroll>
      <Table onKeyDown={keys} aria-label={sheet.name}>
        <Head sheet={sheet} />
        <tbody>
          <tr>
            <th scope="row">
              <Name>
                <Saucer src="/api/saucer/neutral" size={44} />
                <strong>Original</strong>
                <small>trimmed</small>
              </Name>
            </th>
            {cells(null, 0)}
            <td>
              <Quiet>to judge by</Quiet>
            </td>
          </tr>
          {rows.map((row, j) => (
            <tr key={row.id}>
              <th scope="row">
                <RowName sheet={sheet} row={row} onNote={() => props.onNote(row)} />
              </th>
              {cells(row, j + 1)}
              <td>{row.judged_by ? <Quiet>to judge by</Quiet> : <Counted sums={row.sums} />}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}
