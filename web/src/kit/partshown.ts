/** Which part of a picture a small card shows. */
import type { CSSProperties } from "react";

export interface Part {
  x: number;
  y: number;
}

/** The style of a picture that covers a box of another shape. */
export const around = ({ x, y }: Part): CSSProperties => ({ objectPosition: `${100 * x}% ${100 * y}%` });
