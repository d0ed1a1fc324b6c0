/** A list of notes with their replies, and the field a new one is written in; what is settled stands back. */
import { useState, type ReactNode } from "react";
import styled from "styled-components";
import { Button } from "./button";
import { Quiet } from "./layout";
import { Text } from "./text";
import { Trouble } from "./trouble";

export const NoteList = styled.section`
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
  h2 + span {
    display: flex;
    align-items: center;
    gap: 8px;
  }
  p {
    overflow-wrap: anywhere;
  }
  .reply {
    border-left: 2px solid var(--g4);
    padding-left: 9px;
    margin-top: 5px;
  }
`;
const Does = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 2px;
  margin-left: -8px;
  button {
    height: 22px;
    font-size: 12px;
  }
`;

/** Words of a note that is being written. children: fields beside the words. */
export function NoteForm(props: {
  label: string;
  pending: boolean;
  error: unknown;
  onKeep: (text: string) => void;
  onCancel: () => void;
  children?: ReactNode;
}) {
  const [text, setText] = useState("");
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        props.onKeep(text);
      }}
    >
      <Text label={props.label} lines={2} value={text} onChange={setText} maxLength={4000} autoFocus />
      {props.children}
      <Trouble error={props.error} />
      <Does>
        <Button look="quiet" type="submit" isDisabled={!text.trim() || props.pending}>
          Keep
        </Button>
        <Button look="quiet" onPress={props.onCancel}>
          Cancel
        </Button>
      </Does>
    </form>
  );
}

interface Reply {
  id: number;
  by: string;
  text: string;
  /** Of what it speaks. */
  where?: string;
}

/** One note. children: more that can be done. */
export function NoteRow(props: {
  number: number;
  note: { by: string; text: string; settled_by: string | null };
  where: string;
  replies: readonly Reply[];
  chosen: boolean;
  error: unknown;
  onChoose: () => void;
  /** Sends a reply; tells when it is kept. */
  onReply: (text: string, kept: () => void) => void;
  onSettle: () => void;
  /** Nothing for those who may not. */
  onDrop: (() => void) | null;
  children?: ReactNode;
}) {
  const { note, number, onReply } = props;
  const [replying, setReplying] = useState(false);
  const [text, setText] = useState("");
  const kind = ["note", props.chosen ? "chosen" : "", note.settled_by ? "settled" : ""].join(" ");
  const send = () =>
    onReply(text, () => {
      setText("");
      setReplying(false);
    });
  return (
    <div className={kind}>
      <button
        type="button"
        className="number"
        aria-label={`Show note ${number}`}
        aria-pressed={props.chosen}
        onClick={props.onChoose}
      >
        {number}
      </button>
      <div>
        <strong>{note.by}</strong> <Quiet>{props.where}</Quiet>
        <p>{note.text}</p>
        {note.settled_by ? <Quiet>settled by {note.settled_by}</Quiet> : null}
        {props.replies.map((r) => (
          <div className="reply" key={r.id}>
            <strong>{r.by}</strong> {r.where ? <Quiet>{r.where}</Quiet> : null}
            <p>{r.text}</p>
          </div>
        ))}
        {replying ? (
          <form
            onSubmit={(e) => {
              e.preventDefault();
              send();
            }}
          >
            <Text
              label={`Reply to note ${number}`}
              hidden
              hint="Reply …"
              value={text}
              onChange={setText}
              maxLength={4000}
              autoFocus
            />
          </form>
        ) : null}
        <Trouble error={props.error} />
        <Does>
          <Button look="quiet" onPress={() => (replying && text.trim() ? send() : setReplying(!replying))}>
            {replying && text.trim() ? "Send" : "Reply"}
          </Button>
          <Button look="quiet" onPress={props.onSettle}>
            {note.settled_by ? "Open again" : "Settle"}
          </Button>
          {props.onDrop ? (
            <Button look="quiet" onPress={props.onDrop}>
              Take away
            </Button>
          ) : null}
          {props.children}
        </Does>
      </div>
    </div>
  );
}
