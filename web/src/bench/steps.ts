/** Walking and changing the tree of steps. Everything gives new objects; nothing is changed in place. */
import type { Group, Kind, Look, Step } from "../api/types";

export interface Placed {
  step: Step;
  depth: number;
  parent: string | null;
}

/** Every step in order, with its depth. */
export function flatten(steps: Step[], depth = 0, parent: string | null = null): Placed[] {
  return steps.flatMap((step) => [
    { step, depth, parent },
    ...(step.kind === "group" ? flatten(step.steps, depth + 1, step.id) : []),
  ]);
}

export function find(look: Look, id: string | null): Step | null {
  return flatten(look.steps).find((p) => p.step.id === id)?.step ?? null;
}

const map = (steps: Step[], change: (step: Step) => Step[]): Step[] =>
  steps.flatMap((step) => change(step.kind === "group" ? { ...step, steps: map(step.steps, change) } : step));

/** The look with one step replaced. */
export function replace(look: Look, id: string, change: (step: Step) => Step): Look {
  return { ...look, steps: map(look.steps, (s) => [s.id === id ? change(s) : s]) };
}

export function remove(look: Look, ids: Set<string>): Look {
  return { ...look, steps: map(look.steps, (s) => (ids.has(s.id) ? [] : [s])) };
}

/** Puts steps before or after the one named; at the end where it is not there. */
export function insert(look: Look, added: Step[], target: string | null, where: "before" | "after"): Look {
  if (target === null || !find(look, target)) return { ...look, steps: [...look.steps, ...added] };
  const change = (s: Step): Step[] =>
    s.id === target ? (where === "before" ? [...added, s] : [s, ...added]) : [s];
  return { ...look, steps: map(look.steps, change) };
}

/**
 * The steps that are meant by several ids: one that stands in another of them, however deep, comes with it.
 */
export function topmost(look: Look, ids: Set<string>): Step[] {
  const seek = (steps: Step[]): Step[] =>
    steps.flatMap((s) => (ids.has(s.id) ? [s] : s.kind === "group" ? seek(s.steps) : []));
  return seek(look.steps);
}

/** Moves steps next to another; a group cannot be moved into itself. */
export function move(look: Look, ids: Set<string>, target: string, where: "before" | "after"): Look {
  const moving = topmost(look, ids);
  const inside = new Set(moving.flatMap((s) => flatten([s]).map((p) => p.step.id)));
  if (inside.has(target)) return look;
  return insert(remove(look, ids), moving, target, where);
}

/** One place up or down, into and out of groups. */
export function shift(look: Look, id: string, by: -1 | 1): Look {
  const rows = flatten(look.steps);
  const at = rows.findIndex((p) => p.step.id === id);
  const row = rows[at];
  if (!row) return look;
  if (by < 0) {
    const above = rows[at - 1];
    return above ? move(look, new Set([id]), above.step.id, "before") : look;
  }
  const own = flatten([row.step]).length;
  const below = rows[at + own];
  if (!below) {
    // Below the last row: out of a group, to its end.
    return row.parent ? move(look, new Set([id]), row.parent, "after") : look;
  }
  if (row.parent && below.parent !== row.parent) return move(look, new Set([id]), row.parent, "after");
  if (below.step.kind === "group" && below.step.steps[0])
    return move(look, new Set([id]), below.step.steps[0].id, "before");
  return move(look, new Set([id]), below.step.id, "after");
}

export const newId = () => crypto.randomUUID().slice(0, 8);

export function create(kind: Kind): Step {
  return { ...structuredClone(kind.defaults), id: newId() } as unknown as Step;
}

/** A copy with ids of its own, inside groups too. */
export function copy(step: Step): Step {
  const own = { ...structuredClone(step), id: newId() };
  return own.kind === "group" ? { ...own, steps: own.steps.map(copy) } : own;
}

/** The steps become one group where the first of them stands. */
export function group(look: Look, ids: Set<string>): { look: Look; id: string } {
  const steps = topmost(look, ids);
  const first = steps[0];
  const id = newId();
  if (!first) return { look, id };
  const made: Group = { kind: "group", id, label: "", on: true, strength: 1, blend: "normal", steps };
  const inGroup = new Set(steps);
  const put = (all: Step[]): Step[] =>
    all.flatMap((s) => {
      if (s === first) return [made];
      if (inGroup.has(s)) return [];
      return [s.kind === "group" ? { ...s, steps: put(s.steps) } : s];
    });
  return { look: { ...look, steps: put(look.steps) }, id };
}

export function ungroup(look: Look, id: string): Look {
  return { ...look, steps: map(look.steps, (s) => (s.id === id && s.kind === "group" ? s.steps : [s])) };
}
