/** Undo across a reload: the history of a draft is kept in this tab's own store, as long as the tab lives. */
import type { Look } from "../api/types";

interface Moment {
  draft: Look;
  edit: string;
}

export interface History {
  past: Moment[];
  future: Moment[];
}

const place = (id: number) => `saucer-history-${id}`;

/** What can be undone and redone around this draft; nothing where the history is of another state. */
export function recall(id: number, draft: Look): (History & { edit: string }) | null {
  try {
    const kept = JSON.parse(sessionStorage.getItem(place(id)) ?? "null") as
      (History & { at: Look; edit: string }) | null;
    return kept && JSON.stringify(kept.at) === JSON.stringify(draft) ? kept : null;
  } catch {
    return null;
  }
}

export function remember(id: number, at: Look, edit: string, history: History): void {
  let { past } = history;
  for (;;) {
    try {
      sessionStorage.setItem(place(id), JSON.stringify({ at, edit, past, future: history.future }));
      return;
    } catch {
      // The store is full: the oldest half goes.
      if (!past.length) return;
      past = past.slice(Math.ceil(past.length / 2));
    }
  }
}
