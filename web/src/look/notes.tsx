/** Notes on a look with their replies; what is settled stands back. */
import { useState } from "react";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useMe } from "../api/queries";
import type { Note, Revision } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Apart, Quiet } from "../kit/layout";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";
import type { Spot } from "./seen";

const Box = styled.section`
  .note {
    display: grid;
    grid-template-columns: 24px 1fr;
    gap: 2px 10px;
    padding: 7px 0;
  }
  .number {
    width: 20px;
    height: 20px;
    border-radius: 50%;
    border: 1.5px solid var(--t1);
    font-size: 11.5px;
    display: grid;
    place-items: center;
    cursor: pointer;
    background: none;
    padding: 0;
  }
  .note.chosen .number {
    background: var(--accent);
    border-color: var(--accent);
    color: var(--on-accent);
  }
  .note.settled {
    color: var(--t2);
  }
  .note.settled .number {
    border-color: var(--g4);
  }
  p {
    overflow-wrap: anywhere;
  }
  .reply {
    border-left: 2px solid var(--g4);
    padding-left: 9px;
    margin-top: 5px;
  }
  .does {
    display: flex;
    gap: 2px;
    margin-left: -8px;
  }
  .does button {
    height: 22px;
    font-size: 12px;
  }
`;

export interface Fresh {
  frame: number | null;
  spot: Spot | null;
}

export function Notes(props: {
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
}) {
  const { notes, numbers, fresh } = props;
  const open = notes.filter((n) => !n.settled_by).length;
  return (
    <Box aria-label="Notes">
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
    </Box>
  );
}

const path = (look: number, note?: number) => ({ params: { path: { look_id: look, note_id: note! } } });

function Writing(props: {
  look: number;
  revision: Revision;
  fresh: Fresh;
  frameName: (id: number) => string;
  onDone: () => void;
}) {
  const { fresh } = props;
  const [text, setText] = useState("");
  const keep = useWrite(
    () => {
      const spot = fresh.frame !== null && fresh.spot ? { frame: fresh.frame, ...fresh.spot } : {};
      return got(
        server.POST("/api/looks/{look_id}/notes", {
          ...path(props.look),
          body: { revision: props.revision.id, text, ...spot },
        }),
      );
    },
    ["notes"],
    props.onDone,
  );
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        keep.mutate();
      }}
    >
      <Text
        label={
          fresh.spot && fresh.frame !== null
            ? `Note on a spot of ${props.frameName(fresh.frame)}`
            : "Note on the look as a whole"
        }
        lines={2}
        value={text}
        onChange={setText}
        maxLength={4000}
        autoFocus
      />
      <Trouble error={keep.error} />
      <div className="does">
        <Button look="quiet" type="submit" isDisabled={!text.trim() || keep.isPending}>
          Keep
        </Button>
        <Button look="quiet" onPress={props.onDone}>
          Cancel
        </Button>
      </div>
    </form>
  );
}

function One(props: {
  look: number;
  revision: Revision;
  note: Note;
  number: number;
  chosen: number | null;
  frameName: (id: number) => string;
  onChoose: (note: Note) => void;
}) {
  const { note, look } = props;
  const { data: me } = useMe();
  const [replying, setReplying] = useState(false);
  const [text, setText] = useState("");
  const reply = useWrite(
    () =>
      got(
        server.POST("/api/looks/{look_id}/notes/{note_id}/replies", {
          ...path(look, note.id),
          body: { revision: props.revision.id, text },
        }),
      ),
    ["notes"],
    () => {
      setText("");
      setReplying(false);
    },
  );
  const settle = useWrite(
    () =>
      got(
        server.PUT("/api/looks/{look_id}/notes/{note_id}/settled", {
          ...path(look, note.id),
          body: { settled: !note.settled_by },
        }),
      ),
    ["notes"],
  );
  const drop = useWrite(
    () => got(server.DELETE("/api/looks/{look_id}/notes/{note_id}", path(look, note.id))),
    ["notes"],
  );
  const where = [note.frame !== null ? props.frameName(note.frame) : "", `on r${note.revision}`]
    .filter(Boolean)
    .join(" · ");
  const kind = ["note", props.chosen === note.id ? "chosen" : "", note.settled_by ? "settled" : ""].join(" ");
  return (
    <div className={kind}>
      <button
        type="button"
        className="number"
        aria-label={`Show note ${props.number}`}
        onClick={() => props.onChoose(note)}
      >
        {props.number}
      </button>
      <div>
        <strong>{note.by}</strong> <Quiet>{where}</Quiet>
        <p>{note.text}</p>
        {note.settled_by ? <Quiet>settled by {note.settled_by}</Quiet> : null}
        {note.replies.map((r) => (
          <div className="reply" key={r.id}>
            <strong>{r.by}</strong> <Quiet>on r{r.revision}</Quiet>
            <p>{r.text}</p>
          </div>
        ))}
        {replying ? (
          <form
            onSubmit={(e) => {
              e.preventDefault();
              reply.mutate();
            }}
          >
            <Text
              label={`Reply to note ${props.number}`}
              hidden
              hint="Reply …"
              value={text}
              onChange={setText}
              maxLength={4000}
              autoFocus
            />
          </form>
        ) : null}
        <Trouble error={reply.error ?? settle.error ?? drop.error} />
        <div className="does">
          <Button
            look="quiet"
            onPress={() => (replying && text.trim() ? reply.mutate() : setReplying(!replying))}
          >
            {replying && text.trim() ? "Send" : "Reply"}
          </Button>
          <Button look="quiet" onPress={() => settle.mutate()}>
            {note.settled_by ? "Open again" : "Settle"}
          </Button>
          {note.mine || me?.may_lead ? (
            <Button look="quiet" onPress={() => drop.mutate()}>
              Take away
            </Button>
          ) : null}
        </div>
      </div>
    </div>
  );
}
