/** The points of a curve: kept in order and inside what the core takes. */
import type { CurvePoint } from "../../api/types";

/** Nearer than this two points do not come. */
const APART = 0.004;
/** Nearer than this a press is meant for the point that is there. */
const NEAR = 4 * APART;
/** A curve has at least its two ends. */
const LEAST = 2;
const rounded = (x: number, y: number): CurvePoint => [Number(x.toFixed(5)), Number(y.toFixed(5))];
const within = (v: number, low: number, high: number) => Math.min(Math.max(v, low), high);

/** Points, and which of them is meant. */
export interface Chosen {
  points: CurvePoint[];
  at: number;
}

/** A point moved; it does not pass its neighbours. */
export function moved(points: CurvePoint[], index: number, to: CurvePoint): CurvePoint[] {
  const low = index > 0 ? points[index - 1]![0] + APART : 0;
  const high = index < points.length - 1 ? points[index + 1]![0] - APART : 1;
  const put = rounded(within(to[0], low, high), within(to[1], -1, 2));
  return points.map((p, k) => (k === index ? put : p));
}

function put(points: CurvePoint[], x: number, y: number): Chosen {
  const at = points.filter((p) => p[0] < x).length;
  return { points: [...points.slice(0, at), rounded(x, y), ...points.slice(at)], at };
}

/** A point more; `null` where one is too near. */
export function added(points: CurvePoint[], [x, y]: CurvePoint): Chosen | null {
  if (points.some((p) => Math.abs(p[0] - x) < NEAR)) return null;
  return put(points, x, within(y, 0, 1));
}

export function removed(points: CurvePoint[], index: number): Chosen | null {
  if (points.length <= LEAST) return null;
  return { points: points.filter((_, k) => k !== index), at: Math.max(0, index - 1) };
}

/** The height of a drawn line, whose samples lie equally apart, at a place. */
const height = (line: number[], x: number): number | undefined => line[Math.round(x * (line.length - 1))];

/** A point in the middle of the widest gap, on the line. */
export function inserted(points: CurvePoint[], line: number[]): Chosen {
  const gaps = points.slice(1).map((p, k) => p[0] - points[k]![0]);
  const k = gaps.indexOf(Math.max(...gaps));
  const [a, b] = [points[k]!, points[k + 1]!];
  const middle = (a[0] + b[0]) / 2;
  return put(points, middle, height(line, middle) ?? (a[1] + b[1]) / 2);
}

/** A point on the line where a tone of the picture is; the one there where there is one. */
export function picked(points: CurvePoint[], line: number[], tone: number): Chosen {
  const x = within(tone, 0, 1);
  const near = points.findIndex((p) => Math.abs(p[0] - x) < NEAR);
  return near >= 0 ? { points, at: near } : put(points, x, height(line, x) ?? x);
}

export const straight: CurvePoint[] = [
  [0, 0],
  [1, 1],
];
export const isStraight = (points: unknown): boolean => JSON.stringify(points) === JSON.stringify(straight);
export const inverted = (points: CurvePoint[]): CurvePoint[] => points.map(([x, y]) => rounded(x, 1 - y));
