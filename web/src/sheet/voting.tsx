/**
 * A contact sheet: looks by frames, one's own votes on the cells, everybody's sums, and the names at the end.
 */
import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import type { ContactSheet, SheetRow } from "../api/types";
import { Button } from "../kit/button";
import { KeyCap } from "../kit/keycap";
import { Grow } from "../kit/layout";
import { ToBin } from "../kit/tobin";
import { Page, TopBar } from "../kit/topbar";
import { Trouble } from "../kit/trouble";
import { CellSheet, NoteSheet } from "./cellsheet";
import { NONE } from "./counted";
import { Grid } from "./grid";
import { at, sorted, useMarks, type Marks } from "./marks";
import { Sign, VERDICTS } from "./sign";
import { Tools } from "./tools";

const Body = styled.main`
  display: flex;
  flex-direction: column;
`;
const Line = styled.div`
  flex: none;
  border-top: 1px solid var(--line);
  background: var(--g1);
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 10px 18px;
  color: var(--t2);
`;
const Key = styled.span`
  display: inline-flex;
  align-items: center;
  gap: 6px;
`;
/** Pixels: the width of a picture to begin with. */
const SIZE = 134;

function Bar({ sheet }: { sheet: ContactSheet }) {
  const navigate = useNavigate();
  const all = () => void navigate("/catalogue/sheet/all");
  return (
    <TopBar>
      <Grow />
      {sheet.may_close ? (
        <ToBin
          what="sheet"
          remove={() =>
            got(server.DELETE("/api/sheets/{sheet_id}", { params: { path: { sheet_id: sheet.id } } }))
          }
          stale={["sheets"]}
          onGone={all}
        />
      ) : null}
      <Button look="quiet" onPress={all}>
        All sheets
      </Button>
    </TopBar>
  );
}

/** What keys do, how far everybody is, and the end of the vote. */
function Foot({ sheet, marks }: { sheet: ContactSheet; marks: Marks }) {
  const voted = sheet.own.filter((m) => m.verdict).length;
  return (
    <Line>
      {marks.closed ? (
        <span>The vote is over, closed by {sheet.closed_by}.</span>
      ) : (
        <>
          {VERDICTS.map(([verdict, label, key]) => (
            <Key key={verdict}>
              <Sign verdict={verdict} size={15} /> {label} <KeyCap>{key}</KeyCap>
            </Key>
          ))}
          <span>
            <KeyCap>arrows</KeyCap> move <KeyCap>Enter</KeyCap> large
          </span>
        </>
      )}
      <Trouble error={marks.error} />
      <Grow />
      <span>
        {marks.closed ? null : (
          <strong>
            {voted} of {sheet.to_vote} voted{" "}
          </strong>
        )}
        {sheet.people.map((p) => `${p.name} ${p.votes}`).join(" · ")}
      </span>
      {sheet.may_close && !marks.closed ? (
        <Button look="main" isDisabled={marks.close.isPending} onPress={() => marks.close.mutate()}>
          {sheet.blind ? "Close the vote, show names" : "Close the vote"}
        </Button>
      ) : null}
    </Line>
  );
}

export function Voting({ sheet }: { sheet: ContactSheet }) {
  const [size, setSize] = useState(SIZE);
  const [sort, setSort] = useState("");
  const [open, setOpen] = useState<{ row: SheetRow; column: number } | null>(null);
  const [noting, setNoting] = useState<SheetRow | null>(null);
  const marks = useMarks(sheet);
  const cell = open ? at(open.row.id, open.column) : "";
  return (
    <Page>
      <Bar sheet={sheet} />
      <Body style={{ "--cell": `${size}px` }}>
        <Tools sheet={sheet} marks={marks} size={size} onSize={setSize} sort={sort} onSort={setSort} />
        <Grid
          sheet={sheet}
          rows={sorted(sheet.rows, sort)}
          marks={marks}
          onOpen={(row, column) => setOpen({ row, column })}
          onNote={setNoting}
        />
        <Foot sheet={sheet} marks={marks} />
      </Body>
      {open ? (
        <CellSheet
          sheet={sheet}
          row={open.row}
          column={open.column}
          said={marks.own.get(cell)}
          sums={marks.cells.get(cell) ?? NONE}
          closed={marks.closed}
          onVote={(verdict) => marks.vote(open.row, open.column, verdict)}
          onNote={(note) => marks.note(open.row.id, open.column, note)}
          onClose={() => setOpen(null)}
        />
      ) : null}
      {noting ? (
        <NoteSheet
          row={noting}
          note={marks.own.get(at(noting.id, null))?.note ?? ""}
          others={sheet.notes.filter((n) => n.row === noting.id && n.column === null)}
          closed={marks.closed}
          onKeep={(note) => {
            marks.note(noting.id, null, note);
            setNoting(null);
          }}
          onClose={() => setNoting(null)}
        />
      ) : null}
    </Page>
  );
}
