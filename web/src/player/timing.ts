/** When frames of a clip are shown, and what their timecodes are. */
import type { ProxyIndex } from "../api/types";

export const countOf = (index: ProxyIndex) => index.offsets.length;

/** Seconds from the first frame at which a frame is shown; for the number of frames, when the last one ends. */
export const timeOf = (index: ProxyIndex, number: number) => index.shown[number]! / index.timescale;

/** The frame that is shown at a time, in seconds from the first one on. */
export function frameAt(index: ProxyIndex, seconds: number): number {
  // A time that comes back from a browser is a hair off; half a tick more is the same tick.
  const ticks = seconds * index.timescale + 0.5;
  let low = 0;
  let high = countOf(index) - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (index.shown[middle]! <= ticks) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Where the frames that are decoded together begin, for one of them. */
export function groupOf(index: ProxyIndex, number: number): number {
  const { keys } = index;
  let low = 0;
  let high = keys.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (keys[middle]! <= number) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The frames of a group: the first, and the one after the last. */
export const framesOf = (index: ProxyIndex, group: number): [number, number] => [
  index.keys[group]!,
  index.keys[group + 1] ?? countOf(index),
];

/** Frames of a second by the timecode: 24 for 23.976, too. */
const unitOf = (index: ProxyIndex) => {
  const [over, under] = index.rate.split("/").map(Number);
  return Math.max(Math.round(over! / (under || 1)), 1);
};

/** Frame numbers that drop-frame timecode leaves out each minute but every tenth (SMPTE ST 12-1). */
const leftOut = (unit: number) => 2 * Math.max(Math.round(unit / 30), 1);

/** Which frame of the day a timecode is; null where it is none. */
function counted(timecode: string, unit: number): number | null {
  const found = /^(\d\d):(\d\d):(\d\d)[:;](\d\d)$/.exec(timecode.trim());
  if (!found) return null;
  const [hours, minutes, seconds, frames] = found.slice(1).map(Number) as [number, number, number, number];
  if (minutes > 59 || seconds > 59 || frames >= unit) return null;
  const all = ((hours * 60 + minutes) * 60 + seconds) * unit + frames;
  const passed = hours * 60 + minutes;
  return timecode.includes(";") ? all - leftOut(unit) * (passed - Math.floor(passed / 10)) : all;
}

/** The timecode of a frame of the clip; empty for a clip that has none. */
export function timecodeOf(index: ProxyIndex, number: number): string {
  const unit = unitOf(index);
  const drop = index.timecode.includes(";");
  const begin = counted(index.timecode, unit);
  if (begin === null) return "";
  let count = begin + number;
  if (drop) {
    const minute = unit * 60 - leftOut(unit);
    const tenth = minute * 10 + leftOut(unit);
    const [tens, rest] = [Math.floor(count / tenth), count % tenth];
    count += 9 * leftOut(unit) * tens;
    if (rest >= unit * 60) count += leftOut(unit) * (1 + Math.floor((rest - unit * 60) / minute));
  }
  const two = (n: number) => String(n).padStart(2, "0");
  const seconds = Math.floor(count / unit);
  return [
    two(Math.floor(seconds / 3600) % 24),
    two(Math.floor(seconds / 60) % 60),
    two(seconds % 60) + (drop ? ";" : ":") + two(count % unit),
  ].join(":");
}

/** The frame of the clip that has a timecode, or that a bare number names; null for one outside. */
export function frameNamed(index: ProxyIndex, said: string): number | null {
  const unit = unitOf(index);
  const begin = counted(index.timecode, unit);
  const given = counted(said, unit);
  const number = /^\d+$/.test(said.trim())
    ? Number(said)
    : given === null || begin === null
      ? NaN
      : given - begin;
  return number >= 0 && number < countOf(index) ? number : null;
}
