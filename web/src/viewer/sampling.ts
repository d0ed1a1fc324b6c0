/**
 * Draws frames of a clip through a table of colours on the processor, for browsers that have no graphics card:
 * there WebGL takes many times as long. It samples what the core computed, as the painter does: the matrix of
 * the clip's index, then the table by tetrahedra.
 */
import type { Planes } from "../player/messages";

/** A table as the server sends it: half floats of red, green, blue, red the fastest. */
export interface Sampled {
  size: number;
  values: Uint16Array;
}

/** Where the frame lies in the picture that is drawn, and which columns and rows of it a table is used for. */
export interface Part {
  table: Sampled;
  /** Left, top, width and height of the whole frame, in pixels of the picture. */
  place: readonly [number, number, number, number];
  /** Columns and rows: the first, and the one after the last. */
  columns: readonly [number, number];
  rows: readonly [number, number];
}

type Codes = Uint8Array | Uint16Array;
type Twelve = readonly [
  ...[number, number, number, number],
  ...[number, number, number, number],
  ...[number, number, number, number],
];

/** Codes of the screen, 0 to 255, of every entry of a table. */
const codesOfTables = new WeakMap<Uint16Array, Float32Array>();

/** A half float (IEEE 754 binary16) as a number. */
function numberOf(half: number): number {
  const power = (half >> 10) & 31;
  const part = half & 1023;
  const size = power ? 2 ** (power - 15) * (1 + part / 1024) : 2 ** -14 * (part / 1024);
  return half & 0x8000 ? -size : size;
}

function codesOf({ values }: Sampled): Float32Array {
  const there = codesOfTables.get(values);
  if (there) return there;
  const codes = Float32Array.from(values, (half) => Math.min(Math.max(numberOf(half), 0), 1) * 255);
  codesOfTables.set(values, codes);
  return codes;
}

/** For each pixel of a line, the sample before it, and the share of the one after it. */
interface Line {
  at: Int32Array;
  share: Float32Array;
}

/** Samples of a line: how many, how far two lie from each other and where the first lies, in pixels of the frame. */
interface Samples {
  count: number;
  apart: number;
  offset: number;
}

/** range: the pixels that are drawn; begin, length: where the frame's line of `pixels` lies among them. */
function line(
  [first, end]: readonly [number, number],
  [begin, length]: readonly [number, number],
  pixels: number,
  { count, apart, offset }: Samples,
): Line {
  const at = new Int32Array(end - first);
  const share = new Float32Array(end - first);
  for (let k = first; k < end; k += 1) {
    const pixel = ((k + 0.5 - begin) / length) * pixels - 0.5;
    const place = Math.min(Math.max((pixel - offset) / apart, 0), count - 1);
    const low = Math.min(Math.floor(place), Math.max(count - 2, 0));
    at[k - first] = low;
    share[k - first] = count > 1 ? place - low : 0;
  }
  return { at, share };
}

/** A row of a plane between two rows. */
function between(plane: Codes, wide: number, rows: Line, k: number, into: Float32Array): void {
  const first = rows.at[k]! * wide;
  const share = rows.share[k]!;
  const second = share ? first + wide : first;
  for (let x = 0; x < wide; x += 1) {
    const a = plane[first + x]!;
    into[x] = a + (plane[second + x]! - a) * share;
  }
}

function planesOf({ width, height, data, depth }: Planes): [Codes, Codes, Codes] {
  const sizes = [width * height, ((width + 1) >> 1) * ((height + 1) >> 1)] as const;
  const plane = (begin: number, count: number): Codes =>
    depth > 8 ? new Uint16Array(data, begin * 2, count) : new Uint8Array(data, begin, count);
  return [plane(0, sizes[0]), plane(sizes[0], sizes[1]), plane(sizes[0] + sizes[1], sizes[1])];
}

/** Rows of luma and of both differences, between those of the frame; each ends with one that is never weighed. */
type Rows = readonly [Float32Array, Float32Array, Float32Array];

/**
 * Draws a part of a picture. target: its pixels, red, green, blue and opaque in one number each; wide: pixels of
 * its rows. matrix: three rows that give R'G'B' from codes of luma, blue and red difference and one.
 */
