/** Sheets over the screen, notices, and the states of a page: empty, loading, failing, not allowed. */
import type { ReactNode } from "react";
import { Dialog, Heading, Modal, ModalOverlay } from "react-aria-components";
import styled from "styled-components";
import { Problem, words } from "../api/client";
import { Button } from "./controls";

const Shade = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  background: #000a;
  display: grid;
  place-items: center;
  z-index: 20;
`;
const Panel = styled(Modal)`
  background: var(--g1);
  border: 1px solid var(--g4);
  border-radius: 10px;
  max-height: 92vh;
  max-width: 94vw;
  overflow: auto;
  [role="dialog"] {
    outline: none;
    padding: 20px 22px;
    display: flex;
    flex-direction: column;
    gap: 14px;
  }
  header {
    display: flex;
    align-items: baseline;
    gap: 12px;
  }
  header > [slot="title"] {
    flex: 1;
  }
  footer {
    display: flex;
    gap: 10px;
    justify-content: flex-end;
    align-items: center;
    padding-top: 4px;
  }
`;

/** A sheet over the screen; Escape or a click beside it closes it. */
export function Sheet(props: { title: string; width: number; onClose: () => void; children: ReactNode; note?: string }) {
  return (
    <Shade isOpen isDismissable onOpenChange={(open) => !open && props.onClose()}>
      <Panel style={{ width: props.width }}>
        <Dialog>
          <header>
            <Heading slot="title" level={1}>
              {props.title}
            </Heading>
            {props.note ? <span style={{ color: "var(--t2)" }}>{props.note}</span> : null}
            <Button look="icon" aria-label="Close" onPress={props.onClose}>
              ✕
            </Button>
          </header>
          {props.children}
        </Dialog>
      </Panel>
    </Shade>
  );
}

const Bar = styled.div`
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 9px 16px;
  background: var(--g2);
  border-bottom: 1px solid var(--line);
  border-left: 3px solid var(--warn);
  p {
    flex: 1;
  }
`;

/** A line across the screen about something that wants attention. */
export function Notice(props: { children: ReactNode; actions?: ReactNode }) {
  return (
    <Bar role="alert">
      <p>{props.children}</p>
      {props.actions}
    </Bar>
  );
}

/** What went wrong with what was just asked for, beside where it was asked. */
export function Trouble(props: { error: unknown }) {
  if (!props.error) return null;
  return (
    <p role="alert" style={{ color: "var(--warn)" }}>
      {words(props.error)}
    </p>
  );
}

const Middle = styled.div`
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 14px;
  height: 100%;
  min-height: 220px;
  text-align: center;
  padding: 24px;
  color: var(--t2);
  h1 {
    color: var(--t1);
  }
  p {
    max-width: 46ch;
  }
`;

/** A page, or part of one, that has nothing to show yet. */
export function Empty(props: { title: string; children?: ReactNode; action?: ReactNode }) {
  return (
    <Middle>
      <h1>{props.title}</h1>
      {props.children ? <p>{props.children}</p> : null}
      {props.action}
    </Middle>
  );
}

/** Loading and failing, in the place where the content will be. */
export function Waiting(props: { query: { isPending: boolean; error: unknown; refetch: () => unknown }; what: string }) {
  const { error } = props.query;
  if (!error) {
    return (
      <Middle role="status" aria-label={`Loading ${props.what}`}>
        Loading {props.what} …
      </Middle>
    );
  }
  const status = error instanceof Problem ? error.status : 0;
  const title = status === 403 ? "Not for your role" : status === 404 ? "Not here" : `The ${props.what} did not arrive`;
  return (
    <Empty
      title={title}
      action={status === 403 || status === 404 ? undefined : <Button onPress={() => props.query.refetch()}>Try again</Button>}
    >
      {error instanceof Error ? error.message : ""}
    </Empty>
  );
}
