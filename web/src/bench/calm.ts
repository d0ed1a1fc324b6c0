/**
 * The draft for all that need not follow every movement of a hand: the picture and the control come first.
 */
import { create } from "zustand";
import type { Look } from "../api/types";
import { flatten } from "./steps";
import { useBench } from "./store";
import { useView } from "./view";

/**
 * The calm draft follows the draft after the first time without a change, or after the second in any case
 * (milliseconds). Following redraws most of the bench and renders the resting picture, so doing it often in
 * the middle of a movement would hold up the picture.
 */
const PAUSE = 140;
const LONGEST = 1600;
/**
 * The same for pictures that only the server can render (a difference, a bake): there one waits for exactly
 * that picture.
 */
const LONGEST_RENDERED = 420;
const longest = () =>
  ["difference", "baked"].includes(useView.getState().show) ? LONGEST_RENDERED : LONGEST;

/**
 * What people see at once when it changes: which steps there are, in which order, on or off, and the ends.
 */
const shapeOf = (look: Look) =>
  `${look.input} ${look.output} ${flatten(look.steps)
    .map((r) => `${r.step.id} ${r.step.kind} ${r.step.on} ${r.parent} ${r.step.label}`)
    .join("|")}`;

interface Calm {
  draft: Look;
  /** The draft as it was when its shape last changed: for lists of steps, whose rows follow by themselves. */
  shaped: Look;
}

export const useCalm = create<Calm>()(() => ({
  draft: useBench.getState().draft,
  shaped: useBench.getState().draft,
}));

let timer = 0;
let since = 0;
let shape = "";

const follow = () => {
  clearTimeout(timer);
  timer = 0;
  const { draft } = useBench.getState();
  if (draft !== useCalm.getState().draft) useCalm.setState({ draft });
};

useBench.subscribe((now, last) => {
  if (now.draft === last.draft) return;
  const next = shapeOf(now.draft);
  if (next !== shape || now.id !== last.id) {
    shape = next;
    clearTimeout(timer);
    timer = 0;
    useCalm.setState({ draft: now.draft, shaped: now.draft });
    return;
  }
  const time = performance.now();
  if (!timer) since = time;
  clearTimeout(timer);
  timer = window.setTimeout(follow, Math.max(0, Math.min(PAUSE, since + longest() - time)));
});

export const useCalmDraft = (): Look => useCalm((c) => c.draft);
