/** What the rows of a pack need from a person: plain functions over what the server measured. */
import type { PackItem } from "../api/types";

/** Rows of a folder that are drawn before the sound ones are put away. */
export const SHOWN = 4;

export type View = "all" | "look" | "twins" | "unread";

export const unsure = (item: PackItem) => item.guess?.unsure === true;
export const unread = (item: PackItem) => item.reason !== "";
/** Whether somebody should look at it before it is kept. */
export const toLookAt = (item: PackItem) => !unread(item) && !item.kept && (unsure(item) || item.serious);
export const twin = (item: PackItem) => item.twin !== null;
/** Nothing to say of it. */
export const sound = (item: PackItem) =>
  !unread(item) && !twin(item) && !unsure(item) && item.findings.length === 0;
export const willBeKept = (item: PackItem) => item.chosen && !unread(item) && !item.kept;

const VIEWS: Record<View, (item: PackItem) => boolean> = {
  all: () => true,
  look: toLookAt,
  twins: twin,
  unread,
};

export interface Folder {
  folder: string;
  all: PackItem[];
  shown: PackItem[];
  /** Sound rows that are put away. */
  away: number;
}

/**
 * The rows by folder; of long folders the sound ones beyond the first are put away unless the folder is open.
 */
export function folders(items: PackItem[], view: View, open: ReadonlySet<string>): Folder[] {
  const by = new Map<string, PackItem[]>();
  for (const item of items) by.set(item.folder, [...(by.get(item.folder) ?? []), item]);
  return [...by.entries()]
    .map(([folder, all]) => {
      const fitting = all.filter(VIEWS[view]);
      const long = view === "all" && fitting.length > 2 * SHOWN && !open.has(folder);
      let drawn = 0;
      const kept = long ? fitting.filter((i) => !sound(i) || drawn++ < SHOWN) : fitting;
      return { folder, all, shown: kept, away: fitting.length - kept.length };
    })
    .filter((f) => f.shown.length > 0);
}

export const counts = (items: PackItem[]): Record<View, number> => ({
  all: items.length,
  look: items.filter(toLookAt).length,
  twins: items.filter(twin).length,
  unread: items.filter(unread).length,
});
