/**
 * The draft on the bench: what it is, what is chosen, and how far it is saved. Undo goes back through every
 * change.
 */
import { temporal } from "zundo";
import { create } from "zustand";
import { declared } from "../api/declared";
import type { Look, LookRecord, Step } from "../api/types";
import { recall, remember } from "./history";
import { replace } from "./steps";

/** Somebody saved since this draft was opened. */
export interface Late {
  message: string;
  version: number;
  draft: Look;
  aside: number;
}

interface Bench {
  id: number;
  draft: Look;
  /** What the last change was, in words; undo takes it back. */
  edit: string;
  version: number;
  saved: Look;
  saving: "kept" | "waiting" | "saving" | "away" | "late" | "refused";
  savedAt: number;
  trouble: string;
  late: Late | null;
  chosen: Set<string>;
  open: (record: LookRecord, restored?: Look) => void;
  choose: (ids: Set<string>) => void;
  /** Changes the draft. Changes with the same name in quick succession are one in the history. */
  /**
   * `edit` names the change for undo; changes with the same `sameAs` (else the same name) in quick succession
   * are one.
   */
  change: (edit: string, change: (draft: Look) => Look, sameAs?: string) => void;
}

const EMPTY: Look = { input: declared.usual, output: declared.usual, steps: [] };
/** Changes closer together than this are one. */
const TOGETHER = 700;

export const useBench = create<Bench>()(
  temporal(
    (set, get) => {
      let lastEdit = "";
      let lastTime = 0;
      return {
        id: 0,
        draft: EMPTY,
        edit: "",
        version: 0,
        saved: EMPTY,
        saving: "kept",
        savedAt: 0,
        trouble: "",
        late: null,
        chosen: new Set(),
        open: (record, restored) => {
          const history = useBench.temporal.getState();
          history.pause();
          const draft = restored ?? record.draft;
          const same = get().id === record.id;
          const first = draft.steps[0]?.id;
          set({
            id: record.id,
            draft,
            saved: record.draft,
            version: record.draft_version,
            edit: "",
            saving: restored ? "waiting" : "kept",
            savedAt: Date.parse(record.draft_at),
            trouble: "",
            late: null,
            chosen: same ? get().chosen : new Set(first ? [first] : []),
          });
          history.clear();
          const kept = recall(record.id, draft);
          if (kept) {
            set({ edit: kept.edit });
            useBench.temporal.setState({ pastStates: kept.past, futureStates: kept.future });
          }
          history.resume();
          lastEdit = "";
        },
        choose: (chosen) => set({ chosen }),
        change: (edit, change, sameAs = edit) => {
          const draft = change(get().draft);
          if (draft === get().draft) return;
          const now = performance.now();
          const together =
            sameAs === lastEdit &&
            now - lastTime < TOGETHER &&
            useBench.temporal.getState().pastStates.length > 0;
          lastEdit = sameAs;
          lastTime = now;
          const history = useBench.temporal.getState();
          if (together) history.pause();
          set({ draft, edit, saving: get().saving === "late" ? "late" : "waiting" });
          if (together) history.resume();
        },
      };
    },
    {
      partialize: (state) => ({ draft: state.draft, edit: state.edit }),
      equality: (a, b) => a.draft === b.draft,
    },
  ),
);

/** Changes one step. Same step and same parameter in quick succession are one change. */
export function changeStep<S extends Step>(
  id: string,
  name: string,
  what: string,
  change: (step: S) => S,
): void {
  useBench
    .getState()
    .change(name, (draft) => replace(draft, id, (s) => change(s as S)), `${name}|${id}|${what}`);
}

function afterTravel(): void {
  const { saving } = useBench.getState();
  if (saving !== "late") useBench.setState({ saving: "waiting" });
}

export function undo(): void {
  useBench.temporal.getState().undo();
  afterTravel();
}

export function redo(): void {
  useBench.temporal.getState().redo();
  afterTravel();
}

/** Keeps the history for a reload, a moment after it moved. */
let keeping = 0;
useBench.subscribe((now, last) => {
  if (!now.id || now.draft === last.draft || now.id !== last.id) return;
  clearTimeout(keeping);
  keeping = window.setTimeout(() => {
    const { id, draft, edit } = useBench.getState();
    const { pastStates, futureStates } = useBench.temporal.getState();
    if (id)
      remember(id, draft, edit, {
        past: pastStates as { draft: Look; edit: string }[],
        future: futureStates as { draft: Look; edit: string }[],
      });
  }, 400);
});
