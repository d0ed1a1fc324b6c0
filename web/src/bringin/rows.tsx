/** What a pack brings, by folder: one row a look. */
import type { KeyboardEvent } from "react";
import {
  Checkbox,
  Collection,
  GridList,
  GridListHeader,
  GridListItem,
  GridListSection,
  ListLayout,
  Virtualizer,
  type Selection,
} from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { useEncodingLabel } from "../api/queries";
import type { EncodingKey, Frame, PackItem } from "../api/types";
import { Button } from "../kit/button";
import { Saucer } from "../kit/saucer";
import { inspectorOf } from "../inspect/subject";
import { Encodings, OPENER } from "./encodings";
import { toLookAt, unread, unsure, type Folder } from "./judging";

const ROW = 54;
const HEADING = 36;
const COLUMNS = "26px 48px minmax(110px, 1fr) 152px 84px 196px minmax(150px, 1.15fr)";

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
const Row = styled(GridListItem)`
  display: grid;
  grid-template-columns: ${COLUMNS};
  gap: 0 12px;
  align-items: center;
  height: ${ROW}px;
  padding: 0 14px;
  border-bottom: 1px solid var(--line);
  outline-offset: -2px !important;
  &[data-hovered],
  &[data-focused] {
    background: var(--g2);
  }
  > * {
    min-width: 0;
  }
  .name strong,
  .name small,
  .health span,
  .health small,
  .form span {
    display: block;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .name strong {
    font-weight: 600;
  }
  .name a {
    text-decoration: none;
  }
  .name a:hover {
    text-decoration: underline;
  }
  small {
    color: var(--t2);
    font-size: 12px;
  }
  .form {
    color: var(--t2);
    font-size: 12px;
  }
  .pictures {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 3px;
  }
  .pictures img {
    width: 100%;
    height: 44px;
    object-fit: cover;
    border-radius: 3px;
    display: block;
    background: var(--g0);
  }
  .pictures .none {
    grid-column: 1 / -1;
    height: 44px;
    border: 1px dashed var(--g4);
    border-radius: 3px;
    display: grid;
    place-items: center;
    color: var(--t2);
    font-size: 12px;
  }
  .warn {
    color: var(--warn);
  }
  &.out .name strong,
  &.out .pair {
    color: var(--t2);
  }
  .twin {
    display: flex;
    align-items: center;
    gap: 6px;
  }
  .fixed {
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;
export const Tick = styled(Checkbox)`
  width: 16px;
  height: 16px;
  border: 1px solid var(--t2);
  border-radius: 4px;
  display: grid;
  place-items: center;
  cursor: pointer;
  flex: none;
  &[data-selected],
  &[data-indeterminate] {
    background: var(--accent);
    border-color: var(--accent);
  }
  &[data-indeterminate] {
    background: none;
    border-color: var(--t1);
  }
  &[data-indeterminate]:after {
    content: "";
    width: 8px;
    height: 2px;
    background: var(--t1);
  }
  &[data-disabled] {
    border-color: var(--g4);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
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

export interface Say {
  (
    ids: number[],
    said: { chosen?: boolean; expects?: EncodingKey; gives?: EncodingKey; name?: string },
  ): void;
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
          <Into key={into} value={into} of={folder} onChange={(name) => props.onCollection(folder, name)} />
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

const Name = styled.input`
  background: none;
  border: 1px solid transparent;
  border-radius: 4px;
  padding: 2px 6px;
  font-weight: 600;
  width: 190px;
  &:hover {
    border-color: var(--g4);
  }
`;

/** The collection that a folder becomes; empty for none. */
function Into(props: { value: string; of: string; onChange: (name: string) => void }) {
  return (
    <Name
      aria-label={`Collection for ${props.of}`}
      defaultValue={props.value}
      placeholder="no collection"
      maxLength={80}
      onBlur={(e) => e.target.value !== props.value && props.onChange(e.target.value)}
      // The list would take letters for a search among its rows.
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter") e.currentTarget.blur();
      }}
    />
  );
}

function ItemRow(props: {
  item: PackItem;
  frame: Frame | null;
  onSay: (said: { chosen?: boolean; expects?: EncodingKey; gives?: EncodingKey }) => void;
}) {
  const { item, frame } = props;
  const read = `${item.expects}-${item.gives}-${item.name}`;
  const bad = unread(item);
  return (
    <Row id={String(item.id)} textValue={item.name} className={item.chosen && !bad ? "" : "out"}>
      <Tick slot="selection" aria-label={`Keep ${item.name}`} />
      <Saucer
        src={bad || item.kept ? null : `/api/packs/items/${item.id}/saucer?size=112&v=${read}`}
        size={42}
        of={item.name}
      />
      <div className="name">
        <strong>
          {bad || item.kept ? (
            item.name
          ) : (
            <Link to={inspectorOf({ kind: "item", key: item.id })}>{item.name}</Link>
          )}
        </strong>
        <small>{bad ? "" : item.words.slice(0, 3).join(", ")}</small>
      </div>
      <div className="pictures">
        {bad || !frame || item.kept ? (
          <span className="none">{item.kept ? "kept" : bad ? "no picture" : "no frame"}</span>
        ) : (
          <>
            <img src={`/api/frames/${frame.id}/still?width=320&v=${frame.version}`} alt="" loading="lazy" />
            <img
              src={`/api/packs/items/${item.id}/still?frame=${frame.id}&width=320&v=${read}`}
              alt={`${frame.name} under ${item.name}`}
              loading="lazy"
            />
          </>
        )}
      </div>
      <div className="form">
        {item.form.split(", ").map((part) => (
          <span key={part}>{part}</span>
        ))}
      </div>
      {bad ? <small>not known</small> : <Encodings item={item} onSay={props.onSay} />}
      <Health item={item} onKeep={() => props.onSay({ chosen: true })} />
    </Row>
  );
}

/** Damage, twins and doubts of one row, the gravest first. */
function Health({ item, onKeep }: { item: PackItem; onKeep: () => void }) {
  const label = useEncodingLabel();
  if (unread(item)) {
    return (
      <div className="health">
        <span className="warn">cannot be read</span>
        <small title={item.reason}>{item.reason}</small>
      </div>
    );
  }
  if (item.twin) {
    return (
      <div className="health">
        <span>
          {item.twin.same ? "the same as" : "twin of"} {item.twin.name}
        </span>
        <small className="twin">
          ΔE {item.twin.apart.toFixed(2)}, {item.chosen ? "kept beside it" : "left out"}
          {item.chosen || item.kept ? null : (
            <Button look="quiet" onPress={onKeep}>
              keep both
            </Button>
          )}
        </small>
      </div>
    );
  }
  const [first, ...more] = item.findings;
  const rival = unsure(item) ? item.guess?.rival : null;
  if (rival && rival.apart < item.far) {
    return (
      <div className="health" title={item.findings.join("\n")}>
        <span className="warn">changes a picture by ΔE {item.far.toFixed(1)}</span>
        <small>
          as {label(rival.expects)} → {label(rival.gives)} by {rival.apart.toFixed(1)}
        </small>
      </div>
    );
  }
  return (
    <div className="health" title={item.findings.join("\n")}>
      <span className={toLookAt(item) && item.serious ? "warn" : ""}>{first ?? "sound"}</span>
      <small>{more.length ? more.join("; ") : `changes a picture by ΔE ${item.far.toFixed(1)}`}</small>
    </div>
  );
}
