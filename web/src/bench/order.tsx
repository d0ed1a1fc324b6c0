/**
 * The order: the steps from top to bottom, between what comes in and what goes out. The line around them is
 * the bake.
 */
import { memo, useState, type ClipboardEvent, type KeyboardEvent, type ReactNode } from "react";
import { DropIndicator, GridListItem, useDragAndDrop } from "react-aria-components";
import type { EncodingKey, Kind } from "../api/types";
import { Amount } from "../kit/amount";
import { Button } from "../kit/button";
import { EncodingChoice } from "../kit/encodingchoice";
import type { Feed } from "../viewer/live";
import { AddStep, StepByStep, type Opening } from "./addstep";
import { useCalm } from "./calm";
import { ORDERING, pressed } from "./commands";
import { toText } from "./clipboard";
import { FinishRows, type EffectName } from "./finish";
import { taken, useOrderActs } from "./orderacts";
import { RowBody, useItems, type Item } from "./orderrow";
import { Column, Rows } from "./orderstyle";
import { parameter } from "./parameters";
import { StepMenu } from "./stepmenu";
import { flatten, type Placed } from "./steps";
import { useBench } from "./store";
import { useView } from "./view";
import { titleOf } from "./words";

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

/** The encoding at one end of the look. */
function End(props: {
  words: string;
  chosen: EncodingKey;
  disabled: boolean;
  onChoose: (key: EncodingKey) => void;
  children?: ReactNode;
}) {
  const { words } = props;
  return (
    <div className="ends">
      {words}
      <EncodingChoice
        look="bare"
        hidden
        label={words[0]!.toUpperCase() + words.slice(1)}
        chosen={props.chosen}
        disabled={props.disabled}
        onChange={props.onChoose}
      />
      {props.children}
    </div>
  );
}

/** The rows, which are chosen, dragged and eased. */
function StepRows(props: {
  rows: Placed[];
  feed: Feed;
  kinds: Kind[];
  readOnly: boolean;
  broken: string | null;
  onPick: (ids: Set<string>) => void;
  onReorder: (ids: Set<string>, target: string, where: "before" | "after") => void;
  onOpen: (opening: Opening) => void;
}) {
  const { rows, feed, kinds, readOnly, broken, onPick } = props;
  const chosen = useBench((s) => s.chosen);
  const only = useView((v) => v.only);
  const items = useItems(rows);
  const { dragAndDropHooks } = useDragAndDrop({
    isDisabled: readOnly,
    getItems: (keys) => [...keys].map((key) => ({ "text/plain": String(key) })),
    onReorder: (e) => {
      if (e.target.dropPosition === "on") return;
      props.onReorder(new Set([...e.keys].map(String)), String(e.target.key), e.target.dropPosition);
    },
    renderDropIndicator: (target) => <DropIndicator target={target} />,
  });
  return (
    <Rows
      aria-label="Steps"
      selectionMode="multiple"
      selectionBehavior="replace"
      escapeKeyBehavior="none"
      selectedKeys={chosen}
      // The library decides once, when a list is made, whether it can be dragged; the key makes a new list
      // when that changes.
      key={readOnly ? "read" : "changed"}
      dragAndDropHooks={readOnly ? undefined : dragAndDropHooks}
      onSelectionChange={(keys) =>
        onPick(keys === "all" ? new Set(rows.map((r) => r.step.id)) : new Set([...keys].map(String)))
      }
      renderEmptyState={() => <p className="empty">No steps yet. The picture goes through unchanged.</p>}
      items={items}
      dependencies={[readOnly, kinds, broken, feed, only, rows.map((r) => r.step.id).join()]}
    >
      {(item) => {
        const row = item as Item;
        const { step, depth } = row;
        const classes = [
          "row",
          depth ? "inside" : "",
          step.kind === "group" ? "group" : "",
          step.on ? "" : "off",
          only && only !== row.id ? "dimmed" : "",
        ];
        return (
          <GridListItem
            id={row.id}
            textValue={titleOf(step, kinds)}
            className={classes.filter(Boolean).join(" ")}
            style={depth > 1 ? { marginLeft: 12 * depth } : undefined}
          >
            <RowBody
              row={row}
              feed={feed}
              kinds={kinds}
              readOnly={readOnly}
              broken={broken === row.id}
              onInsert={(from) => props.onOpen({ after: row.id, from })}
              next={rows[rows.findIndex((r) => r.step.id === row.id) + 1]?.step.id ?? null}
            />
          </GridListItem>
        );
      }}
    </Rows>
  );
}

/** Whether something else takes keys and the clipboard: a box to type in, or a sheet. */
const elsewhere = (target: EventTarget) =>
  target instanceof Element && target.closest("input, [role=dialog]") !== null;

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
  const [opening, setOpening] = useState<Opening | null>(null);
  const rows = flatten(draft.steps);
  const last = [...chosen].at(-1) ?? null;
  const pick = (ids: Set<string>) => {
    props.onEffect(null);
    choose(ids);
  };
  const acts = useOrderActs(pick);
  const after = opening?.after ?? null;

  const clip = (e: ClipboardEvent) => {
    if (!chosen.size || elsewhere(e.target)) return;
    e.preventDefault();
    e.clipboardData.setData("text/plain", toText(taken()));
    if (e.type === "cut" && !readOnly) acts.discard();
  };
  const paste = (e: ClipboardEvent) => {
    if (readOnly || elsewhere(e.target)) return;
    e.preventDefault();
    void acts.paste(e.clipboardData.getData("text/plain"));
  };
  const key = (e: KeyboardEvent) => {
    if (readOnly || !(e.target instanceof Element) || elsewhere(e.target)) return;
    const does = {
      move: (by: number) => acts.act(by < 0 ? "up" : "down"),
      ease: acts.nudge,
      discard: acts.discard,
    };
    if (!pressed(ORDERING, e, does)) return;
    e.preventDefault();
    e.stopPropagation();
  };

  return (
    // Keys before the list, which takes the arrows for itself.
    <Column aria-label="Order" onCopy={clip} onCut={clip} onPaste={paste} onKeyDownCapture={key}>
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
        <End
          words="comes in as"
          chosen={draft.input}
          disabled={readOnly}
          onChoose={(input) => change("Comes in as", (d) => ({ ...d, input }))}
        >
          {readOnly || !rows.length ? null : (
            <Button
              look="icon"
              aria-label="Insert before the first step"
              onPress={(e) => setOpening({ after: "", from: e.target })}
            >
              +
            </Button>
          )}
        </End>
        <div className="bracket">
          <StepRows
            rows={rows}
            feed={feed}
            kinds={kinds}
            readOnly={readOnly}
            broken={props.broken}
            onPick={pick}
            onReorder={acts.reorder}
            onOpen={setOpening}
          />
        </div>
        <End
          words="goes out as"
          chosen={draft.output}
          disabled={readOnly}
          onChoose={(output) => change("Goes out as", (d) => ({ ...d, output }))}
        />
        {rows.length || readOnly ? null : <StepByStep kinds={kinds} onAdd={(kind) => acts.add(kind, null)} />}
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
          onAdd={(kind) => acts.add(kind, after)}
          onPreset={(preset) => acts.addPreset(preset, after)}
        />
      )}
      {acts.said ? (
        <p role="alert" className="said">
          {acts.said}
        </p>
      ) : null}
      {readOnly ? null : (
        <div className="foot">
          <StepMenu
            empty={!rows.length}
            isGroup={rows.find((r) => r.step.id === last)?.step.kind === "group"}
            onAct={acts.act}
          />
        </div>
      )}
    </Column>
  );
});
