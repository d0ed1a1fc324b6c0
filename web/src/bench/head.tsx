/** The top bar of the bench: the look, how far it is kept, and what to do with it as a whole. */
import { memo, useEffect, useState } from "react";
import { Menu, MenuItem, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import { useStore } from "zustand";
import type { DraftPresence, LookRecord } from "../api/types";
import { Button } from "../kit/button";
import { Menued } from "../kit/menued";
import { TopBar } from "../kit/topbar";
import { longAgo } from "../kit/when";
import { keysOf } from "./commands";
import { Portrait } from "./portrait";
import { setAside } from "./states";
import { redo, undo, useBench } from "./store";
import { view } from "./view";

/** A sheet that is opened over the bench. */
export type SheetName = "" | "keep" | "keys" | "vary";

const Title = styled.div`
  flex: 1;
  display: flex;
  align-items: center;
  gap: 10px;
  min-width: 0;
  justify-content: center;
`;
const Names = styled.div`
  min-width: 0;
  b {
    display: block;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    font-weight: 600;
  }
  span {
    color: var(--t2);
    font-size: 12px;
    white-space: nowrap;
  }
`;

/** How far the draft is kept, in words, brought up to date every few seconds. */
function useSavedWords(record: LookRecord | undefined): string {
  const saving = useBench((s) => s.saving);
  const savedAt = useBench((s) => s.savedAt);
  const trouble = useBench((s) => s.trouble);
  const [, tick] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => tick((n) => n + 1), 5000);
    return () => clearInterval(timer);
  }, []);
  const from = record?.revisions[0] ? `draft after r${record.revisions[0].number}` : "draft";
  if (saving === "kept") return `${from} · kept ${longAgo(savedAt)}`;
  if (saving === "away") return `${from} · kept in this browser, the server is away`;
  if (saving === "late") return `${from} · two versions`;
  if (saving === "refused") return trouble;
  return `${from} · keeping …`;
}

function Saved({ record }: { record: LookRecord }) {
  return <span role="status">{useSavedWords(record)}</span>;
}

/** Back and forth through the changes. */
function UndoRedo({ readOnly }: { readOnly: boolean }) {
  const edit = useBench((s) => s.edit);
  const past = useStore(useBench.temporal, (s) => s.pastStates.length > 0);
  const future = useStore(useBench.temporal, (s) => s.futureStates.length > 0);
  return (
    <>
      <Button
        look="quiet"
        aria-label={past ? `Undo ${edit}` : "Nothing to undo"}
        isDisabled={!past || readOnly}
        onPress={undo}
      >
        ↶{past && edit ? ` ${edit.length > 16 ? `${edit.slice(0, 15)}…` : edit}` : ""}
      </Button>
      <Button look="quiet" aria-label="Redo" isDisabled={!future || readOnly} onPress={redo}>
        ↷
      </Button>
    </>
  );
}

export const Head = memo(function Head(props: {
  look: LookRecord;
  presence: DraftPresence | null;
  readOnly: boolean;
  trimming: boolean;
  onSheet: (sheet: SheetName) => void;
  onBake: () => void;
}) {
  const { look, presence, readOnly, trimming, onSheet } = props;
  const more = (key: string) => {
    if (key === "vary") onSheet("vary");
    if (key === "aside") setAside(useBench.getState().draft);
    if (key === "trim") view({ trimming: !trimming });
  };
  return (
    <TopBar>
      <Title>
        <Portrait name={look.name} />
        <Names>
          <b>{look.name}</b>
          <Saved record={look} />
          {presence?.mine && presence.others.length ? (
            <span role="status">{` · ${presence.others.join(", ")} ${presence.others.length > 1 ? "look" : "looks"} on`}</span>
          ) : null}
        </Names>
      </Title>
      <UndoRedo readOnly={readOnly} />
      <MenuTrigger>
        <Button look="quiet">More ▾</Button>
        <Menued placement="bottom end">
          <Menu aria-label="More" onAction={(key) => more(String(key))}>
            {[
              { id: "vary", name: "Make a variation", note: "" },
              { id: "aside", name: "Set the draft aside as a state", note: keysOf("aside") },
              { id: "trim", name: trimming ? "Back to the look" : "Trim this frame", note: keysOf("trim") },
            ].map((o) => (
              <MenuItem key={o.id} id={o.id}>
                {o.name} <small>{o.note}</small>
              </MenuItem>
            ))}
          </Menu>
        </Menued>
      </MenuTrigger>
      <Button isDisabled={readOnly} onPress={() => onSheet("keep")}>
        Keep revision
      </Button>
      <Button look="main" isDisabled={readOnly && !look.revisions.length} onPress={props.onBake}>
        Bake
      </Button>
    </TopBar>
  );
});
