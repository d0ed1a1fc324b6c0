/** What is done with steps of the order: added, removed, grouped, moved, copied and pasted. */
import { useState } from "react";
import { got, server } from "../api/client";
import type { Kind, Preset, Step } from "../api/types";
import { fromText, toText } from "./clipboard";
import { ease } from "./orderrow";
import { copy, create, find, flatten, group, insert, move, remove, shift, topmost, ungroup } from "./steps";
import { useBench } from "./store";
import { useView, view } from "./view";

const { change } = useBench.getState();
const draft = () => useBench.getState().draft;

/** The step that was chosen last. */
function last(): string | null {
  return [...useBench.getState().chosen].at(-1) ?? null;
}

/** The chosen steps, without those inside a chosen group. */
export const taken = (): Step[] => topmost(draft(), useBench.getState().chosen);

/** pick: chooses steps. */
export function useOrderActs(pick: (ids: Set<string>) => void) {
  const [said, setSaid] = useState("");
  /** After a row; at the end for none, at the beginning for the empty id. */
  const place = (title: string, step: Step, after: string | null) => {
    change(`Add ${title.toLowerCase()}`, (d) =>
      after === "" ? { ...d, steps: [step, ...d.steps] } : insert(d, [step], after, "after"),
    );
    pick(new Set([step.id]));
  };
  const discard = () => {
    const { chosen } = useBench.getState();
    if (!chosen.size) return;
    const now = draft();
    const at = flatten(now.steps).findIndex((r) => chosen.has(r.step.id));
    const left = remove(now, chosen);
    change(chosen.size > 1 ? "Remove steps" : "Remove step", () => left);
    const next = flatten(left.steps)[Math.max(0, at - 1)];
    pick(new Set(next ? [next.step.id] : []));
  };
  const duplicate = () => {
    const made = taken().map(copy);
    const after = last();
    change("Duplicate", (d) => insert(d, made, after, "after"));
    pick(new Set(made.map((s) => s.id)));
  };
  const paste = async (text: string) => {
    const steps = fromText(text);
    if (!steps) {
      setSaid("The clipboard holds no steps. Copy some in the order of a look first.");
      return;
    }
    const made = steps.map(copy);
    const now = draft();
    const after = last();
    let filled: Step[];
    try {
      // The server knows whether these are steps it can compute, and fills in what they leave out.
      filled = (await got(server.POST("/api/whole", { body: { ...now, steps: made } }))).steps;
      await got(server.POST("/api/whole", { body: insert(now, filled, after, "after") }));
    } catch (problem) {
      setSaid(`These steps cannot be put here. ${problem instanceof Error ? problem.message : ""}`);
      return;
    }
    setSaid("");
    change(made.length > 1 ? "Paste steps" : "Paste step", (d) => insert(d, filled, after, "after"));
    pick(new Set(filled.map((s) => s.id)));
  };
  const makeGroup = () => {
    const made = group(draft(), useBench.getState().chosen);
    change("Group", () => made.look);
    pick(new Set([made.id]));
  };
  const toClipboard = () =>
    navigator.clipboard
      .writeText(toText(taken()))
      .catch(() => setSaid("This browser lets no page write to the clipboard: use Ctrl C in the list."));
  const fromClipboard = () =>
    navigator.clipboard
      .readText()
      .then(paste)
      .catch(() => setSaid("This browser lets no page read the clipboard: use Ctrl V in the list."));

  /** By the id of a line of the menu. */
  const act = (key: string) => {
    const id = last();
    if (key === "duplicate") duplicate();
    if (key === "remove") discard();
    if (key === "group") makeGroup();
    if (key === "hold") void toClipboard();
    if (key === "put") void fromClipboard();
    if (!id) return;
    if (key === "ungroup") change("Ungroup", (d) => ungroup(d, id));
    if (key === "up") change("Reorder", (d) => shift(d, id, -1));
    if (key === "down") change("Reorder", (d) => shift(d, id, 1));
    if (key === "alone") view({ only: useView.getState().only === id ? null : id });
  };
  return {
    said,
    act,
    discard,
    paste,
    add: (kind: Kind, after: string | null) => place(kind.title, create(kind), after),
    addPreset: (preset: Preset, after: string | null) => {
      const made = copy({ ...structuredClone(preset.content), id: "preset" } as unknown as Step);
      place(preset.name, { ...made, label: made.label || preset.name }, after);
    },
    reorder: (ids: Set<string>, target: string, where: "before" | "after") =>
      change("Reorder", (d) => move(d, ids, target, where)),
    /** By per cent of strength. */
    nudge: (by: number) => {
      const now = find(draft(), last());
      if (now) ease(now.id, Math.min(Math.max(Math.round(now.strength * 100 + by) / 100, 0), 1));
    },
  };
}
