/** Lengths of time, and places in them, in words. */

/** Minutes and seconds. */
export function lengthWords(seconds: number): string {
  const whole = Math.round(seconds);
  const minutes = Math.floor(whole / 60);
  return minutes ? `${minutes} min ${whole % 60} s` : `${whole} s`;
}

/** Where something is: minutes, seconds and tenths. */
export function placeWords(seconds: number): string {
  const tenths = Math.floor(seconds * 10 + 1e-6);
  const two = (n: number) => String(n).padStart(2, "0");
  return `${two(Math.floor(tenths / 600))}:${two(Math.floor(tenths / 10) % 60)}.${tenths % 10}`;
}
