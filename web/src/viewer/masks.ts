/** What may be marked on a picture, in words. */
import type { MaskName } from "./mask";

export const MARKS: [MaskName, string][] = [
  ["black", "Clipped blacks"],
  ["white", "Clipped whites"],
  ["outside", "Out of gamut"],
];
