import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Problem } from "../src/api/client";
import type { StepOf } from "../src/api/types";
import { decide, follow, restore, settle } from "../src/bench/autosave";
import { changeStep, useBench } from "../src/bench/store";
import { exposure, look, record } from "./looks";
import { wire } from "./wires";

const expose = (value: number) =>
  changeStep<StepOf<"exposure">>("a", "Exposure", "stops", (s) => ({ ...s, stops: value }));
const put = () => wire("PUT");

beforeEach(() => {
  localStorage.clear();
  useBench.getState().open(record(7, look(exposure("a")), 3));
});
afterEach(() => void vi.restoreAllMocks());

describe("settling", () => {
  it("sends the draft with the version it was made from, and takes the new one", async () => {
    const sent = put().mockResolvedValue({ version: 4 });
    expose(1);
    await settle();
    expect(sent).toHaveBeenCalledWith(
      "/looks/7/draft",
      { version: 3, tab: expect.any(String) as string, draft: useBench.getState().draft },
      expect.any(AbortSignal),
    );
    expect(useBench.getState()).toMatchObject({ version: 4, saving: "kept" });
    await settle();
    expect(sent).toHaveBeenCalledTimes(1);
  });

  it("sends again what changed while it was sent", async () => {
    const sent = put()
      .mockImplementationOnce(async () => {
        expose(2);
        return { version: 4 };
      })
      .mockResolvedValue({ version: 5 });
    expose(1);
    await settle();
    expect(sent).toHaveBeenCalledTimes(2);
    expect(sent.mock.lastCall![1]).toMatchObject({ version: 4, draft: { steps: [{ stops: 2 }] } });
    expect(useBench.getState()).toMatchObject({ version: 5, saving: "kept" });
  });

  it("says so where the server refuses, and keeps the draft", async () => {
    put().mockRejectedValue(new Problem(422, "Too many steps."));
    expose(1);
    await expect(settle()).rejects.toThrow("Too many steps.");
    expect(useBench.getState()).toMatchObject({ saving: "refused", draft: { steps: [{ stops: 1 }] } });
  });

  it("has nothing to do with a look that was opened meanwhile", async () => {
    put().mockImplementationOnce(async () => {
      useBench.getState().open(record(8, look(), 1));
      return { version: 4 };
    });
    expose(1);
    await settle();
    expect(useBench.getState()).toMatchObject({ id: 8, version: 1, saving: "kept" });
  });
});

