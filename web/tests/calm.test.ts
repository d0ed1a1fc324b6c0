/** The draft for what need not follow every movement of a hand. */
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { StepOf } from "../src/api/types";
import { useCalm } from "../src/bench/calm";
import { find, move } from "../src/bench/steps";
import { changeStep, useBench } from "../src/bench/store";
import { resetView, view, type Show } from "../src/bench/view";
import { exposure, look, record } from "./looks";

const expose = (value: number) =>
  changeStep<StepOf<"exposure">>("a", "Exposure", "stops", (s) => ({ ...s, stops: value }));
const seen = () => (find(useCalm.getState().draft, "a") as StepOf<"exposure">).stops;

beforeEach(() => {
  vi.useFakeTimers();
  resetView();
  useBench.getState().open(record(7, look(exposure("a"), exposure("b")), 3));
});
afterEach(() => void vi.useRealTimers());

it("shows a look at once when it is opened", () => {
  expect(useCalm.getState()).toEqual({ draft: useBench.getState().draft, shaped: useBench.getState().draft });
});

it("follows a moving hand more often where only the server can render the picture", () => {
  const followed = (show: Show) => {
    view({ show });
    let changes = 0;
    const stop = useCalm.subscribe(() => (changes += 1));
    for (let k = 1; k <= 200; k++) {
      expose(k / 100);
      vi.advanceTimersByTime(16);
    }
    stop();
    // Until it has followed to the end.
    vi.advanceTimersByTime(2000);
    return changes;
  };
  expect(followed("difference")).toBeGreaterThan(2 * followed("look"));
});

it("follows a moving hand now and then, and the resting one soon", () => {
  const before = seen();
  let changes = 0;
  const stop = useCalm.subscribe(() => (changes += 1));
  for (let k = 1; k <= 400; k++) {
    expose(k / 400);
    vi.advanceTimersByTime(16);
  }
  expect(changes).toBeGreaterThan(2);
  expect(changes).toBeLessThan(6);
  vi.advanceTimersByTime(200);
  stop();
  expect(seen()).toBe(1);
  expect(seen()).not.toBe(before);
});

it("keeps the list's draft while only numbers change, and gives it a new one when steps move", () => {
  const { shaped } = useCalm.getState();
  expose(1);
  vi.advanceTimersByTime(1000);
  expect(useCalm.getState().shaped).toBe(shaped);
  useBench.getState().change("Reorder", (d) => move(d, new Set(["a"]), "b", "after"));
  expect(useCalm.getState().shaped.steps.map((s) => s.id)).toEqual(["b", "a"]);
  expect(useCalm.getState().draft).toBe(useBench.getState().draft);
});
