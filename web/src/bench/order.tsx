/** The order: the steps from top to bottom, between what comes in and what goes out. The line around them is the bake. */
import { memo, useRef, useState } from "react";
import {
  Button as AriaButton, Collection, DropIndicator, GridList, GridListItem, Header, Input, Menu, MenuItem, MenuSection, MenuTrigger, Autocomplete,
  SearchField, useDragAndDrop, useFilter, DialogTrigger, Dialog,
} from "react-aria-components";
import styled from "styled-components";
import { useStore } from "zustand";
import { useEncodingLabel, useEncodings } from "../api/queries";
import type { EncodingKey, Kind, Step } from "../api/types";
import { Button, Choice, Menued, Switch } from "../kit/controls";
import type { Feed } from "../viewer/live";
import { useCalmDraft } from "./calm";
import { changeStep, useBench } from "./store";
import { copy, create, flatten, group, insert, move, remove, shift, ungroup, type Placed } from "./steps";
import { TinyTrace } from "./trace";
import { summary, titleOf } from "./words";

const Column = styled.aside`
  width: 232px; flex: none; border-right: 1px solid var(--line); background: var(--g1); display: flex; flex-direction: column; min-height: 0;
  > header { display: flex; align-items: center; padding: 12px 8px 6px 14px; gap: 4px; }
  > header h2 { flex: 1; }
  .ends { padding: 2px 8px 2px 18px; display: flex; align-items: center; color: var(--t2); font-size: 12px; gap: 2px; white-space: nowrap; }
  .scroll { flex: 1; overflow: auto; min-height: 0; padding-bottom: 12px; }
  .bracket { border-left: 2px solid var(--accent); margin-left: 16px; }
  .empty { padding: 14px; color: var(--t2); }
  .foot { padding: 8px 8px 8px 14px; display: flex; gap: 4px; border-top: 1px solid var(--line); }
`;

const Rows = styled(GridList)`
  outline: none;
  .row {
    display: grid; grid-template-columns: 20px 1fr auto auto; align-items: center; column-gap: 6px; padding: 5px 6px 5px 0; cursor: default;
    border-right: 2px solid transparent; position: relative; min-height: 44px;
  }
  .row[data-selected] { background: var(--g3); border-right-color: var(--t1); }
  .row[data-focus-visible] { outline: 2px solid var(--accent); outline-offset: -2px; }
  .row.inside { margin-left: 12px; border-left: 1px solid var(--g4); }
  .row.group { border-top: 1px solid var(--g4); border-left: 1px solid var(--g4); margin-left: 12px; border-radius: 6px 0 0 0; }
  .row.off .name, .row.off svg { opacity: 0.5; }
  .number { color: var(--t3); font-size: 11.5px; text-align: right; }
  .grip { background: none; border: 0; padding: 0; color: var(--t3); cursor: grab; width: 20px; text-align: right; font-size: 11.5px; }
  .name { min-width: 0; }
  .name b { display: block; font-weight: 500; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  .name small { display: block; color: var(--t2); font-size: 11.5px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  .bar { height: 2px; background: var(--g4); margin-top: 2px; }
  .bar i { display: block; height: 2px; background: var(--t2); }
  .react-aria-DropIndicator { height: 0; outline: 1px solid transparent; }
  .react-aria-DropIndicator[data-drop-target] { outline-color: var(--accent); }
`;

const PURPOSES: [string, string][] = [
  ["tone", "Tone"], ["colour", "Colour"], ["mix", "Mix"], ["convert", "Convert"], ["borrow", "Borrow"], ["group", "Together"],
];

const Finder = styled.div`
  width: 290px; padding: 4px;
  input { width: 100%; height: 30px; border: 1px solid var(--g4); border-radius: var(--r); background: var(--g0); padding: 0 9px; margin-bottom: 4px; }
  [role="menu"] { outline: none; }
  [role="menuitem"] { flex-direction: column; gap: 0 !important; padding: 5px 10px; }
  header { padding: 7px 10px 2px; font-size: 11.5px; color: var(--t2); font-weight: 600; }
`;

