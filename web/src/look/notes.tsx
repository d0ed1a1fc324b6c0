/** Notes on a look with their replies; what is settled stands back. */
import { got, server } from "../api/client";
import { useMe } from "../api/queries";
import type { Note, Revision } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Apart, Quiet } from "../kit/layout";
import { NoteForm, NoteList, NoteRow } from "../kit/notes";
import type { Spot } from "../kit/pinning";

export interface Fresh {
  frame: number | null;
  spot: Spot | null;
}

interface Props {
  look: number;
  revision: Revision;
  notes: Note[];
  numbers: Map<number, number>;
  chosen: number | null;
  /** The place of a note that is being written; `null` where none is. */
  fresh: Fresh | null;
  frameName: (id: number) => string;
  onChoose: (note: Note) => void;
  onBegin: () => void;
  onDone: () => void;
}

export function Notes(props: Props) {
  const { notes, numbers, fresh } = props;
  const open = notes.filter((n) => !n.settled_by).length;
  return (
    <NoteList aria-label="Notes">
      <Apart>
        <h2>Notes</h2>
        <span>
          <Quiet>{notes.length ? `${notes.length}, ${open} open` : ""}</Quiet>{" "}
          <Button look="quiet" onPress={props.onBegin}>
            Pin a note
          </Button>
        </span>
      </Apart>
      {fresh ? <Writing {...props} fresh={fresh} /> : null}
      {notes.map((n) => (
        <One key={n.id} {...props} note={n} number={numbers.get(n.id)!} />
      ))}
      {notes.length || fresh ? null : (
        <Quiet>Nothing is said yet. P pins a note to a spot of the frame.</Quiet>
      )}
    </NoteList>
  );
}

const path = (look: number, note?: number) => ({ params: { path: { look_id: look, note_id: note! } } });

function Writing({ look, revision, fresh, frameName, onDone }: Props & { fresh: Fresh }) {
  const keep = useWrite(
    (text: string) => {
      const spot = fresh.frame !== null && fresh.spot ? { frame: fresh.frame, ...fresh.spot } : {};
      const body = { revision: revision.id, text, ...spot };
      return got(server.POST("/api/looks/{look_id}/notes", { ...path(look), body }));
    },
    ["notes"],
    onDone,
  );
  const label =
    fresh.spot && fresh.frame !== null
      ? `Note on a spot of ${frameName(fresh.frame)}`
      : "Note on the look as a whole";
  return (
    <NoteForm
      label={label}
      pending={keep.isPending}
      error={keep.error}
      onKeep={(text) => keep.mutate(text)}
      onCancel={onDone}
    />
  );
}

function One(props: Props & { note: Note; number: number }) {
  const { note, look, revision, frameName } = props;
  const { data: me } = useMe();
  const at = path(look, note.id);
  const reply = useWrite(
    (text: string) =>
      got(
        server.POST("/api/looks/{look_id}/notes/{note_id}/replies", {
          ...at,
          body: { revision: revision.id, text },
        }),
      ),
    ["notes"],
  );
  const settle = useWrite(
    () =>
      got(
        server.PUT("/api/looks/{look_id}/notes/{note_id}/settled", {
          ...at,
          body: { settled: !note.settled_by },
        }),
      ),
    ["notes"],
  );
  const drop = useWrite(() => got(server.DELETE("/api/looks/{look_id}/notes/{note_id}", at)), ["notes"]);
  const where = [note.frame !== null ? frameName(note.frame) : "", `on r${note.revision}`]
    .filter(Boolean)
    .join(" · ");
  return (
    <NoteRow
      number={props.number}
      note={note}
      where={where}
      replies={note.replies.map((r) => ({ ...r, where: `on r${r.revision}` }))}
      chosen={props.chosen === note.id}
      error={reply.error ?? settle.error ?? drop.error}
      onChoose={() => props.onChoose(note)}
      onReply={(text, kept) => reply.mutate(text, { onSuccess: kept })}
      onSettle={() => settle.mutate()}
      onDrop={note.mine || me?.may_lead ? () => drop.mutate() : null}
    />
  );
}
