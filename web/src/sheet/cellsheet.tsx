/** One cell of a contact sheet, large, and notes. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { useFrames } from "../api/queries";
import type { ContactSheet, SheetRow } from "../api/types";
import { Button } from "../kit/button";
import { Grow } from "../kit/layout";
import { Sheet } from "../kit/sheet";
import { Text } from "../kit/text";
import { InStep } from "../viewer/instep";
import { askedOfSheets, cellOf } from "./asked";
import { Counted, type Sums } from "./counted";
import { Sign, VERDICTS, type Verdict } from "./sign";

const Large = styled.img`
  display: block;
  width: 100%;
  max-height: 66vh;
  object-fit: contain;
  background: var(--surround);
`;

/** The cell, large; it plays where its frame stands for a clip. */
function Picture({ sheet, row, column }: { sheet: ContactSheet; row: SheetRow; column: number }) {
  const on = sheet.columns.find((c) => c.id === column);
  const { data: frames = [] } = useFrames();
  const frame = frames.find((f) => f.id === on?.frame);
  const clip = frame?.clip ? frame : null;
  const look = useQuery({ ...askedOfSheets.look(sheet.id, row.id), enabled: clip !== null }).data;
  if (clip && look)
    return (
      <InStep frame={clip} trim={clip.trim} pictures={[{ name: row.name, look }]} height="min(56vh, 520px)" />
    );
  return <Large src={cellOf(sheet, row.id, column, 1280)} alt={`${on?.name} under ${row.name}`} />;
}

/** One cell, large, with the vote and a note on it. */
export function CellSheet(props: {
  sheet: ContactSheet;
  row: SheetRow;
  column: number;
  said: { verdict: string; note: string } | undefined;
  sums: Sums;
  closed: boolean;
  onVote: (verdict: Verdict) => void;
  onNote: (note: string) => void;
  onClose: () => void;
}) {
  const { sheet, row, said } = props;
  const column = sheet.columns.find((c) => c.id === props.column);
  const [note, setNote] = useState(said?.note ?? "");
  const others = sheet.notes.filter((n) => n.row === row.id && n.column === props.column);
  return (
    <Sheet title={row.name} note={column?.name} width={1040} onClose={props.onClose}>
      <Picture sheet={sheet} row={row} column={props.column} />
      {others.map((n, k) => (
        <div key={k}>
          <strong>{n.by}</strong> {n.note}
        </div>
      ))}
      <footer>
        {props.closed || row.judged_by ? (
          <Counted sums={props.sums} />
        ) : (
          <>
            {VERDICTS.filter(([v]) => v).map(([verdict, label]) => (
              <Button
                key={verdict}
                aria-pressed={said?.verdict === verdict}
                onPress={() => props.onVote(verdict)}
              >
                <Sign verdict={verdict} size={14} /> {label}
                {said?.verdict === verdict ? " ✓" : ""}
              </Button>
            ))}
            <Grow />
            <Text
              label="Note on this picture"
              hidden
              hint="a note on this picture"
              value={note}
              onChange={setNote}
              maxLength={500}
            />
            <Button isDisabled={note === (said?.note ?? "")} onPress={() => props.onNote(note)}>
              Keep the note
            </Button>
          </>
        )}
      </footer>
    </Sheet>
  );
}

export function NoteSheet(props: {
  row: SheetRow;
  note: string;
  others: { by: string; note: string }[];
  closed: boolean;
  onKeep: (note: string) => void;
  onClose: () => void;
}) {
  const [note, setNote] = useState(props.note);
  return (
    <Sheet title={`Note on ${props.row.name}`} width={420} onClose={props.onClose}>
      {props.others.map((n, k) => (
        <div key={k}>
          <strong>{n.by}</strong> {n.note}
        </div>
      ))}
      {props.closed ? null : (
        <>
          <Text label="Your note" lines={3} value={note} onChange={setNote} maxLength={500} autoFocus />
          <footer>
            <Button onPress={props.onClose}>Cancel</Button>
            <Button look="main" onPress={() => props.onKeep(note)}>
              Keep
            </Button>
          </footer>
        </>
      )}
    </Sheet>
  );
}
