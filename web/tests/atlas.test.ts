/** The geometry of the map. */
import { describe, expect, it } from "vitest";
import {
  drawnAt,
  held,
  inside,
  markAt,
  marksOf,
  nextFrom,
  placeAt,
  WHOLE,
  zoomedAt,
  type Mark,
} from "../src/catalogue/atlas";

const ROOM = { width: 800, height: 600 };
const mark = (id: number, x: number, y: number, found = true): Mark => ({
  id,
  x,
  y,
  values: [0, 0],
  blue: "#000",
  clay: "#fff",
  found,
});

describe("the map", () => {
  it("makes marks of what the server answers, and dims what does not fit", () => {
    const places = {
      ids: [3, 8],
      across: [0, 20000],
      up: [10000, 5000],
      values: [
        [-5, 1],
        [9, 0.8],
      ],
      blue: ["112233", "445566"],
      clay: ["aabbcc", "ddeeff"],
      edges: ["cooler", "warmer", "softer", "harder"],
      found: [8],
      steps: 20000,
    };
    expect(marksOf(places)).toEqual([
      { id: 3, x: 0, y: 0.5, values: [-5, 1], blue: "#112233", clay: "#aabbcc", found: false },
      { id: 8, x: 1, y: 0.25, values: [9, 0.8], blue: "#445566", clay: "#ddeeff", found: true },
    ]);
    expect(marksOf({ ...places, found: null }).every((m) => m.found)).toBe(true);
  });

  it("draws a place and finds it again, at any zoom", () => {
    for (const sight of [WHOLE, { x: 0.3, y: 0.6, zoom: 7 }]) {
      const [x, y] = drawnAt({ x: 0.41, y: 0.58 }, sight, ROOM);
      const back = placeAt(x, y, sight, ROOM);
      expect(back.x).toBeCloseTo(0.41, 9);
      expect(back.y).toBeCloseTo(0.58, 9);
    }
  });

  it("keeps what is under the pointer there while zooming, and never leaves the map", () => {
    const before = placeAt(500, 300, { x: 0.5, y: 0.5, zoom: 2 }, ROOM);
    const after = placeAt(500, 300, zoomedAt({ x: 0.5, y: 0.5, zoom: 2 }, 1.5, 500, 300, ROOM), ROOM);
    expect(after.x).toBeCloseTo(before.x, 9);
    expect(after.y).toBeCloseTo(before.y, 9);
    expect(zoomedAt(WHOLE, 0.1, 10, 10, ROOM)).toEqual(WHOLE);
    expect(zoomedAt(WHOLE, 1e9, 10, 10, ROOM).zoom).toBe(60);
    expect(held({ x: -4, y: 9, zoom: 2 })).toEqual({ x: 0.25, y: 0.75, zoom: 2 });
  });

  it("points at the nearest mark that fits, and at none beyond reach", () => {
    const marks = [mark(1, 0.5, 0.5), mark(2, 0.505, 0.5), mark(3, 0.5, 0.5, false)];
    const [x, y] = drawnAt(marks[1]!, WHOLE, ROOM);
    expect(markAt(marks, x + 1, y, WHOLE, ROOM, 16)?.id).toBe(2);
    expect(markAt(marks, 5, 5, WHOLE, ROOM, 16)).toBeNull();
  });

  it("gathers what lies inside a line drawn around, hollow shapes too", () => {
    const hollow = [
      { x: 0, y: 0 },
      { x: 1, y: 0 },
      { x: 1, y: 1 },
      { x: 0.5, y: 0.2 },
      { x: 0, y: 1 },
    ];
    const marks = [mark(1, 0.1, 0.5), mark(2, 0.5, 0.6), mark(3, 0.9, 0.5), mark(4, 0.1, 0.4, false)];
    expect(inside(marks, hollow).map((m) => m.id)).toEqual([1, 3]);
    expect(inside(marks, hollow.slice(0, 2))).toEqual([]);
  });

  it("goes on into a direction: straight ahead before aside, and to nobody at the edge", () => {
    const from = mark(1, 0.5, 0.5);
    const marks = [from, mark(2, 0.7, 0.5), mark(3, 0.6, 0.65), mark(4, 0.2, 0.5), mark(5, 0.55, 0.5, false)];
    expect(nextFrom(marks, from, 1, 0)?.id).toBe(2);
    expect(nextFrom(marks, from, -1, 0)?.id).toBe(4);
    expect(nextFrom(marks, from, 0, 1)?.id).toBe(3);
    expect(nextFrom(marks, from, 0, -1)).toBeNull();
  });
});
