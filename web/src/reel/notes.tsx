/** Notes on moments of a project, with their replies. */
import { useState } from "react";
import { got, server } from "../api/client";
import { useMe } from "../api/queries";
import type { ReelNote } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Apart, Quiet } from "../kit/layout";
import { NoteForm, NoteList, NoteRow } from "../kit/notes";
import { NumberBox } from "../kit/numberbox";
import type { Spot } from "../kit/pinning";
import type { Take } from "./takes";

/** A note that is being written. */
export interface Fresh {
  take: Take;
  number: number;
  spot: Spot | null;
}

interface Props {
  project: number;
  notes: readonly ReelNote[];
  takes: readonly Take[];
  chosen: number | null;
  /** The note whose look is shown. */
  then: number | null;
  fresh: Fresh | null;
  onChoose: (note: ReelNote) => void;
  onThen: (note: ReelNote) => void;
  onBegin: () => void;
  onDone: () => void;
}

const path = (project: number, note?: number) => ({
  params: { path: { project_id: project, note_id: note! } },
});
/** Answers that a note changes. */
const STALE = ["reel notes", "waiting"] as const;

/** Where a note stands, in words: the shot, and its frames as the reel counts them. */
function whereWords(note: ReelNote, take: Take | undefined): string {
  if (!take) return `${note.place}, taken out since`;
  if (!take.rate) return note.place;
  const at = (number: number) => number - take.first + 1;
  return `${note.place} · frame${note.last > note.first ? `s ${at(note.first)}–${at(note.last)}` : ` ${at(note.first)}`}`;
}
const worn = (note: ReelNote) =>
  note.wore.map((w) => `${w.words}${w.strength < 1 ? ` ${Math.round(w.strength * 100)} %` : ""}`).join(" + ");
/** Whether something else is on the shot now. */
const changed = (note: ReelNote, take: Take) =>
  note.wore.length > 0 &&
  JSON.stringify(note.wore.map((w) => [w.revision, w.strength])) !==
    JSON.stringify(take.shot.layers.map((l) => [l.revision.id, l.strength]));

export function ReelNotes(props: Props) {
  const { notes, takes, fresh } = props;
  const open = notes.filter((n) => !n.settled_by).length;
  return (
    <NoteList aria-label="Notes">
      <Apart>
        <h2>Notes</h2>
        <span>
          <Quiet>{notes.length ? `${notes.length}, ${open} open` : ""}</Quiet>{" "}
          <Button onPress={props.onBegin} aria-keyshortcuts="P">
            Pin a note here
          </Button>
        </span>
      </Apart>
      {fresh ? <Writing {...props} fresh={fresh} /> : null}
      {notes.map((note, k) => (
        <One
          key={note.id}
          {...props}
          note={note}
          number={k + 1}
          take={takes.find((t) => t.shot.id === note.shot)}
        />
      ))}
      {notes.length || fresh ? null : <Quiet>Nothing is said yet. P pins a note to what is shown.</Quiet>}
    </NoteList>
  );
}

function Writing({ project, fresh, onDone }: Props & { fresh: Fresh }) {
  const { take, number, spot } = fresh;
  const [last, setLast] = useState(number);
  const keep = useWrite(
    (text: string) => {
      const body = { shot: take.shot.id, first: number, last, text, ...(spot ?? {}) };
      return got(server.POST("/api/projects/{project_id}/notes", { ...path(project), body }));
    },
    STALE,
    onDone,
  );
  const at = number - take.first + 1;
  return (
    <NoteForm
      label={`Note on ${take.shot.number} ${take.shot.name}${take.rate ? `, frame ${at}` : ""}`}
      pending={keep.isPending}
      error={keep.error}
      onKeep={(text) => keep.mutate(text)}
      onCancel={onDone}
    >
      {take.rate ? (
        <Quiet>
          to frame{" "}
          <NumberBox
            label="to frame"
            value={last - take.first + 1}
            low={at}
            high={take.last - take.first + 1}
            fine={1}
            digits={0}
            onChange={(v) => setLast(v + take.first - 1)}
          />
        </Quiet>
      ) : null}
    </NoteForm>
  );
}

function One(props: Props & { note: ReelNote; number: number; take: Take | undefined }) {
  const { note, project, take } = props;
  const { data: me } = useMe();
  const at = path(project, note.id);
  const reply = useWrite(
    (text: string) =>
      got(server.POST("/api/projects/{project_id}/notes/{note_id}/replies", { ...at, body: { text } })),
    STALE,
  );
  const settle = useWrite(
    () =>
      got(
        server.PUT("/api/projects/{project_id}/notes/{note_id}/settled", {
          ...at,
          body: { settled: !note.settled_by },
        }),
      ),
    STALE,
  );
  const drop = useWrite(() => got(server.DELETE("/api/projects/{project_id}/notes/{note_id}", at)), STALE);
  const under = worn(note);
  return (
    <NoteRow
      number={props.number}
      note={note}
      where={[whereWords(note, take), under && `under ${under}`].filter(Boolean).join(" · ")}
      replies={note.replies}
      chosen={props.chosen === note.id}
      error={reply.error ?? settle.error ?? drop.error}
      onChoose={() => props.onChoose(note)}
      onReply={(text, kept) => reply.mutate(text, { onSuccess: kept })}
      onSettle={() => settle.mutate()}
      onDrop={note.mine || me?.may_lead ? () => drop.mutate() : null}
    >
      {take && changed(note, take) ? (
        <Button look="quiet" onPress={() => props.onThen(note)}>
          {props.then === note.id ? "As it is now" : "Beside what was noted"}
        </Button>
      ) : null}
    </NoteRow>
  );
}
