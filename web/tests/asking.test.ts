/** What the bench asks the server: the newest wish wins, and a server that was away is asked again. */
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Problem } from "../src/api/client";
import { atRest } from "../src/api/rest";
import { createFeed, type Wish } from "../src/viewer/live";
import { ask, useRead } from "../src/viewer/readings";
import { exposure, look } from "./looks";
import { answerOf, readingsOf } from "./bytes";
import { wire } from "./wires";

const wish = (stops: number): Wish => ({ look: look(exposure("a", stops)), frame: 1 });
const stopsOf = (body: unknown) => ((body as Wish).look.steps[0] as { stops: number }).stops;

/** A server whose answers come when they are let go. */
function held(path: string, answer: (body: unknown) => ArrayBuffer) {
  const asked: { body: unknown; give: () => void; fail: (error: unknown) => void }[] = [];
  wire("POST").mockImplementation((to: string, body?: unknown) => {
    expect(to).toBe(path);
    return new Promise((give, fail) => asked.push({ body, give: () => give(answer(body)), fail }));
  });
  return asked;
}

const settle = () => vi.advanceTimersByTimeAsync(0);

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  vi.restoreAllMocks();
  vi.useRealTimers();
});

describe("the live table", () => {
  const table = (body: unknown) => answerOf({ size: 2, end: String(stopsOf(body)) });

  it("has one request under way; what comes between is passed over", async () => {
    const asked = held("/live", table);
    const feed = createFeed();
    for (const k of [1, 2, 3, 4]) feed.ask(wish(k));
    expect(asked.map((a) => stopsOf(a.body))).toEqual([1]);
    asked[0]!.give();
    await settle();
    expect(asked.map((a) => stopsOf(a.body))).toEqual([1, 4]);
    expect(feed.answer.getState().live!.end).toBe("1");
    asked[1]!.give();
    await settle();
    expect(feed.answer.getState().live!.end).toBe("4");
    expect(asked).toHaveLength(2);
  });

  it("is not asked twice for the same", async () => {
    const asked = held("/live", table);
    const feed = createFeed();
    const once = wish(1);
    feed.ask(once);
    feed.ask({ ...once });
    asked[0]!.give();
    await settle();
    expect(asked).toHaveLength(1);
    expect(feed.current({ ...once, frame: 2 })).toBe(true);
    expect(feed.current(wish(1))).toBe(false);
  });

  it("stays where the look cannot be computed, with the reason, and goes on with the next", async () => {
    const asked = held("/live", table);
    const feed = createFeed();
    feed.ask(wish(1));
    asked[0]!.give();
    await settle();
    feed.ask(wish(2));
    asked[1]!.fail(new Problem(422, "The look ends as film log."));
    await vi.advanceTimersByTimeAsync(5000);
    expect(asked).toHaveLength(2);
    expect(feed.answer.getState().trouble!.message).toBe("The look ends as film log.");
    expect(feed.answer.getState().live!.end).toBe("1");
    feed.ask(wish(3));
    asked[2]!.give();
    await settle();
    expect(feed.answer.getState()).toMatchObject({ trouble: null, live: { end: "3" } });
  });

  it.each([0, 502, 503])(
    "is asked for again where the server is away (%i), the newest wish first",
    async (status) => {
      const asked = held("/live", table);
      const feed = createFeed();
      feed.ask(wish(1));
      asked[0]!.fail(new Problem(status, "away"));
      await settle();
      feed.ask(wish(2));
      await vi.advanceTimersByTimeAsync(1000);
      expect(asked).toHaveLength(1);
      await vi.advanceTimersByTimeAsync(1500);
      expect(asked.map((a) => stopsOf(a.body))).toEqual([1, 2]);
      asked[1]!.give();
      await settle();
      expect(feed.answer.getState().trouble).toBeNull();
    },
  );

  it("says when it is quiet, or when that takes too long", async () => {
    const asked = held("/live", table);
    const feed = createFeed();
    await feed.quiet(10);
    feed.ask(wish(1));
    let quiet = 0;
    void feed.quiet(1000).then(() => (quiet += 1));
    void feed.quiet(50).then(() => (quiet += 10));
    await vi.advanceTimersByTimeAsync(60);
    expect(quiet).toBe(10);
    asked[0]!.give();
    await settle();
    expect(quiet).toBe(11);
  });
});

describe("readings", () => {
  it("are of the newest wish, also after the server was away", async () => {
    const asked = held("/readings", (body) =>
      readingsOf({ columns: 1, scope: 1, histogram: [[stopsOf(body)]] }),
    );
    ask.read(wish(1));
    await settle();
    asked[0]!.fail(new Problem(0, "away"));
    await settle();
    expect(useRead.getState().read).toBeNull();
    await vi.advanceTimersByTimeAsync(2100);
    asked[1]!.give();
    await settle();
    expect(useRead.getState().read!.histogram).toEqual([[1]]);
    ask.read(null);
    expect(useRead.getState().read).toBeNull();
  });

  it("of a look that was left do not come back", async () => {
    const asked = held("/readings", () => readingsOf({ columns: 1, scope: 1, histogram: [[9]] }));
    ask.reference(wish(1));
    await settle();
    ask.reference(null);
    asked[0]!.give();
    await settle();
    expect(useRead.getState().reference).toBeNull();
  });
});

describe("what is asked at rest", () => {
  it("waits for the hand, and goes once", async () => {
    const go = vi.fn(async () => undefined);
    const stop = atRest(180, go);
    await vi.advanceTimersByTimeAsync(179);
    expect(go).not.toHaveBeenCalled();
    await vi.advanceTimersByTimeAsync(10_000);
    expect(go).toHaveBeenCalledTimes(1);
    stop();
  });

  it("is not asked where the hand moved on", async () => {
    const go = vi.fn(async () => undefined);
    atRest(180, go)();
    await vi.advanceTimersByTimeAsync(1000);
    expect(go).not.toHaveBeenCalled();
  });

  it("is asked again where the server was away, until it is not wanted", async () => {
    const go = vi.fn(async () => Promise.reject(new Problem(503, "busy")));
    const stop = atRest(10, go);
    await vi.advanceTimersByTimeAsync(4500);
    expect(go).toHaveBeenCalledTimes(3);
    stop();
    await vi.advanceTimersByTimeAsync(10_000);
    expect(go).toHaveBeenCalledTimes(3);
  });

  it("is not asked again where it was refused", async () => {
    const go = vi.fn(async () => Promise.reject(new Problem(422, "no")));
    atRest(10, go);
    await vi.advanceTimersByTimeAsync(10_000);
    expect(go).toHaveBeenCalledTimes(1);
  });

  it("knows that it is not wanted any more while it is under way", async () => {
    let told: AbortSignal | null = null;
    const stop = atRest(0, async (signal) => {
      told = signal;
    });
    await settle();
    stop();
    expect(told!.aborted).toBe(true);
  });
});
