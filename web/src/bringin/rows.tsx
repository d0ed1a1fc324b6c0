/** What a pack brings, by folder: one row a look. */
import type { KeyboardEvent } from "react";
import {
  Collection,
  GridList,
  GridListHeader,
  GridListSection,
  ListLayout,
  Virtualizer,
  type Selection,
} from "react-aria-components";

import styled from "styled-components";

import type { Frame } from "../api/types";
import { Button } from "../kit/button";
import { InPlace } from "../kit/inplace";
import { Tick } from "../kit/tick";

import { OPENER } from "./encodings";
import { unread, type Folder } from "./judging";
import { ItemRow } from "./itemrow";
import { COLUMNS, ROW } from "./columns";
import type { Say } from "./columns";

const HEADING = 36;

export const Heads = styled.div`
  display: grid;
  grid-template-columns: ${COLUMNS};
  gap: 0 12px;
  padding: 6px 14px;
  color: var(--t2);
  font-size: 12px;
  border-bottom: 1px solid var(--line);
  align-items: center;
`;
const List = styled(GridList)`
  flex: 1;
  min-height: 0;
  overflow: auto;
  outline: none;
  .react-aria-GridListHeader {
    height: ${HEADING}px;
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 0 14px;
    border-bottom: 1px solid var(--line);
    background: var(--g1);
    color: var(--t2);
  }
  .react-aria-GridListHeader strong {
    color: var(--t1);
    font-weight: 600;
  }
  .react-aria-GridListHeader > span:last-child,
  .react-aria-GridListHeader > button:last-child {
    margin-left: auto;
  }
`;
const Keys = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
`;

/** E on a row opens what it expects and gives. */
function opensEncodings(e: KeyboardEvent) {
  if (e.key.toLowerCase() !== "e" || e.ctrlKey || e.metaKey || !(e.target instanceof HTMLElement)) return;
  if (e.target.getAttribute("role") === "row") e.target.querySelector<HTMLElement>(`[${OPENER}]`)?.click();
}

export function Rows(props: {
  folders: Folder[];
  frame: Frame | null;
  collections: Record<string, string>;
  onCollection: (folder: string, name: string) => void;
  onOpen: (folder: string) => void;
  onSay: Say;
}) {
  const rows = props.folders.flatMap((f) => f.shown);
  const chosen = new Set(rows.filter((i) => i.chosen && !unread(i)).map((i) => String(i.id)));
  const choose = (next: Selection) => {
    const now = next === "all" ? new Set(rows.map((i) => String(i.id))) : new Set([...next].map(String));
    const changed = rows.filter((i) => !unread(i) && !i.kept && now.has(String(i.id)) !== i.chosen);
    const on = changed.filter((i) => now.has(String(i.id))).map((i) => i.id);
    const off = changed.filter((i) => !now.has(String(i.id))).map((i) => i.id);
    if (on.length) props.onSay(on, { chosen: true });
    if (off.length) props.onSay(off, { chosen: false });
  };
  return (
    <Keys onKeyDown={opensEncodings}>
      <Virtualizer layout={ListLayout} layoutOptions={{ rowHeight: ROW, headingHeight: HEADING }}>
        <List
          aria-label="What the pack brings"
          selectionMode="multiple"
          selectionBehavior="toggle"
          keyboardNavigationBehavior="tab"
          selectedKeys={chosen}
          disabledKeys={rows.filter((i) => unread(i) || i.kept).map((i) => String(i.id))}
          disabledBehavior="selection"
          onSelectionChange={choose}
        >
          {props.folders.map((f) => (
            <GridListSection
              key={f.folder}
              id={`folder ${f.folder}`}
              aria-label={f.folder || "Not in a folder"}
            >
              <Head {...props} of={f} />
              <Collection items={f.shown} dependencies={[props.frame]}>
                {(item) => (
                  <ItemRow item={item} frame={props.frame} onSay={(said) => props.onSay([item.id], said)} />
                )}
              </Collection>
            </GridListSection>
          ))}
        </List>
      </Virtualizer>
    </Keys>
  );
}

function Head(props: {
  of: Folder;
  collections: Record<string, string>;
  onCollection: (folder: string, name: string) => void;
  onOpen: (folder: string) => void;
  onSay: Say;
}) {
  const { folder, all, away } = props.of;
  const open = all.filter((i) => !unread(i) && !i.kept);
  const on = open.filter((i) => i.chosen).length;
  const into = props.collections[folder] ?? "";
  return (
    <GridListHeader>
      <Tick
        aria-label={`Keep all of ${folder || "the top folder"}`}
        isSelected={on > 0 && on === open.length}
        isIndeterminate={on > 0 && on < open.length}
        isDisabled={open.length === 0}
        onChange={(chosen) =>
          props.onSay(
            open.map((i) => i.id),
            { chosen },
          )
        }
      />
      <strong>{folder || "not in a folder"}</strong>
      {all.length} {all.length === 1 ? "file" : "files"}
      {folder ? (
        <>
          <span aria-hidden>→</span>
          <InPlace
            label={`Collection for ${folder}`}
            value={into}
            hint="no collection"
            longest={80}
            onChange={(name) => props.onCollection(folder, name)}
          />
        </>
      ) : null}
      {away ? (
        <Button look="quiet" onPress={() => props.onOpen(folder)}>
          {away} more, all sound
        </Button>
      ) : (
        <span />
      )}
    </GridListHeader>
  );
}
