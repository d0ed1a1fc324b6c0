import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Look, StepOf } from "../src/api/types";
import { changeStep, redo, undo, useBench } from "../src/bench/store";
import { openStates, setAside, useStates } from "../src/bench/states";
import { exposure, look, record } from "./looks";

const stops = () => (useBench.getState().draft.steps[0] as { stops: number }).stops;
const expose = (value: number) =>
  changeStep<StepOf<"exposure">>("a", "Exposure", "stops", (s) => ({ ...s, stops: value }));
const past = () => useBench.temporal.getState().pastStates.length;

beforeEach(() => {
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout", "performance", "Date"] });
  sessionStorage.clear();
  useBench.getState().open(record(7, look(exposure("a"))));
});
afterEach(() => vi.useRealTimers());

describe("undo", () => {
  it("takes back one change at a time, with its name, and redo brings it again", () => {
    expose(1);
    vi.advanceTimersByTime(1000);
    useBench.getState().change("Remove step", (d) => ({ ...d, steps: [] }));
    expect(useBench.getState().edit).toBe("Remove step");
    undo();
    expect(stops()).toBe(1);
    expect(useBench.getState().edit).toBe("Exposure");
    undo();
    expect(stops()).toBe(0);
    redo();
    redo();
    expect(useBench.getState().draft.steps).toHaveLength(0);
  });

  it("counts one drag as one change", () => {
    for (let k = 1; k <= 30; k++) {
      expose(k / 10);
      vi.advanceTimersByTime(30);
    }
    expect(past()).toBe(1);
    undo();
    expect(stops()).toBe(0);
  });

  it("keeps a pause, and another control, apart", () => {
    expose(1);
    vi.advanceTimersByTime(800);
    expose(2);
    changeStep("a", "Exposure", "strength", (s) => ({ ...s, strength: 0.5 }));
    expect(past()).toBe(3);
  });

  it("has no end", () => {
    for (let k = 1; k <= 400; k++) {
      expose(k);
      vi.advanceTimersByTime(1000);
    }
    for (let k = 0; k < 400; k++) undo();
    expect(stops()).toBe(0);
  });

  it("does not count a change that changes nothing", () => {
    useBench.getState().change("Nothing", (d) => d);
    expect(past()).toBe(0);
    expect(useBench.getState().saving).toBe("kept");
  });

  it("is to be saved like any change", () => {
    expose(1);
    useBench.setState({ saving: "kept" });
    undo();
    expect(useBench.getState().saving).toBe("waiting");
  });

  it("never frees a draft that somebody else overtook", () => {
    expose(1);
    useBench.setState({ saving: "late" });
    undo();
    expose(3);
    expect(useBench.getState().saving).toBe("late");
  });
});

describe("a reload", () => {
  const reload = (draft: Look) => {
    vi.advanceTimersByTime(500);
    useBench.getState().open(record(8, look()));
    useBench.getState().open(record(7, draft, 2));
  };

  it("keeps what can be undone and redone, with names", () => {
    expose(1);
    vi.advanceTimersByTime(1000);
    expose(2);
    vi.advanceTimersByTime(1000);
    undo();
    reload(useBench.getState().draft);
    expect(useBench.getState().edit).toBe("Exposure");
    undo();
    expect(stops()).toBe(0);
    redo();
    redo();
    expect(stops()).toBe(2);
  });

  it("forgets it where the draft has become another", () => {
    expose(1);
    reload(look(exposure("a", 5)));
    expect(past()).toBe(0);
  });

  it("survives a history that cannot be read", () => {
    expose(1);
    vi.advanceTimersByTime(500);
    sessionStorage.setItem("saucer-history-7", "{");
    useBench.getState().open(record(7, useBench.getState().draft, 2));
    expect(past()).toBe(0);
    expect(stops()).toBe(1);
  });

  it("lets the oldest half go where the browser's store is full", () => {
    const kept = vi.spyOn(Storage.prototype, "setItem").mockImplementationOnce(() => {
      throw new DOMException("full", "QuotaExceededError");
    });
    for (let k = 1; k <= 4; k++) {
      expose(k);
      vi.advanceTimersByTime(k < 4 ? 50 + 700 * k : 500);
    }
    kept.mockRestore();
    const { past: left } = JSON.parse(sessionStorage.getItem("saucer-history-7")!) as {
      past: { draft: Look }[];
    };
    expect(left.length).toBeGreaterThan(0);
    expect(left.at(-1)!.draft.steps[0]).toMatchObject({ stops: 3 });
  });
});

describe("choosing", () => {
  it("stays with the same look and begins with the first step of another", () => {
    useBench.getState().choose(new Set(["x"]));
    useBench.getState().open(record(7, look(exposure("a")), 2));
    expect([...useBench.getState().chosen]).toEqual(["x"]);
    useBench.getState().open(record(9, look(exposure("b"), exposure("c"))));
    expect([...useBench.getState().chosen]).toEqual(["b"]);
  });
});

describe("states set aside", () => {
  it("have names of their own, and are there after a reload", () => {
    openStates(7);
    expect(setAside(look(exposure("a", 1))).name).toBe("State 1");
    expect(setAside(look(exposure("a", 2))).name).toBe("State 2");
    expect(setAside(look(exposure("a", 3))).name).toBe("State 3");
    openStates(8);
    expect(useStates.getState().states).toEqual([]);
    openStates(7);
    expect(useStates.getState().states.map((s) => s.name)).toEqual(["State 1", "State 2", "State 3"]);
  });

  it("are the newest dozen", () => {
    openStates(7);
    for (let k = 0; k < 20; k++) setAside(look(exposure("a", k)));
    const { states } = useStates.getState();
    expect(states).toHaveLength(12);
    expect(new Set(states.map((s) => s.name)).size).toBe(12);
    expect(states.at(-1)!.look.steps[0]).toMatchObject({ stops: 19 });
  });
});

describe("names of changes", () => {
  it("hold any sign, and one hand on one number is one change", () => {
    for (const value of [0.1, 0.2, 0.3])
      changeStep<StepOf<"exposure">>("a", "warm | late", "stops", (s) => ({ ...s, stops: value }));
    expect(useBench.getState().edit).toBe("warm | late");
    expect(past()).toBe(1);
  });
});
