/** The commands of the bench: what a key stands for, and that no two share one. */
import { beforeEach, expect, test, vi } from "vitest";
import type { Frame } from "../src/api/types";
import {
  KEYS,
  keysOf,
  ORDERING,
  pressed,
  SEEING,
  WORKING,
  type BenchContext,
  type KeyPress,
} from "../src/bench/commands";
import { undo, useBench } from "../src/bench/store";
import { resetView, useView, view } from "../src/bench/view";
import { exposure, look, record } from "./looks";

const press = (key: string, more: Partial<KeyPress> = {}): KeyPress => ({
  key,
  shiftKey: false,
  altKey: false,
  ctrlKey: false,
  metaKey: false,
  ...more,
});
const frames = [1, 2, 3].map((id) => ({ id }) as Frame);
const context = (more: Partial<BenchContext> = {}): BenchContext => ({
  frames,
  frame: 1,
  choose: vi.fn(),
  help: vi.fn(),
  ...more,
});
const bench = [...SEEING, ...WORKING];
const TRIED = [..."0123456789abcdefghijklmnopqrstuvwxyz,.+-?"]
  .map((k) => press(k))
  .concat([press("Escape"), press("z", { ctrlKey: true }), press("z", { metaKey: true, shiftKey: true })]);

beforeEach(() => {
  resetView();
  useBench.getState().open(record(1, look(exposure("a"), exposure("b"))));
});

test("no key stands for two things, and every command has one that is written down", () => {
  view({ only: "a" });
  for (const one of TRIED) expect(bench.filter((c) => c.fits(one)).length, one.key).toBeLessThanOrEqual(1);
  for (const c of bench)
    expect(
      TRIED.some((p) => c.fits(p)),
      c.id,
    ).toBe(true);
  const written = KEYS.flatMap(([, lines]) => lines.map(([keys]) => keys));
  for (const c of [...bench, ...ORDERING]) expect(written).toContain(c.keys);
  expect(keysOf("trim")).toBe("T");
  expect(keysOf("no such")).toBe("");
});

test("letters with Ctrl or Alt are left to the browser", () => {
  for (const more of [{ ctrlKey: true }, { metaKey: true }, { altKey: true }])
    expect(pressed(bench, press("s", more), context())).toBe(false);
});

test("what is shown is chosen by number, and split comes and goes", () => {
  expect(pressed(bench, press("5"), context())).toBe(true);
  expect(useView.getState().show).toBe("difference");
  pressed(bench, press("h"), context());
  expect(useView.getState().show).toBe("split");
  pressed(bench, press("h"), context());
  expect(useView.getState().show).toBe("look");
});

test("frames go round", () => {
  const choose = vi.fn();
  pressed(bench, press(","), context({ choose }));
  pressed(bench, press("."), context({ choose, frame: 3 }));
  expect(choose.mock.calls).toEqual([[3], [1]]);
  expect(pressed(bench, press("."), context({ choose, frames: [] }))).toBe(true);
  expect(choose).toHaveBeenCalledTimes(2);
});

test("a step is seen alone and let go of; Escape is free where there is nothing to let go of", () => {
  expect(pressed(bench, press("Escape"), context())).toBe(false);
  useBench.getState().choose(new Set(["b"]));
  pressed(bench, press("a"), context());
  expect(useView.getState().only).toBe("b");
  expect(pressed(bench, press("Escape"), context())).toBe(true);
  expect(useView.getState().only).toBeNull();
});

test("undo and redo go back and forth", () => {
  const stops = () => (useBench.getState().draft.steps[0] as { stops: number }).stops;
  useBench.getState().change("Exposure", (d) => ({ ...d, steps: [exposure("a", 2)] }));
  pressed(bench, press("z", { ctrlKey: true }), context());
  expect(stops()).toBe(0);
  pressed(bench, press("Z", { ctrlKey: true, shiftKey: true }), context());
  expect(stops()).toBe(2);
  undo();
  expect(stops()).toBe(0);
});

test("in the order the arrows move and ease, and Delete removes", () => {
  const order = { move: vi.fn(), ease: vi.fn(), discard: vi.fn() };
  expect(pressed(ORDERING, press("ArrowUp"), order)).toBe(false);
  pressed(ORDERING, press("ArrowUp", { altKey: true }), order);
  pressed(ORDERING, press("ArrowDown", { altKey: true }), order);
  pressed(ORDERING, press("ArrowLeft", { altKey: true }), order);
  pressed(ORDERING, press("ArrowRight", { altKey: true, shiftKey: true }), order);
  pressed(ORDERING, press("Delete"), order);
  expect(order.move.mock.calls).toEqual([[-1], [1]]);
  expect(order.ease.mock.calls).toEqual([[-1], [10]]);
  expect(order.discard).toHaveBeenCalledTimes(1);
});
