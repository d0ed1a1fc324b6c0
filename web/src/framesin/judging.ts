/** What the files of an intake need from a person: plain functions over what the server found. */
import type { IntakeFile } from "../api/types";

export type View = "all" | "look" | "here" | "unread";

export const unread = (file: IntakeFile) => file.stage === "refused";
export const waiting = (file: IntakeFile) => file.stage === "waiting";
/** Sensor places that are full, as a share of all; from here it is worth saying. */
const CLIPPED = 0.001;
export const clipped = (file: IntakeFile) => (file.raw ? Math.max(...file.raw.clipped) >= CLIPPED : false);
/** Whether somebody should look at it before it is kept. */
export const toLookAt = (file: IntakeFile) =>
  file.stage === "read" && (file.unsure || file.doubt !== "" || clipped(file));
export const hereAlready = (file: IntakeFile) => file.twin !== null;
export const willBeKept = (file: IntakeFile) => file.chosen && !unread(file);

const VIEWS: Record<View, (file: IntakeFile) => boolean> = {
  all: () => true,
  look: toLookAt,
  here: hereAlready,
  unread,
};

export const shown = (files: IntakeFile[], view: View) => files.filter(VIEWS[view]);

export const counts = (files: IntakeFile[]): Record<View, number> => ({
  all: files.length,
  look: files.filter(toLookAt).length,
  here: files.filter(hereAlready).length,
  unread: files.filter(unread).length,
});

const CHANNELS = ["red", "green", "blue"] as const;

/** Which channels of a camera raw are clipped, in words; empty for none. */
export function clippedWords(file: IntakeFile): string {
  const which = CHANNELS.filter((_, k) => (file.raw?.clipped[k] ?? 0) >= CLIPPED);
  return which.length ? `${which.join(" and ")}, at the sensor` : "";
}

/** What there is to look at in a file: the gravest first, then the rest. */
export function toSay(file: IntakeFile): { first: string; more: string; warns: boolean } {
  if (unread(file)) return { first: "cannot be read", more: file.reason, warns: true };
  if (waiting(file)) return { first: "being read …", more: "", warns: false };
  if (file.twin)
    return { first: `here already: ${file.twin.name}`, more: "the same file, left out", warns: false };
  const said: string[] = [];
  if (clipped(file))
    said.push(`${(100 * Math.max(...file.raw!.clipped)).toFixed(1)} % clipped: ${clippedWords(file)}`);
  if (file.doubt) said.push(file.doubt);
  if (file.unsure) said.push("no encoding is written in it: choose");
  const warns = said.length > 0;
  said.push(...file.notes, ...file.unread.map((what) => `not read: ${what}`));
  const [first, ...more] = said;
  return { first: first ?? "sound", more: more.join("; "), warns };
}