describe("following", () => {
  let stop = () => {};
  beforeEach(() => {
    vi.useFakeTimers();
    stop = follow();
  });
  afterEach(() => {
    stop();
    vi.useRealTimers();
  });

  it("saves once when a hand has come to rest", async () => {
    const sent = put().mockResolvedValue({ version: 4 });
    for (let k = 1; k <= 10; k++) {
      expose(k / 10);
      await vi.advanceTimersByTimeAsync(50);
    }
    await vi.advanceTimersByTimeAsync(100);
    expect(sent).not.toHaveBeenCalled();
    expect(restore(7, 3)).toMatchObject({ steps: [{ stops: 1 }] });
    await vi.advanceTimersByTimeAsync(1000);
    expect(sent).toHaveBeenCalledTimes(1);
    expect(sent.mock.lastCall![1]).toMatchObject({
      version: 3,
      tab: expect.any(String) as string,
      draft: { steps: [{ stops: 1 }] },
    });
    expect(useBench.getState().saving).toBe("kept");
    expect(restore(7, 4)).toBeUndefined();
  });

  it("waits for the one under way, and then sends what came meanwhile", async () => {
    const answers: ((found: { version: number }) => void)[] = [];
    const sent = put().mockImplementation(() => new Promise((done) => answers.push(done)));
    expose(1);
    await vi.advanceTimersByTimeAsync(800);
    expose(2);
    await vi.advanceTimersByTimeAsync(5000);
    expect(sent).toHaveBeenCalledTimes(1);
    answers[0]!({ version: 4 });
    await vi.advanceTimersByTimeAsync(1000);
    expect(sent).toHaveBeenCalledTimes(2);
    expect(sent.mock.lastCall![1]).toMatchObject({ version: 4, draft: { steps: [{ stops: 2 }] } });
    answers[1]!({ version: 5 });
    await vi.advanceTimersByTimeAsync(0);
    expect(useBench.getState()).toMatchObject({ version: 5, saving: "kept" });
  });

  it("asks again while the server is away", async () => {
    const sent = put().mockRejectedValueOnce(new Problem(0, "away")).mockResolvedValue({ version: 4 });
    expose(1);
    await vi.advanceTimersByTimeAsync(1000);
    expect(useBench.getState().saving).toBe("away");
    await vi.advanceTimersByTimeAsync(4000);
    expect(sent).toHaveBeenCalledTimes(2);
    expect(useBench.getState().saving).toBe("kept");
  });

  it("sends nothing more once it has stopped, even where a save was under way", async () => {
    const answers: ((found: { version: number }) => void)[] = [];
    const sent = put().mockImplementation(() => new Promise((done) => answers.push(done)));
    expose(1);
    await vi.advanceTimersByTimeAsync(800);
    expose(2);
    stop();
    answers[0]!({ version: 4 });
    await vi.advanceTimersByTimeAsync(5000);
    expect(sent).toHaveBeenCalledTimes(1);
  });

  it("leaves the last change in this browser when the page goes", async () => {
    put().mockResolvedValue({ version: 4 });
    expose(1);
    window.dispatchEvent(new Event("pagehide"));
    expect(restore(7, 3)).toMatchObject({ steps: [{ stops: 1 }] });
    expose(2);
    stop();
    expect(restore(7, 3)).toMatchObject({ steps: [{ stops: 2 }] });
  });
});

describe("somebody who was faster", () => {
  const late = async () => {
    put().mockRejectedValueOnce(
      new Problem(409, "Tomas saved.", { version: 9, draft: look(exposure("a", -2)), set_aside: 5 }),
    );
    expose(1);
    await expect(settle()).rejects.toThrow();
    expect(useBench.getState().saving).toBe("late");
  };

  it("is not overwritten until one decides", async () => {
    await late();
    const sent = put().mockClear();
    await expect(settle()).rejects.toThrow("Choose first");
    expect(sent).not.toHaveBeenCalled();
    expect(useBench.getState().draft.steps[0]).toMatchObject({ stops: 1 });
  });

  it("gives way to mine, on top of their version", async () => {
    await late();
    const sent = put().mockResolvedValue({ version: 10 });
    const dropped = wire("DELETE").mockResolvedValue(undefined);
    await decide(true);
    expect(sent.mock.lastCall![1]).toMatchObject({ version: 9, draft: { steps: [{ stops: 1 }] } });
    expect(useBench.getState()).toMatchObject({ version: 10, saving: "kept", late: null });
    expect(dropped).toHaveBeenCalledWith("/looks/7/set-aside/5", undefined, undefined);
  });

  it("stays, and mine can be had back by undo", async () => {
    await late();
    wire("DELETE").mockResolvedValue(undefined);
    await decide(false);
    expect(useBench.getState()).toMatchObject({
      version: 9,
      saving: "kept",
      draft: { steps: [{ stops: -2 }] },
    });
    useBench.temporal.getState().undo();
    expect(useBench.getState().draft.steps[0]).toMatchObject({ stops: 1 });
  });
});

describe("the copy in the browser", () => {
  it("is taken up only where the server still has the version it follows", () => {
    localStorage.setItem(
      "saucer-draft-7",
      JSON.stringify({ version: 3, tab: expect.any(String) as string, draft: look(exposure("a", 2)) }),
    );
    expect(restore(7, 3)!.steps[0]).toMatchObject({ stops: 2 });
    expect(restore(7, 4)).toBeUndefined();
    expect(restore(8, 3)).toBeUndefined();
  });

  it("is nothing where it cannot be read", () => {
    localStorage.setItem("saucer-draft-7", "{broken");
    expect(restore(7, 3)).toBeUndefined();
  });
});
