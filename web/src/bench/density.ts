/** Counts of a scope made soft, so that few of them are drawn as a density and not as loose dots. */

const DOWN = [1, 2, 3, 2, 1].map((w) => w / 9);
const ACROSS = [1, 2, 1].map((w) => w / 4);

/** One pass of a small kernel over `lines` runs of `length` values, `step` apart within a run and `jump` between runs. */
function pass(from: ArrayLike<number>, lines: number, length: number, jump: number, step: number, kernel: number[]): Float32Array {
  const out = new Float32Array(lines * length);
  const half = kernel.length >> 1;
  for (let line = 0; line < lines; line++) {
    for (let k = 0; k < length; k++) {
      const at = line * jump + k * step;
      const count = from[at]!;
      if (!count) continue;
      for (let t = -half; t <= half; t++) {
        // What would fall off an end stays on it: nothing is lost.
        const to = Math.min(Math.max(k + t, 0), length - 1);
        out[line * jump + to * step]! += count * kernel[t + half]!;
      }
    }
  }
  return out;
}

/** Counts of `columns` × `levels`, a column after the other, spread a little over their neighbours; their sum stays. */
export function softened(counts: ArrayLike<number>, columns: number, levels: number): Float32Array {
  return pass(pass(counts, columns, levels, levels, 1, DOWN), levels, columns, 1, levels, ACROSS);
}

/** How bright a density is drawn, 0–1: `full` and more is white. */
export function brightness(density: number, scale: "linear" | "log", full: number): number {
  if (density <= 0) return 0;
  const share = scale === "log" ? Math.log1p(GAIN * density) / Math.log1p(GAIN * full) : density / full;
  return Math.min(1, share);
}

/** How far the logarithm lifts what is rare. */
const GAIN = 5;

/**
 * Puts a light, 0–1, of an ink, 0–255, on the pixel at `at` of RGBA data. What is faint is see-through rather than dark, and where
 * another light is already, each channel keeps the brighter one.
 */
export function lay(data: Uint8ClampedArray, at: number, ink: readonly number[], light: number): void {
  const was = data[at + 3]! / 255;
  const alpha = Math.max(was, light);
  for (let c = 0; c < 3; c++) data[at + c] = Math.max(data[at + c]! * was, ink[c]! * light) / alpha;
  data[at + 3] = 255 * alpha;
}
