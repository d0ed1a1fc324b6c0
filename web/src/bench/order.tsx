/**
 * The order: the steps from top to bottom, between what comes in and what goes out. The line around them is
 * the bake.
 */
import { memo, useState, type ClipboardEvent, type ReactNode } from "react";
import {
  DropIndicator,
  GridList,
  GridListItem,
  Menu,
  MenuItem,
  MenuTrigger,
  useDragAndDrop,
} from "react-aria-components";
import styled from "styled-components";
import { got, server } from "../api/client";
import type { Kind, Preset, Step } from "../api/types";
import { Amount } from "../kit/amount";
import { Button } from "../kit/button";
import { EncodingChoice } from "../kit/encodingchoice";
import { Menued } from "../kit/menued";
import type { Feed } from "../viewer/live";
import { AddStep, StepByStep, type Opening } from "./addstep";
import { useCalm } from "./calm";
import { keysOf, ORDERING, pressed } from "./commands";
import { fromText, toText } from "./clipboard";
import { FinishRows, type EffectName } from "./finish";
import { ease, RowBody, useItems, type Item } from "./orderrow";
import { parameter } from "./parameters";
import { copy, create, find, flatten, group, insert, move, remove, shift, topmost, ungroup } from "./steps";
import { useBench } from "./store";
import { useView, view } from "./view";
import { titleOf } from "./words";

const Column = styled.aside`
  width: 232px;
  flex: none;
  border-right: 1px solid var(--line);
  background: var(--g1);
  display: flex;
  flex-direction: column;
  min-height: 0;
  > header {
    display: flex;
    align-items: center;
    padding: 12px 8px 6px 14px;
    gap: 4px;
  }
  > header h2 {
    flex: 1;
  }
  .ends {
    padding: 2px 8px 2px 18px;
    display: flex;
    align-items: center;
    color: var(--t2);
    font-size: 12px;
    gap: 2px;
    white-space: nowrap;
  }
  .scroll {
    flex: 1;
    overflow: auto;
    min-height: 0;
    padding-bottom: 12px;
  }
  .bracket {
    border-left: 2px solid var(--accent);
    margin-left: 16px;
  }
  .empty {
    padding: 14px;
    color: var(--t2);
  }
  .kin {
    padding: 0 14px 8px;
    color: var(--t2);
    font-size: 12px;
  }
  details ul {
    padding-left: 16px;
    margin-top: 4px;
  }
  summary {
    cursor: pointer;
  }
  .said {
    margin: 8px 14px;
    color: var(--warn);
    font-size: 12px;
  }
  .ends {
    position: relative;
  }
  .whole {
    padding: 4px 14px 8px 18px;
  }
  .foot {
    padding: 8px 8px 8px 14px;
    display: flex;
    gap: 4px;
    border-top: 1px solid var(--line);
  }
`;