/** The searchable menu of kinds. */
function AddStep(props: { kinds: Kind[]; onAdd: (kind: Kind) => void }) {
  const { contains } = useFilter({ sensitivity: "base" });
  // What a kind says of itself counts only where no name fits.
  const fits = (text: string, word: string) => {
    const named = props.kinds.some((k) => contains(k.title, word));
    return contains(named ? (text.split(": ")[0] ?? text) : text, word);
  };
  return (
    <DialogTrigger>
      <Button look="quiet" aria-label="Add a step">+ step</Button>
      <Menued placement="bottom start">
        <Dialog aria-label="Add a step" style={{ outline: "none" }}>
          {({ close }) => (
            <Finder>
              <Autocomplete filter={fits}>
                <SearchField aria-label="Find a step" autoFocus><Input placeholder="Find a step" /></SearchField>
                <Menu
                  aria-label="Kinds of step"
                  onAction={(key) => {
                    const kind = props.kinds.find((k) => k.kind === key);
                    if (kind) props.onAdd(kind);
                    close();
                  }}
                >
                  {PURPOSES.map(([purpose, title]) => (
                    <MenuSection key={purpose}>
                      <Header>{title}</Header>
                      <Collection items={props.kinds.filter((k) => k.purpose === purpose)}>
                        {(k: Kind) => (
                          <MenuItem id={k.kind} textValue={`${k.title}: ${k.summary}`}>
                            {k.title}
                            <small>{k.summary}</small>
                          </MenuItem>
                        )}
                      </Collection>
                    </MenuSection>
                  ))}
                </Menu>
              </Autocomplete>
            </Finder>
          )}
        </Dialog>
      </Menued>
    </DialogTrigger>
  );
}

interface Item extends Placed {
  id: string;
  number: number | undefined;
}

/** The rows as items that keep their identity while their step does: the list draws only what changed. */
function useItems(rows: Placed[]): Item[] {
  const kept = useRef(new Map<string, Item>());
  let count = 0;
  const items = rows.map((row) => {
    const number = row.step.kind === "group" ? undefined : (count += 1);
    const before = kept.current.get(row.step.id);
    const still = before && before.step === row.step && before.depth === row.depth && before.number === number && before.parent === row.parent;
    return still ? before : { ...row, id: row.step.id, number };
  });
  kept.current = new Map(items.map((i) => [i.id, i]));
  return items;
}

function RowBody(props: { row: Item; feed: Feed; kinds: Kind[]; readOnly: boolean; broken: boolean }) {
  const { row, kinds, readOnly, broken } = props;
  const { step, number } = row;
  const label = useEncodingLabel();
  const trace = useStore(props.feed.answer, (a) => a.live?.traces[step.id]?.trace);
  const title = titleOf(step, kinds);
  return (
    <>
      {readOnly ? <span className="number">{number}</span> : (
        <AriaButton slot="drag" className="grip" aria-label={`Move ${number ?? "group"} ${title}`}>{number ?? "⋮"}</AriaButton>
      )}
      <div className="name">
        <b>{title}</b>
        <small style={broken ? { color: "var(--warn)" } : undefined}>
          {broken ? "cannot be computed" : summary(step, label)}
          {step.strength < 1 ? ` · ${Math.round(step.strength * 100)} %` : ""}
          {step.blend !== "normal" ? ` · ${step.blend.replace("_", " ")}` : ""}
        </small>
        {step.strength < 1 ? <div className="bar"><i style={{ width: `${step.strength * 100}%` }} /></div> : null}
      </div>
      <TinyTrace kind={step.kind} trace={trace} />
      <Switch
        hidden label={`${title} on`} on={step.on} disabled={readOnly}
        onChange={(on) => changeStep(step.id, on ? "Switch on" : "Switch off", "on", (s) => ({ ...s, on }))}
      />
    </>
  );
}

