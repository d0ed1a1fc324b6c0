import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { AGAIN, Problem } from "../src/api/client";
import { newest } from "../src/api/newest";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const settle = (milliseconds = 0) => vi.advanceTimersByTimeAsync(milliseconds);

/** Wishes that are answered in turn, each when it is let go. */
function asked(options: Parameters<typeof newest>[1] = {}) {
  const seen: { wish: { k: number }; give: () => void; fail: (error: unknown) => void }[] = [];
  const wishes = newest<{ k: number }>(
    (wish) => new Promise<void>((give, fail) => seen.push({ wish, give, fail })),
    options,
  );
  return { seen, wishes, order: () => seen.map((s) => s.wish.k) };
}

it("passes over what was wished while something was under way", async () => {
  const { seen, wishes, order } = asked();
  [1, 2, 3].forEach((k) => wishes.ask({ k }));
  expect(order()).toEqual([1]);
  seen[0]!.give();
  await settle();
  expect(order()).toEqual([1, 3]);
});

it("asks again where the server was away, but not for what was dropped, and not where it was refused", async () => {
  const told: number[] = [];
  const { seen, wishes, order } = asked({ failed: (problem) => told.push(problem.status) });
  wishes.ask({ k: 1 });
  seen[0]!.fail(new Problem(503, "busy"));
  await settle(AGAIN);
  expect(order()).toEqual([1, 1]);
  seen[1]!.fail(new Problem(503, "busy"));
  await settle(1);
  wishes.drop();
  await settle(AGAIN);
  expect(order()).toEqual([1, 1]);
  wishes.ask({ k: 2 });
  seen[2]!.fail(new Problem(422, "no such step"));
  await settle(2 * AGAIN);
  expect(order()).toEqual([1, 1, 2]);
  expect(told).toEqual([503, 503, 422]);
});

it("waits for what goes before it, and then takes the newest wish", async () => {
  let free: () => void = () => undefined;
  const { wishes, order } = asked({ before: () => new Promise<void>((go) => (free = go)) });
  wishes.ask({ k: 1 });
  wishes.ask({ k: 2 });
  await settle();
  expect(order()).toEqual([]);
  free();
  await settle();
  expect(order()).toEqual([2]);
});

it("what was dropped while it waited is not asked at all", async () => {
  let free: () => void = () => undefined;
  const { wishes, order } = asked({ before: () => new Promise<void>((go) => (free = go)) });
  wishes.ask({ k: 1 });
  wishes.drop();
  free();
  await settle();
  expect(order()).toEqual([]);
});