const Rows = styled(GridList)`
  outline: none;
  .row {
    display: grid;
    grid-template-columns: 20px 1fr auto auto;
    align-items: center;
    column-gap: 6px;
    padding: 5px 6px 5px 0;
    cursor: default;
    border-right: 2px solid transparent;
    position: relative;
    min-height: 46px;
    padding-bottom: 9px;
  }
  .row[data-selected] {
    background: var(--g3);
    border-right-color: var(--t1);
  }
  .row[data-focus-visible] {
    outline: 2px solid var(--accent);
    outline-offset: -2px;
  }
  .row.inside {
    margin-left: 12px;
    border-left: 1px solid var(--g4);
  }
  .row.group {
    border-top: 1px solid var(--g4);
    border-left: 1px solid var(--g4);
    margin-left: 12px;
    border-radius: 6px 0 0 0;
  }
  .row.off .name,
  .row.off svg {
    opacity: 0.5;
  }
  .number {
    color: var(--t3);
    font-size: 11.5px;
    text-align: right;
  }
  .grip {
    background: none;
    border: 0;
    padding: 0;
    color: var(--t3);
    cursor: grab;
    width: 20px;
    text-align: right;
    font-size: 11.5px;
  }
  .row[data-selected] .grip,
  .row[data-selected] .number {
    color: var(--t1);
  }
  .name {
    min-width: 0;
  }
  .name b {
    display: block;
    font-weight: 500;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .name small {
    display: block;
    color: var(--t2);
    font-size: 11.5px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .bar {
    position: absolute;
    left: 26px;
    right: 2px;
    bottom: 0;
    height: 9px;
    padding-top: 6px;
    cursor: ew-resize;
    touch-action: none;
  }
  .bar i {
    display: block;
    height: 2px;
  }
  .bar:before {
    content: "";
    position: absolute;
    left: 0;
    right: 0;
    top: 6px;
    height: 2px;
    background: var(--g3);
  }
  .bar i {
    position: relative;
  }
  .bar i {
    background: var(--g4);
  }
  .bar i.eased,
  .row:hover .bar i,
  .row[data-selected] .bar i {
    background: var(--t1);
  }
  .turn {
    grid-column: 1 / -1;
    color: var(--accent);
    font-size: 11.5px;
    padding: 3px 0 3px 26px;
  }
  .between {
    position: absolute;
    left: 2px;
    bottom: -10px;
    z-index: 2;
    opacity: 0;
  }
  .between button {
    width: 19px;
    height: 19px;
    background: var(--g2);
    border-color: var(--g4);
  }
  .row:hover .between,
  .row[data-focus-visible-within] .between,
  .between:focus-within {
    opacity: 1;
  }
  .row.dimmed {
    opacity: 0.45;
  }
  .react-aria-DropIndicator {
    height: 0;
    outline: 1px solid transparent;
  }
  .react-aria-DropIndicator[data-drop-target] {
    outline-color: var(--accent);
  }
`;

/** The strength of the whole look. */
function Whole({ kind, disabled }: { kind: Kind; disabled: boolean }) {
  const strength = useBench((s) => s.draft.strength ?? 1);
  return (
    <div className="whole">
      <Amount
        parameter={parameter(kind, "strength")}
        label="Strength of the look"
        value={strength}
        disabled={disabled}
        onChange={(v) => useBench.getState().change("Strength of the look", (d) => ({ ...d, strength: v }))}
      />
    </div>
  );
}

const orderKeys = (id: string) => ORDERING.find((c) => c.id === id)?.keys;