export function sample(
  target: Uint32Array,
  wide: number,
  frame: Planes,
  matrix: readonly number[],
  part: Part,
): void {
  const { width, height } = frame;
  const [left, top, length, tall] = part.place;
  const [y0, y1] = part.rows;
  if (part.columns[1] <= part.columns[0] || y1 <= y0) return;
  const half = [(width + 1) >> 1, (height + 1) >> 1] as const;
  const planes = planesOf(frame);
  // Differences lie on every second column and midway between two rows (ITU-T H.273, chroma sample location
  // type 0), as the core reads them.
  const whole = (count: number): Samples => ({ count, apart: 1, offset: 0 });
  const across = line(part.columns, [left, length], width, whole(width));
  const acrossHalf = line(part.columns, [left, length], width, { count: half[0], apart: 2, offset: 0 });
  const down = line(part.rows, [top, tall], height, whole(height));
  const downHalf = line(part.rows, [top, tall], height, { count: half[1], apart: 2, offset: 0.5 });
  const rows: Rows = [
    new Float32Array(width + 1),
    new Float32Array(half[0] + 1),
    new Float32Array(half[0] + 1),
  ];
  const codes = codesOf(part.table);
  for (let y = y0; y < y1; y += 1) {
    between(planes[0], width, down, y - y0, rows[0]);
    between(planes[1], half[0], downHalf, y - y0, rows[1]);
    between(planes[2], half[0], downHalf, y - y0, rows[2]);
    const from = y * wide + part.columns[0];
    const to = y * wide + part.columns[1];
    drawRow(target.subarray(from, to), rows, across, acrossHalf, matrix as Twelve, codes, part.table.size);
  }
}

function drawRow(
  target: Uint32Array,
  [luma, blue, red]: Rows,
  across: Line,
  acrossHalf: Line,
  [r0, r1, r2, r3, g0, g1, g2, g3, b0, b1, b2, b3]: Twelve,
  codes: Float32Array,
  size: number,
): void {
  const most = size - 1;
  const row = size * 3;
  const slice = size * row;
  for (let x = 0; x < target.length; x += 1) {
    const i = across.at[x]!;
    const j = acrossHalf.at[x]!;
    const t = acrossHalf.share[x]!;
    const l = luma[i]! + (luma[i + 1]! - luma[i]!) * across.share[x]!;
    const u = blue[j]! + (blue[j + 1]! - blue[j]!) * t;
    const v = red[j]! + (red[j + 1]! - red[j]!) * t;
    let r = (r0 * l + r1 * u + r2 * v + r3) * most;
    let g = (g0 * l + g1 * u + g2 * v + g3) * most;
    let b = (b0 * l + b1 * u + b2 * v + b3) * most;
    r = r < 0 ? 0 : r > most ? most : r;
    g = g < 0 ? 0 : g > most ? most : g;
    b = b < 0 ? 0 : b > most ? most : b;
    const ri = r >= most ? most - 1 : r | 0;
    const gi = g >= most ? most - 1 : g | 0;
    const bi = b >= most ? most - 1 : b | 0;
    r -= ri;
    g -= gi;
    b -= bi;
    // From the first corner of the cell to its last, along the axes, the largest part first.
    const one = ri * 3 + gi * row + bi * slice;
    const last = one + 3 + row + slice;
    let two = one + 3;
    let three = last - slice;
    let high = r;
    let middle = g;
    let low = b;
    if (r >= g) {
      if (r < b) {
        two = one + slice;
        three = last - row;
        high = b;
        middle = r;
        low = g;
      } else if (g < b) {
        three = last - row;
        middle = b;
        low = g;
      }
    } else if (r >= b) {
      two = one + row;
      high = g;
      middle = r;
    } else {
      three = last - 3;
      low = r;
      if (g >= b) {
        two = one + row;
        high = g;
        middle = b;
      } else {
        two = one + slice;
        high = b;
        middle = g;
      }
    }
    const a = 1 - high;
    const c = high - middle;
    const d = middle - low;
    const R = a * codes[one]! + c * codes[two]! + d * codes[three]! + low * codes[last]!;
    const G = a * codes[one + 1]! + c * codes[two + 1]! + d * codes[three + 1]! + low * codes[last + 1]!;
    const B = a * codes[one + 2]! + c * codes[two + 2]! + d * codes[three + 2]! + low * codes[last + 2]!;
    target[x] = 0xff000000 | ((B + 0.5) << 16) | ((G + 0.5) << 8) | (R + 0.5);
  }
}