export const Order = memo(function Order(props: { feed: Feed; kinds: Kind[]; readOnly: boolean; broken: string | null }) {
  const { kinds, feed, readOnly } = props;
  const draft = useCalmDraft();
  const chosen = useBench((s) => s.chosen);
  const { choose, change } = useBench.getState();
  const { data: encodings } = useEncodings();
  const [held, setHeld] = useState<Step[]>([]);
  const rows = flatten(draft.steps);
  const items = useItems(rows);
  const last = [...chosen].at(-1) ?? null;

  const { dragAndDropHooks } = useDragAndDrop({
    isDisabled: readOnly,
    getItems: (keys) => [...keys].map((key) => ({ "text/plain": String(key) })),
    onReorder: (e) => {
      if (e.target.dropPosition === "on") return;
      const where = e.target.dropPosition;
      change("Reorder", (d) => move(d, new Set([...e.keys].map(String)), String(e.target.key), where));
    },
    renderDropIndicator: (target) => <DropIndicator target={target} />,
  });

  const add = (kind: Kind) => {
    const step = create(kind);
    change(`Add ${kind.title.toLowerCase()}`, (d) => insert(d, [step], last, "after"));
    choose(new Set([step.id]));
  };
  const discard = () => {
    if (!chosen.size) return;
    const at = rows.findIndex((r) => chosen.has(r.step.id));
    change(chosen.size > 1 ? "Remove steps" : "Remove step", (d) => remove(d, chosen));
    const next = rows.filter((r) => !chosen.has(r.step.id) && !(r.parent && chosen.has(r.parent)))[Math.max(0, at - 1)];
    choose(new Set(next ? [next.step.id] : []));
  };
  const duplicate = () => {
    const made = rows.filter((r) => chosen.has(r.step.id)).map((r) => copy(r.step));
    change("Duplicate", (d) => insert(d, made, last, "after"));
    choose(new Set(made.map((s) => s.id)));
  };
  const makeGroup = () => {
    const made = group(draft, chosen);
    change("Group", () => made.look);
    choose(new Set([made.id]));
  };
  const options = (encodings ?? []).map((e) => ({ key: e.key, label: e.label }));
  const one = rows.find((r) => r.step.id === last)?.step;

  const act = (key: string) => {
    if (key === "duplicate") duplicate();
    if (key === "remove") discard();
    if (key === "group") makeGroup();
    if (key === "ungroup" && one) change("Ungroup", (d) => ungroup(d, one.id));
    if (key === "up" && last) change("Reorder", (d) => shift(d, last, -1));
    if (key === "down" && last) change("Reorder", (d) => shift(d, last, 1));
    if (key === "hold") setHeld(rows.filter((r) => chosen.has(r.step.id)).map((r) => r.step));
    if (key === "put") {
      const made = held.map(copy);
      change("Put steps", (d) => insert(d, made, last, "after"));
      choose(new Set(made.map((s) => s.id)));
    }
  };

  return (
    <Column
      aria-label="Order"
      onKeyDown={(e) => {
        if (readOnly || !(e.target instanceof Element) || e.target.closest("input, [role=dialog]")) return;
        if (e.key === "Delete" || e.key === "Backspace") discard();
        else if (e.altKey && e.key === "ArrowUp") act("up");
        else if (e.altKey && e.key === "ArrowDown") act("down");
        else return;
        e.preventDefault();
        e.stopPropagation();
      }}
    >
      <header>
        <h2>Order</h2>
        {readOnly ? null : <AddStep kinds={kinds} onAdd={add} />}
      </header>
      <div className="scroll">
        <div className="ends">
          comes in as
          <Choice
            look="bare" hidden label="Comes in as" options={options} chosen={draft.input} disabled={readOnly}
            onChange={(key: EncodingKey) => change("Comes in as", (d) => ({ ...d, input: key }))}
          />
        </div>
        <div className="bracket">
          <Rows
            aria-label="Steps" selectionMode="multiple" selectionBehavior="replace" selectedKeys={chosen} dragAndDropHooks={dragAndDropHooks}
            onSelectionChange={(keys) => choose(keys === "all" ? new Set(rows.map((r) => r.step.id)) : new Set([...keys].map(String)))}
            renderEmptyState={() => <p className="empty">No steps yet. The picture goes through unchanged.</p>}
            items={items} dependencies={[readOnly, kinds, props.broken, feed]}
          >
            {(item) => {
              const row = item as Item;
              return (
                <GridListItem
                  id={row.id} textValue={titleOf(row.step, kinds)}
                  className={`row ${row.depth ? "inside" : ""} ${row.step.kind === "group" ? "group" : ""} ${row.step.on ? "" : "off"}`}
                  style={row.depth > 1 ? { marginLeft: 12 * row.depth } : undefined}
                >
                  <RowBody row={row} feed={feed} kinds={kinds} readOnly={readOnly} broken={props.broken === row.id} />
                </GridListItem>
              );
            }}
          </Rows>
        </div>
        <div className="ends">
          goes out as
          <Choice
            look="bare" hidden label="Goes out as" options={options} chosen={draft.output} disabled={readOnly}
            onChange={(key: EncodingKey) => change("Goes out as", (d) => ({ ...d, output: key }))}
          />
        </div>
      </div>
      {readOnly ? null : (
        <div className="foot">
          <MenuTrigger>
            <Button look="quiet" isDisabled={!chosen.size && !held.length}>
              {chosen.size > 1 ? `${chosen.size} steps` : "Step"} ▾
            </Button>
            <Menued placement="top start">
              <Menu
                aria-label="What to do with the chosen steps" onAction={(key) => act(String(key))}
                disabledKeys={[
                  ...(one?.kind === "group" ? [] : ["ungroup"]), ...(held.length ? [] : ["put"]),
                  ...(chosen.size ? [] : ["duplicate", "remove", "group", "up", "down", "hold"]),
                ]}
              >
                <MenuItem id="up">Move up <small>Alt ↑</small></MenuItem>
                <MenuItem id="down">Move down <small>Alt ↓</small></MenuItem>
                <MenuItem id="group">Group</MenuItem>
                <MenuItem id="ungroup">Ungroup</MenuItem>
                <MenuItem id="duplicate">Duplicate</MenuItem>
                <MenuItem id="hold">Copy</MenuItem>
                <MenuItem id="put">Paste after{held.length ? ` (${held.length})` : ""}</MenuItem>
                <MenuItem id="remove">Remove <small>Delete</small></MenuItem>
              </Menu>
            </Menued>
          </MenuTrigger>
        </div>
      )}
    </Column>
  );
});