export const Order = memo(function Order(props: {
  feed: Feed;
  kinds: Kind[];
  readOnly: boolean;
  broken: string | null;
  effect: EffectName | null;
  onEffect: (name: EffectName | null) => void;
  parent: ReactNode;
}) {
  const { kinds, feed, readOnly } = props;
  const draft = useCalm((c) => c.shaped);
  const chosen = useBench((s) => s.chosen);
  const { choose, change } = useBench.getState();
  const only = useView((v) => v.only);
  const [said, setSaid] = useState("");
  const [opening, setOpening] = useState<Opening | null>(null);
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

  const pick = (ids: Set<string>) => {
    props.onEffect(null);
    choose(ids);
  };
  /** After a row; at the end for none, at the beginning for the empty id. */
  const place = (title: string, step: Step, after: string | null) => {
    change(`Add ${title.toLowerCase()}`, (d) =>
      after === "" ? { ...d, steps: [step, ...d.steps] } : insert(d, [step], after, "after"),
    );
    pick(new Set([step.id]));
  };
  const add = (after: string | null) => (kind: Kind) => place(kind.title, create(kind), after);
  const addPreset = (after: string | null) => (p: Preset) => {
    const made = copy({ ...structuredClone(p.content), id: "preset" } as unknown as Step);
    place(p.name, { ...made, label: made.label || p.name }, after);
  };
  const discard = () => {
    if (!chosen.size) return;
    const now = useBench.getState().draft;
    const at = flatten(now.steps).findIndex((r) => chosen.has(r.step.id));
    const left = remove(now, chosen);
    change(chosen.size > 1 ? "Remove steps" : "Remove step", () => left);
    const next = flatten(left.steps)[Math.max(0, at - 1)];
    pick(new Set(next ? [next.step.id] : []));
  };
  const taken = () => topmost(useBench.getState().draft, chosen);
  const duplicate = () => {
    const made = taken().map(copy);
    change("Duplicate", (d) => insert(d, made, last, "after"));
    pick(new Set(made.map((s) => s.id)));
  };
  const put = async (text: string) => {
    const steps = fromText(text);
    if (!steps) {
      setSaid("The clipboard holds no steps. Copy some in the order of a look first.");
      return;
    }
    const made = steps.map(copy);
    const now = useBench.getState().draft;
    let filled: Step[];
    try {
      // The server knows whether these are steps it can compute, and fills in what they leave out.
      filled = (await got(server.POST("/api/whole", { body: { ...now, steps: made } }))).steps;
      await got(server.POST("/api/whole", { body: insert(now, filled, last, "after") }));
    } catch (problem) {
      setSaid(`These steps cannot be put here. ${problem instanceof Error ? problem.message : ""}`);
      return;
    }
    setSaid("");
    change(made.length > 1 ? "Paste steps" : "Paste step", (d) => insert(d, filled, last, "after"));
    pick(new Set(filled.map((s) => s.id)));
  };
  const clip = (e: ClipboardEvent) => {
    if (!chosen.size || (e.target instanceof Element && e.target.closest("input, [role=dialog]"))) return;
    e.preventDefault();
    e.clipboardData.setData("text/plain", toText(taken()));
    if (e.type === "cut" && !readOnly) discard();
  };
  const makeGroup = () => {
    const made = group(useBench.getState().draft, chosen);
    change("Group", () => made.look);
    pick(new Set([made.id]));
  };
  const one = rows.find((r) => r.step.id === last)?.step;

  const act = (key: string) => {
    if (key === "duplicate") duplicate();
    if (key === "remove") discard();
    if (key === "group") makeGroup();
    if (key === "ungroup" && one) change("Ungroup", (d) => ungroup(d, one.id));
    if (key === "up" && last) change("Reorder", (d) => shift(d, last, -1));
    if (key === "down" && last) change("Reorder", (d) => shift(d, last, 1));
    if (key === "hold")
      void navigator.clipboard
        .writeText(toText(taken()))
        .catch(() => setSaid("This browser lets no page write to the clipboard: use Ctrl C in the list."));
    if (key === "put")
      void navigator.clipboard
        .readText()
        .then(put)
        .catch(() => setSaid("This browser lets no page read the clipboard: use Ctrl V in the list."));
    if (key === "alone" && last) view({ only: only === last ? null : last });
  };
  const nudge = (by: number) => {
    // As it is now: the list follows a little later.
    const now = find(useBench.getState().draft, last);
    if (now) ease(now.id, Math.min(Math.max(Math.round(now.strength * 100 + by) / 100, 0), 1));
  };

  return (
    <Column
      aria-label="Order"
      onCopy={clip}
      onCut={clip}
      onPaste={(e) => {
        if (readOnly || (e.target instanceof Element && e.target.closest("input, [role=dialog]"))) return;
        e.preventDefault();
        void put(e.clipboardData.getData("text/plain"));
      }}
      // Before the list, which takes the arrows for itself.
      onKeyDownCapture={(e) => {
        if (readOnly || !(e.target instanceof Element) || e.target.closest("input, [role=dialog]")) return;
        if (!pressed(ORDERING, e, { move: (by) => act(by < 0 ? "up" : "down"), ease: nudge, discard }))
          return;
        e.preventDefault();
        e.stopPropagation();
      }}
    >
      <header>
        <h2>Order</h2>
        {readOnly ? null : (
          <Button
            look="quiet"
            aria-label="Add a step"
            onPress={(e) => setOpening({ after: last, from: e.target })}
          >
            + step
          </Button>
        )}
      </header>
      <div className="scroll">
        {props.parent}
        <div className="ends">
          comes in as
          <EncodingChoice
            look="bare"
            hidden
            label="Comes in as"
            chosen={draft.input}
            disabled={readOnly}
            onChange={(key) => change("Comes in as", (d) => ({ ...d, input: key }))}
          />
          {readOnly || !rows.length ? null : (
            <Button
              look="icon"
              aria-label="Insert before the first step"
              onPress={(e) => setOpening({ after: "", from: e.target })}
            >
              +
            </Button>
          )}
        </div>
        <div className="bracket">
          <Rows
            aria-label="Steps"
            selectionMode="multiple"
            selectionBehavior="replace"
            escapeKeyBehavior="none"
            selectedKeys={chosen}
            // The library decides once, when a list is made, whether it can be dragged; the key makes a new
            // list when that changes.
            key={readOnly ? "read" : "changed"}
            dragAndDropHooks={readOnly ? undefined : dragAndDropHooks}
            onSelectionChange={(keys) =>
              pick(keys === "all" ? new Set(rows.map((r) => r.step.id)) : new Set([...keys].map(String)))
            }
            renderEmptyState={() => (
              <p className="empty">No steps yet. The picture goes through unchanged.</p>
            )}
            items={items}
            dependencies={[readOnly, kinds, props.broken, feed, only, rows.map((r) => r.step.id).join()]}
          >
            {(item) => {
              const row = item as Item;
              return (
                <GridListItem
                  id={row.id}
                  textValue={titleOf(row.step, kinds)}
                  className={`row ${row.depth ? "inside" : ""} ${row.step.kind === "group" ? "group" : ""} ${row.step.on ? "" : "off"} ${only && only !== row.id ? "dimmed" : ""}`}
                  style={row.depth > 1 ? { marginLeft: 12 * row.depth } : undefined}
                >
                  <RowBody
                    row={row}
                    feed={feed}
                    kinds={kinds}
                    readOnly={readOnly}
                    broken={props.broken === row.id}
                    onInsert={(from) => setOpening({ after: row.id, from })}
                    next={rows[rows.findIndex((r) => r.step.id === row.id) + 1]?.step.id ?? null}
                  />
                </GridListItem>
              );
            }}
          </Rows>
        </div>
        <div className="ends">
          goes out as
          <EncodingChoice
            look="bare"
            hidden
            label="Goes out as"
            chosen={draft.output}
            disabled={readOnly}
            onChange={(key) => change("Goes out as", (d) => ({ ...d, output: key }))}
          />
        </div>
        {rows.length || readOnly ? null : <StepByStep kinds={kinds} onAdd={add(null)} />}
        {kinds[0] && rows.length ? <Whole kind={kinds[0]} disabled={readOnly} /> : null}
        <FinishRows
          readOnly={readOnly}
          chosen={props.effect}
          onChoose={(name) => {
            choose(new Set());
            props.onEffect(name);
          }}
        />
      </div>
      {readOnly ? null : (
        <AddStep
          opening={opening}
          kinds={kinds}
          onClose={() => setOpening(null)}
          onAdd={add(opening?.after ?? null)}
          onPreset={addPreset(opening?.after ?? null)}
        />
      )}
      {said ? (
        <p role="alert" className="said">
          {said}
        </p>
      ) : null}
      {readOnly ? null : (
        <div className="foot">
          <MenuTrigger>
            <Button look="quiet" isDisabled={!rows.length}>
              {chosen.size > 1 ? `${chosen.size} steps` : "Step"} ▾
            </Button>
            <Menued placement="top start">
              <Menu
                aria-label="What to do with the chosen steps"
                onAction={(key) => act(String(key))}
                disabledKeys={[
                  ...(one?.kind === "group" ? [] : ["ungroup"]),
                  ...(chosen.size ? [] : ["duplicate", "remove", "group", "up", "down", "hold", "alone"]),
                ]}
              >
                <MenuItem id="up">
                  Move up <small>{orderKeys("up")}</small>
                </MenuItem>
                <MenuItem id="down">
                  Move down <small>{orderKeys("down")}</small>
                </MenuItem>
                <MenuItem id="group">Group</MenuItem>
                <MenuItem id="ungroup">Ungroup</MenuItem>
                <MenuItem id="duplicate">Duplicate</MenuItem>
                <MenuItem id="alone">
                  {only && only === last ? "See all steps again" : "See this step alone"}{" "}
                  <small>{keysOf("alone")}</small>
                </MenuItem>
                <MenuItem id="hold">
                  Copy <small>Ctrl C</small>
                </MenuItem>
                <MenuItem id="put">
                  Paste after <small>Ctrl V</small>
                </MenuItem>
                <MenuItem id="remove">
                  Remove <small>{orderKeys("remove")}</small>
                </MenuItem>
              </Menu>
            </Menued>
          </MenuTrigger>
        </div>
      )}
    </Column>
  );
});
