const words = new Intl.RelativeTimeFormat("en-GB", { numeric: "always", style: "short" });
const SECOND = 1000;
const MINUTE = 60 * SECOND;
const HOUR = 60 * MINUTE;

/** How long ago a moment was, in words; a moment of another day is a date. Both in milliseconds. */
export function longAgo(moment: number, now = Date.now()): string {
  const ago = Math.max(0, now - moment);
  if (ago < 3 * SECOND) return "just now";
  if (ago < 1.5 * MINUTE) return words.format(-Math.round(ago / SECOND), "second");
  if (ago < 1.5 * HOUR) return words.format(-Math.round(ago / MINUTE), "minute");
  if (ago < 18 * HOUR) return words.format(-Math.round(ago / HOUR), "hour");
  return new Date(moment).toLocaleDateString("en-GB");
}
