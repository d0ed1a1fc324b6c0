/** The ways in which looks are seen side by side. */
export const WAYS = [
  ["original", "Original"],
  ["look", "Looks"],
  ["split", "Split"],
  ["difference", "Difference"],
  ["baked", "As baked"],
] as const;
export type Way = (typeof WAYS)[number][0];
