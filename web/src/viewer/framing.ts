/** Binary answers as the server sends them. Every number before the bodies is a little-endian uint32. */

/** A length, so many bytes of JSON, and the bodies behind it: their place is `at`. */
export function headed(bytes: ArrayBuffer): { head: unknown; at: number } {
  const length = new DataView(bytes).getUint32(0, true);
  return { head: JSON.parse(new TextDecoder().decode(new Uint8Array(bytes, 4, length))), at: 4 + length };
}

/** Width, height, and the values of a picture or a mask, whose place is `at`. */
export function sized(bytes: ArrayBuffer): { width: number; height: number; at: number } {
  const view = new DataView(bytes);
  return { width: view.getUint32(0, true), height: view.getUint32(4, true), at: 8 };
}
