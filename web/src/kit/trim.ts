/** Trims in words, and the one that does nothing. */
import type { Trim } from "../api/types";
import { signed } from "./signed";

const ROW = { slope: 1, offset: 0, power: 1 };
export const NO_TRIM: Trim = {
  ...{ exposure: 0, temperature: 0, tint: 0, contrast: 1 },
  ...{ red: ROW, green: ROW, blue: ROW, saturation: 1 },
};
export const CHANNELS = ["red", "green", "blue"] as const;
export const ROWS = ["slope", "offset", "power"] as const;

/** Whether the ASC CDL of a trim does something. */
export const corrects = (t: Trim): boolean =>
  t.saturation !== 1 || CHANNELS.some((c) => ROWS.some((r) => t[c][r] !== ROW[r]));

export const trimWords = (t: Trim): string => {
  const words = [
    t.exposure ? `${signed(t.exposure)} stops` : "",
    t.temperature ? (t.temperature > 0 ? `warmer ${t.temperature}` : `cooler ${-t.temperature}`) : "",
    t.tint ? `tint ${signed(t.tint)}` : "",
    t.contrast !== 1 ? `contrast × ${t.contrast.toFixed(2)}` : "",
    corrects(t) ? "CDL" : "",
  ].filter(Boolean);
  return words.length ? words.join(", ") : "none";
};
