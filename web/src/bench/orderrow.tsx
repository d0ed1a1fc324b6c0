/** A row of the order: what the step is called and does, whether it is on, and how strong it is. */
import { useRef } from "react";
import { Button as AriaButton } from "react-aria-components";
import { useStore } from "zustand";
import { useEncodingLabel } from "../api/queries";
import type { Kind, Step } from "../api/types";
import { Button } from "../kit/button";
import { Switch } from "../kit/switch";
import { useDrag } from "../kit/drag";
import type { Feed } from "../viewer/live";
import { useCalm } from "./calm";
import { changeStep } from "./store";
import { find, type Placed } from "./steps";
import { summary, TinyTrace } from "./kinds/registry";
import { titleOf } from "./words";

export interface Item extends Placed {
  id: string;
  number: number | undefined;
}

/** The rows as items that keep their identity while their step does: the list draws only what changed. */
export function useItems(rows: Placed[]): Item[] {
  const kept = useRef(new Map<string, Item>());
  let count = 0;
  const items = rows.map((row) => {
    const number = row.step.kind === "group" ? undefined : (count += 1);
    const before = kept.current.get(row.step.id);
    const still =
      before &&
      before.step === row.step &&
      before.depth === row.depth &&
      before.number === number &&
      before.parent === row.parent;
    return still ? before : { ...row, id: row.step.id, number };
  });
  kept.current = new Map(items.map((i) => [i.id, i]));
  return items;
}

/**
 * The strength of a row as a thin bar: dragged here, typed in the control, Alt with the arrows on the row.
 */
function Strength({ step, disabled }: { step: Step; disabled: boolean }) {
  const bar = useRef<HTMLDivElement>(null);
  const drag = useDrag(bar, {
    to: ([share]) => {
      if (!disabled) ease(step.id, Math.round(Math.min(Math.max(share, 0), 1) * 100) / 100);
    },
  });
  return (
    <div
      ref={bar}
      className="bar"
      title={`Strength ${Math.round(step.strength * 100)} %`}
      aria-hidden
      // Otherwise the list takes the row along.
      onMouseDown={(e) => {
        e.preventDefault();
        e.stopPropagation();
      }}
      {...drag}
    >
      <i className={step.strength < 1 ? "eased" : ""} style={{ width: `${step.strength * 100}%` }} />
    </div>
  );
}

export const ease = (id: string, strength: number) =>
  changeStep(id, "Strength", "strength", (s) => ({ ...s, strength }));

/** Follows the picture; the rest of its row follows the resting hand. */
function RowTrace({ kind, id, feed }: { kind: Step["kind"]; id: string; feed: Feed }) {
  return <TinyTrace kind={kind} trace={useStore(feed.answer, (a) => a.live?.traces[id]?.trace)} />;
}

export function RowBody(props: {
  row: Item;
  feed: Feed;
  kinds: Kind[];
  readOnly: boolean;
  broken: boolean;
  next: string | null;
  onInsert: (from: Element) => void;
}) {
  const { row, kinds, readOnly, broken, next } = props;
  const { number } = row;
  // The list keeps its rows while only numbers change.
  const step = useCalm((c) => find(c.draft, row.id)) ?? row.step;
  const label = useEncodingLabel();
  // The encoding that the next row is given, where this one changed it.
  const turned = useStore(props.feed.answer, (a) => {
    const [here, there] = [
      a.live?.traces[step.id]?.encoding,
      next === null ? a.live?.end : a.live?.traces[next]?.encoding,
    ];
    return here && there && here !== there && step.kind !== "group" ? there : null;
  });
  const title = titleOf(step, kinds);
  return (
    <>
      {readOnly ? (
        <span className="number">{number}</span>
      ) : (
        <AriaButton slot="drag" className="grip" aria-label={`Move ${number ?? "group"} ${title}`}>
          {number ?? "⋮"}
        </AriaButton>
      )}
      <div className="name">
        <b>{title}</b>
        <small className={broken ? "broken" : undefined}>
          {broken ? "cannot be computed" : summary(step, label)}
          {step.strength < 1 ? ` · ${Math.round(step.strength * 100)} %` : ""}
          {step.blend !== "normal" ? ` · ${step.blend.replace("_", " ")}` : ""}
        </small>
      </div>
      <RowTrace kind={step.kind} id={step.id} feed={props.feed} />
      <Switch
        hidden
        label={`${title} on`}
        on={step.on}
        disabled={readOnly}
        onChange={(on) => changeStep(step.id, on ? "Switch on" : "Switch off", "on", (s) => ({ ...s, on }))}
      />
      {turned ? <span className="turn">{`now ${label(turned)}`}</span> : null}
      <Strength step={step} disabled={readOnly} />
      {readOnly ? null : (
        <span className="between">
          <Button
            look="icon"
            aria-label={`Insert after ${number ?? "group"} ${title}`}
            onPress={(e) => props.onInsert(e.target)}
          >
            +
          </Button>
        </span>
      )}
    </>
  );
}
