/**
 * The geometry of the map: what is in sight, what lies under the pointer or inside a line drawn around, and
 * which look comes next.
 */
import type { Places as Answer } from "../api/types";

/** The document knows no pairs, only lists. */
export type Places = Omit<Answer, "values"> & { values: number[][] };

export interface Mark {
  id: number;
  /** From 0 to 1, across to the right and up. */
  x: number;
  y: number;
  /** The traits themselves, across and up. */
  values: number[];
  blue: string;
  clay: string;
  /** Whether it fits what the catalogue is narrowed to. */
  found: boolean;
}

/** The part of the map in sight: its middle, and how many times it is enlarged. */
export interface Sight {
  x: number;
  y: number;
  zoom: number;
}

export const WHOLE: Sight = { x: 0.5, y: 0.5, zoom: 1 };
export const NEAREST = 60;
/** Room around the whole map, in pixels. */
const EDGE = 34;

export function marksOf(places: Places): Mark[] {
  const found = places.found ? new Set(places.found) : null;
  return places.ids.map((id, k) => ({
    id,
    x: places.across[k]! / places.steps,
    y: places.up[k]! / places.steps,
    values: places.values[k]!,
    blue: `#${places.blue[k]!}`,
    clay: `#${places.clay[k]!}`,
    found: !found || found.has(id),
  }));
}

export interface Room {
  width: number;
  height: number;
}

/** Where a place of the map is drawn. */
export function drawnAt(at: { x: number; y: number }, sight: Sight, room: Room): [number, number] {
  return [
    room.width / 2 + (at.x - sight.x) * (room.width - 2 * EDGE) * sight.zoom,
    room.height / 2 - (at.y - sight.y) * (room.height - 2 * EDGE) * sight.zoom,
  ];
}

/** Which place of the map is drawn there. */
export function placeAt(px: number, py: number, sight: Sight, room: Room): { x: number; y: number } {
  return {
    x: sight.x + (px - room.width / 2) / ((room.width - 2 * EDGE) * sight.zoom),
    y: sight.y - (py - room.height / 2) / ((room.height - 2 * EDGE) * sight.zoom),
  };
}

/** Nearer or farther by a factor, with what is drawn at a point staying there. */
export function zoomedAt(sight: Sight, factor: number, px: number, py: number, room: Room): Sight {
  const zoom = Math.min(NEAREST, Math.max(1, sight.zoom * factor));
  const under = placeAt(px, py, sight, room);
  const moved = placeAt(px, py, { ...sight, zoom }, room);
  return held({ x: sight.x + under.x - moved.x, y: sight.y + under.y - moved.y, zoom });
}

/** A sight that does not leave the map. */
export function held(sight: Sight): Sight {
  const half = 0.5 / sight.zoom;
  const within = (v: number) => Math.min(1 - half, Math.max(half, v));
  return { ...sight, x: within(sight.x), y: within(sight.y) };
}

/** The nearest mark to a point, at most so many pixels away. */
export function markAt(
  marks: readonly Mark[],
  px: number,
  py: number,
  sight: Sight,
  room: Room,
  within: number,
): Mark | null {
  let best: Mark | null = null;
  let least = within * within;
  for (const mark of marks) {
    if (!mark.found) continue;
    const [x, y] = drawnAt(mark, sight, room);
    const far = (x - px) ** 2 + (y - py) ** 2;
    if (far <= least) [best, least] = [mark, far];
  }
  return best;
}

/** Marks inside a line drawn around, whose points are places of the map. */
export function inside(marks: readonly Mark[], line: readonly { x: number; y: number }[]): Mark[] {
  if (line.length < 3) return [];
  return marks.filter((mark) => {
    if (!mark.found) return false;
    let odd = false;
    for (let k = 0, last = line.length - 1; k < line.length; last = k++) {
      const a = line[k]!;
      const b = line[last]!;
      if (a.y > mark.y !== b.y > mark.y && mark.x < ((b.x - a.x) * (mark.y - a.y)) / (b.y - a.y) + a.x)
        odd = !odd;
    }
    return odd;
  });
}

/** The next mark into a direction: near, and straight ahead rather than aside. */
export function nextFrom(marks: readonly Mark[], from: Mark, dx: number, dy: number): Mark | null {
  let best: Mark | null = null;
  let least = Infinity;
  for (const mark of marks) {
    if (!mark.found || mark.id === from.id) continue;
    const ahead = (mark.x - from.x) * dx + (mark.y - from.y) * dy;
    const aside = Math.abs((mark.x - from.x) * dy) + Math.abs((mark.y - from.y) * dx);
    if (ahead <= 1e-9 && !(ahead > -1e-9 && aside < 1e-9 && mark.id > from.id)) continue;
    const far = ahead + 2.5 * aside;
    if (far < least) [best, least] = [mark, far];
  }
  return best;
}
