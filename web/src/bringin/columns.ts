/** How the rows of a pack are laid out, and what is said of the looks in them. */
import type { EncodingKey } from "../api/types";

/** Pixels: the height of a row. */
export const ROW = 54;
export const COLUMNS = "26px 48px minmax(110px, 1fr) 152px 84px 196px minmax(150px, 1.15fr)";

export interface Say {
  (
    ids: number[],
    said: { chosen?: boolean; expects?: EncodingKey; gives?: EncodingKey; name?: string },
  ): void;
}
