/** Which rows of a cut are shown, and where its events stand on the bands. */
import type { Cut, CutStretch, Recutting } from "../api/types";

/** What rows are told apart by; a split one is new, a joined one is gone. */
export const VIEWS = ["changed", "moved", "longer", "shorter", "new", "gone", "all"] as const;
export type View = (typeof VIEWS)[number];

const KINDS: Record<Exclude<View, "changed" | "all">, Recutting["kinds"]> = {
  moved: ["moved", "slipped"],
  longer: ["longer"],
  shorter: ["shorter"],
  new: ["new", "split", "back"],
  gone: ["gone", "joined"],
};

export function isShown(row: Recutting, view: View): boolean {
  if (view === "all") return true;
  if (view === "changed") return row.kinds[0] !== "same";
  return row.kinds.some((kind) => KINDS[view].includes(kind));
}

export const countsOf = (rows: readonly Recutting[]): Record<View, number> =>
  Object.fromEntries(VIEWS.map((view) => [view, rows.filter((row) => isShown(row, view)).length])) as Record<
    View,
    number
  >;

/** A row tells itself by its places in both cuts. */
export const keyOf = (row: Recutting): string => `${row.old ?? "-"} ${row.kinds[0]} ${row.new ?? "-"}`;

/** So many frames as seconds and frames. */
export const lengthOf = (frames: number, unit: number): string =>
  `${Math.floor(frames / unit)}:${String(frames % unit).padStart(2, "0")}`;

/** A length in minutes and seconds, as people say it. */
export const longOf = (frames: number, unit: number): string => {
  const seconds = Math.round(frames / unit);
  return seconds < 60 ? `${seconds} s` : `${Math.floor(seconds / 60)} min ${seconds % 60} s`;
};

/** The first frame of a band, and how many there are. */
export function spanOf(stretches: readonly CutStretch[]): { begin: number; frames: number } {
  if (!stretches.length) return { begin: 0, frames: 0 };
  const begin = Math.min(...stretches.map((s) => s.at));
  return { begin, frames: Math.max(...stretches.map((s) => s.at + s.lasts)) - begin };
}

/** Address of the picture of an event: of its shot, else of the middle of what it shows of its clip. */
export function pictureOf(project: number, s: CutStretch, width: number): string | null {
  if (s.shot !== null) return `/api/projects/${project}/shots/${s.shot}/still?width=${width}&v=${s.version}`;
  if (s.clip === null) return null;
  return `/api/clips/${s.clip}/still?frame=${Math.floor((s.first + s.last) / 2)}&width=${width}`;
}

export const waitingOf = (cut: Cut): CutStretch[] => cut.after.filter((s) => s.clip === null);

export const carryingOf = (cut: Cut): CutStretch[] => cut.after.filter((s) => s.carries);
