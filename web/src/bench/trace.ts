/** What a trace of the core holds, and lines drawn from it. */
import type { Trace } from "../viewer/table";

export const numbers = (trace: Trace | undefined, name: string): number[] => {
  const found = trace?.[name];
  return Array.isArray(found) ? (found as number[]) : [];
};

/** Colours of a trace, as CSS has them. */
export const strings = (trace: Trace | undefined, name: string): string[] => {
  const found = trace?.[name];
  return Array.isArray(found) && typeof found[0] === "string" ? (found as string[]) : [];
};

/** Points of an SVG polyline in a box of 1 × 1, y up. */
export function path(x: number[], y: number[], width: number, height: number): string {
  return x.map((v, i) => `${(v * width).toFixed(2)},${(height - (y[i] ?? 0) * height).toFixed(2)}`).join(" ");
}
