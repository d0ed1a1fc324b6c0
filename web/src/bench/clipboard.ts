/** Steps on the clipboard: JSON that can be pasted into another look, a message or a file. */
import type { Step } from "../api/types";

const MOST = 60;

export const toText = (steps: Step[]): string => JSON.stringify({ saucer_steps: steps }, null, 1);

/** The steps in a text, or null where it holds none. Whether they can be computed only the server knows. */
export function fromText(text: string): Step[] | null {
  try {
    const found = (JSON.parse(text) as { saucer_steps?: unknown }).saucer_steps;
    if (!Array.isArray(found) || !found.length || found.length > MOST) return null;
    return found.every(
      (s: unknown) => typeof s === "object" && s !== null && typeof (s as Step).kind === "string",
    )
      ? (found as Step[])
      : null;
  } catch {
    return null;
  }
}
