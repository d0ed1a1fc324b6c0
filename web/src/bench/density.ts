/** Densities of a scope, as the server coded them, put on a picture in an ink. */

export type Scale = "linear" | "log";
export type Ink = readonly [red: number, green: number, blue: number];

/**
 * How bright each code is drawn, 0–1. Codes are logarithmic; `lift` turns them back into a share of the
 * fullest density.
 */
export function brightness(scale: Scale, lift: number): Float32Array {
  return Float32Array.from({ length: 256 }, (_, code) =>
    scale === "log" ? code / 255 : ((1 + lift) ** (code / 255) - 1) / lift,
  );
}

/** A plane of codes, rows from the top, and how it is drawn. */
export interface Plane {
  codes: Uint8Array;
  columns: number;
  ink: Ink;
  scale: Scale;
  lift: number;
  /** 1 as bright as can be. */
  dim?: number;
}

/**
 * Draws a plane with its left edge at column `left`. What is faint is see-through rather than dark, and where
 * another light is already, each channel keeps the brighter one.
 */
export function lay(
  image: ImageData,
  left: number,
  { codes, columns, ink, scale, lift, dim = 1 }: Plane,
): void {
  const [red, green, blue] = ink;
  const lights = brightness(scale, lift).map((light) => light * dim);
  // Red, green, blue and alpha of a pixel in one number, as every machine that runs a browser keeps them.
  const colours = Uint32Array.from(
    lights,
    (light) => (Math.round(255 * light) << 24) | (blue << 16) | (green << 8) | red,
  );
  const pixels = new Uint32Array(image.data.buffer);
  const rows = codes.length / columns;
  for (let row = 0, k = 0; row < rows; row++) {
    for (let at = row * image.width + left, end = at + columns; at < end; at++, k++) {
      const code = codes[k]!;
      if (!code) continue;
      if (pixels[at]) over(image.data, 4 * at, ink, lights[code]!);
      else pixels[at] = colours[code]!;
    }
  }
}

/** Adds a light, 0–1, of an ink to a pixel that holds one. */
function over(data: Uint8ClampedArray, at: number, ink: Ink, light: number): void {
  const was = data[at + 3]! / 255;
  const alpha = Math.max(was, light);
  if (!alpha) return;
  for (let c = 0; c < 3; c++) data[at + c] = Math.max(data[at + c]! * was, ink[c]! * light) / alpha;
  data[at + 3] = 255 * alpha;
}
