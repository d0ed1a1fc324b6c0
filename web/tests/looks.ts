/** Looks to test with: made by hand, and random trees of steps. */
import fc from "fast-check";
import type { Group, Look, LookRecord, Step } from "../src/api/types";

export const exposure = (id: string, stops = 0): Step => ({
  kind: "exposure",
  id,
  label: "",
  on: true,
  strength: 1,
  blend: "normal",
  stops,
});

export const group = (id: string, ...steps: Step[]): Group => ({
  kind: "group",
  id,
  label: "",
  on: true,
  strength: 1,
  blend: "normal",
  steps,
});

export const look = (...steps: Step[]): Look => ({ input: "film_log", output: "bt709_display", steps });
/** The same as the server answers it. */
const whole = (draft: Look) => draft as LookRecord["draft"];

export const record = (id: number, draft: Look, version = 1): LookRecord => ({
  id,
  name: "Slip",
  note: "",
  meant: [],
  maker: "Ines",
  draft: whole(draft),
  draft_version: version,
  draft_by: "Ines",
  draft_at: "2026-05-01T10:00:00Z",
  revisions: [],
  set_aside: [],
  parent: null,
  variations: [],
  successor: null,
  merged_into: null,
  merged: [],
  origin: "",
  rights: "",
  may_edit: true,
  shared: false,
  may_share: true,
  trouble: "",
  kept: false,
});

const { tree } = fc.letrec<{ tree: Step[]; step: Step }>((tie) => ({
  tree: fc.array(tie("step"), { minLength: 1, maxLength: 4 }),
  step: fc.oneof(
    { maxDepth: 2, withCrossShrink: true },
    fc.constant(exposure("")),
    tie("tree").map((steps) => group("", ...steps)),
  ),
}));

/** Every step with a number of its own as its id, from the top. */
function numbered(steps: Step[], next = { id: 0 }): Step[] {
  return steps.map((s) => {
    const id = String(next.id++);
    return s.kind === "group" ? { ...s, id, steps: numbered(s.steps, next) } : { ...s, id };
  });
}

export const anyLook = tree.map((steps) => look(...numbered(steps)));
