/** Rows and bands of a cut: which are shown, and where events stand. */
import { describe, expect, it } from "vitest";
import type { CutStretch, Recutting } from "../src/api/types";
import { countsOf, isShown, keyOf, lengthOf, longOf, pictureOf, spanOf } from "../src/cuts/judging";

const row = (kinds: Recutting["kinds"], old: number | null, at: number | null): Recutting => ({
  ...{ kinds, old, new: at, name: "Heads", number: 1, was: 24, now: 24, how: "", waits: false },
  ...{ shot: 5, version: "v", part: { x: 0.5, y: 0.5 }, looks: [], trim: null },
});
const stretch = (more: Partial<CutStretch>): CutStretch => ({
  ...{ place: 0, number: 1, name: "Heads", at: 0, lasts: 24, length: 24, speed: 1, clip: 3, first: 10 },
  ...{ last: 33, before: 10, behind: 5, range: "", reel: "", by: "name", asked: [], why: "", shot: null },
  ...{ version: "", part: { x: 0.5, y: 0.5 }, scene: "", carries: false, cdl: null, taken: false },
  trim: null,
  ...more,
});

describe("rows of a cut", () => {
  const rows = [
    row(["same"], 0, 0),
    row(["moved", "longer"], 1, 2),
    row(["slipped"], 2, 1),
    row(["split"], 1, 3),
    row(["back"], null, 4),
    row(["joined"], 3, 2),
    row(["gone"], 4, null),
  ];

  it("are counted by what happened, each wherever it belongs", () => {
    expect(countsOf(rows)).toEqual({ changed: 6, moved: 2, longer: 1, shorter: 0, new: 2, gone: 2, all: 7 });
    expect(rows.filter((one) => isShown(one, "gone")).map((one) => one.old)).toEqual([3, 4]);
  });

  it("are told apart where one event became two", () => {
    expect(new Set(rows.map(keyOf)).size).toBe(rows.length);
  });
});

describe("bands of a cut", () => {
  it("span from the first frame to the last, whatever the order", () => {
    const some = [stretch({ at: 124, lasts: 30 }), stretch({ at: 100, lasts: 24 })];
    expect(spanOf(some)).toEqual({ begin: 100, frames: 54 });
    expect(spanOf([])).toEqual({ begin: 0, frames: 0 });
  });

  it("show the shot, else the middle of what is used of the clip, else nothing", () => {
    expect(pictureOf(7, stretch({ shot: 5, version: "v1" }), 160)).toBe(
      "/api/projects/7/shots/5/still?width=160&v=v1",
    );
    expect(pictureOf(7, stretch({}), 160)).toBe("/api/clips/3/still?frame=21&width=160");
    expect(pictureOf(7, stretch({ clip: null }), 160)).toBeNull();
  });

  it("say lengths in seconds and frames", () => {
    expect([lengthOf(36, 24), lengthOf(5, 24), lengthOf(1500, 25)]).toEqual(["1:12", "0:05", "60:00"]);
    expect([longOf(36, 24), longOf(24 * 95, 24)]).toEqual(["2 s", "1 min 35 s"]);
  });
});
