/** Answers as the server packs them. */

const packed = (head: object, tail: Uint8Array): ArrayBuffer => {
  const text = new TextEncoder().encode(JSON.stringify(head));
  const padded = text.length + ((4 - (text.length % 4)) % 4);
  const bytes = new Uint8Array(4 + padded + tail.length).fill(32);
  new DataView(bytes.buffer).setUint32(0, padded, true);
  bytes.set(text, 4);
  bytes.set(tail, 4 + padded);
  return bytes.buffer;
};

/** A live answer with a table of zeros. */
export const answerOf = (head: { size: number; end: string; traces?: object }): ArrayBuffer =>
  packed(head, new Uint8Array(head.size ** 3 * 6));

/** Readings whose counts are their own places. */
export const readingsOf = (head: {
  columns: number;
  scope: number;
  histogram: number[][];
  given?: number[][];
}): ArrayBuffer =>
  packed(
    head,
    Uint8Array.from({ length: 4 * head.columns * 256 + head.scope ** 2 }, (_, k) => k % 256),
  );

/** A picture of that size whose pixels are numbered. */
export function pictureOf(width: number, height: number): ArrayBuffer {
  const bytes = new ArrayBuffer(8 + width * height * 6);
  new Uint32Array(bytes, 0, 2).set([width, height]);
  new Uint16Array(bytes, 8).set(Array.from({ length: width * height * 3 }, (_, k) => k));
  return bytes;
}
