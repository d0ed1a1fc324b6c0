/** Bytes in words, in powers of a thousand. */
export function bytes(count: number): string {
  if (count === 0) return "0 kB";
  if (count < 1e6) return `${Math.max(1, Math.round(count / 1e3))} kB`;
  return count < 1e9 ? `${(count / 1e6).toFixed(1)} MB` : `${(count / 1e9).toFixed(1)} GB`;
}
