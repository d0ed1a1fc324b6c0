/** When frames are shown and what they are called; frames that are decoded ahead, bounded, and damage. */
import fc from "fast-check";
import { describe, expect, it, vi } from "vitest";
import type { ProxyIndex } from "../src/api/types";
import { createDecoded, HELD, type Thread } from "../src/player/decoded";
import type { Leave, Setting, Told, Wanted } from "../src/player/messages";
import { frameAt, frameNamed, framesOf, groupOf, timecodeOf, timeOf } from "../src/player/timing";

const KEY = 12;

/** A clip of so many frames, each shown for so many ticks. */
function clip(count: number, said: Partial<ProxyIndex> = {}, ticks = (k: number) => k * 512): ProxyIndex {
  const numbers = Array.from({ length: count }, (_, k) => k);
  return {
    ...{ width: 1280, height: 720, codec: "av01.0.05M.10", depth: 10, rows: [], rate: "24/1" },
    ...{ timescale: 12288, timecode: "", sound: false, turned: 0 },
    offsets: numbers.map((k) => 1000 + k * 100),
    sizes: numbers.map(() => 100),
    shown: [...numbers, count].map(ticks),
    keys: numbers.filter((k) => k % KEY === 0),
    ...said,
  };
}

describe("the time of a frame", () => {
  it("leads back to the frame, at any length and rate, and until the next one begins", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 4000 }), { minLength: 1, maxLength: 60 }), (lasts) => {
        const begins = lasts.reduce((all, last) => [...all, all.at(-1)! + last], [0]);
        const index = clip(lasts.length, {}, (k) => begins[k]!);
        for (let k = 0; k < lasts.length; k++) {
          expect(frameAt(index, timeOf(index, k))).toBe(k);
          const late = timeOf(index, k + 1) - 0.75 / index.timescale;
          expect(frameAt(index, Math.max(late, timeOf(index, k)))).toBe(k);
        }
        expect(frameAt(index, -1)).toBe(0);
        expect(frameAt(index, 1e6)).toBe(lasts.length - 1);
      }),
    );
  });

  it("belongs to the group that begins at or before it", () => {
    const index = clip(30);
    expect([0, 11, 12, 29].map((n) => groupOf(index, n))).toEqual([0, 0, 1, 2]);
    expect([0, 1, 2].map((g) => framesOf(index, g))).toEqual([
      [0, 12],
      [12, 24],
      [24, 30],
    ]);
  });
});

describe("the timecode of a frame", () => {
  // SMPTE ST 12-1: drop frame leaves out ;00 and ;01 of every minute but each tenth.
  it.each([
    ["24/1", "10:00:00:00", 25, "10:00:01:01"],
    ["24000/1001", "10:00:59:23", 1, "10:01:00:00"],
    ["30000/1001", "00:00:59;29", 1, "00:01:00;02"],
    ["30000/1001", "00:09:59;29", 1, "00:10:00;00"],
    ["30000/1001", "01:00:00;00", 17982, "01:10:00;00"],
    ["60000/1001", "00:00:59;59", 1, "00:01:00;04"],
    ["25/1", "23:59:59:24", 1, "00:00:00:00"],
  ])("at %s, from %s, %i frames on, is %s", (rate, timecode, number, is) => {
    expect(timecodeOf(clip(20000, { rate, timecode }), number)).toBe(is);
  });

  it.each(["10:00:00:00", "01:00:00;00", "00:59:50;10"])("leads back to the frame from %s", (timecode) => {
    const index = clip(40000, { rate: "30000/1001", timecode });
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 39999 }), (n) => {
        expect(frameNamed(index, timecodeOf(index, n))).toBe(n);
      }),
    );
  });

  it("is not there without one, and what is none names no frame", () => {
    const index = clip(48);
    expect(timecodeOf(index, 3)).toBe("");
    expect(
      ["7", "47", "48", "-1", "1.5", "", "10:00:00:00", "soon"].map((s) => frameNamed(index, s)),
    ).toEqual([...[7, 47, null, null, null, null, null, null]]);
    const timed = clip(48, { timecode: "10:00:00:00" });
    expect(
      ["10:00:01:00", "10:00:01:24", "09:59:59:23", "10:00:02:00"].map((s) => frameNamed(timed, s)),
    ).toEqual([24, null, null, null]);
  });
});

/** A thread that answers when it is told to. */
function decoding(index: ProxyIndex) {
  const sent: (Setting | Wanted | Leave)[] = [];
  const thread: Thread = {
    postMessage: (message: Setting | Wanted | Leave) => sent.push(message),
    terminate: vi.fn(),
    onmessage: null,
  };
  const tell = { frame: vi.fn(), broken: vi.fn(), gone: vi.fn(), unable: vi.fn() };
  const decoded = createDecoded(index, "/proxy", tell, HELD, () => thread);
  const say = (data: Told) => thread.onmessage?.({ data } as MessageEvent<Told>);
  const give = (number: number) =>
    say({
      kind: "frame",
      planes: { number, width: 2, height: 2, depth: 10, data: new ArrayBuffer(12) },
    });
  /** Decodes what was asked for last; gives its first frame. */
  const answer = (wrong = "", but: readonly number[] = []) => {
    const { first, offsets } = sent.at(-1) as Wanted;
    offsets.forEach((_, k) => (but.includes(first + k) ? undefined : give(first + k)));
    say({ kind: "done", first, wrong, lost: false, left: false });
    return first;
  };
  return { decoded, sent, tell, answer, say, thread };
}

describe("frames decoded ahead", () => {
  it("come in groups, the one that is wanted first, and nothing is asked for twice", () => {
    const { decoded, sent, answer, tell } = decoding(clip(60));
    decoded.want([30, 31, 40]);
    expect(sent).toHaveLength(2);
    expect(sent[1]).toMatchObject({
      first: 24,
      offsets: Array.from({ length: 12 }, (_, k) => 3400 + k * 100),
    });
    expect(answer()).toBe(24);
    expect(decoded.get(30)?.number).toBe(30);
    expect(tell.frame).toHaveBeenCalledTimes(12);
    // Frame 40 lies in the next group; 30 and 31 are there.
    expect(answer()).toBe(36);
    decoded.want([30, 31, 40]);
    expect(sent).toHaveLength(3);
  });

  it("are bounded: those that lie far from what is wanted go", () => {
    const { decoded, answer, sent } = decoding(clip(2400));
    const seen = () => Array.from({ length: 2400 }, (_, k) => k).filter((k) => decoded.get(k)).length;
    for (let at = 0; at < 1200; at += KEY) {
      const before = sent.length;
      decoded.want(Array.from({ length: KEY }, (_, k) => at + k));
      if (sent.length > before) answer();
      expect(seen()).toBeLessThanOrEqual(decoded.room);
      expect(decoded.get(at)).toBeDefined();
    }
    expect(decoded.get(0)).toBeUndefined();
    expect(decoded.room * 1280 * 720 * 3).toBeLessThanOrEqual(96 * 2 ** 20 * 1.2);
  });

  it("that cannot be decoded are told, and not asked for again", () => {
    const { decoded, answer, tell, sent } = decoding(clip(60));
    decoded.want([14, 26]);
    answer("damaged", [16, 17, 18, 19, 20, 21, 22, 23]);
    expect(tell.broken).toHaveBeenCalledExactlyOnceWith([16, 24]);
    expect(answer()).toBe(24);
    decoded.want([18, 26]);
    expect(sent).toHaveLength(3);
  });

  it("that the connection lost are asked for again a little later", () => {
    vi.useFakeTimers();
    const { decoded, say, tell, sent } = decoding(clip(60));
    decoded.want([0]);
    say({ kind: "done", first: 0, wrong: "offline", lost: true, left: false });
    expect(sent).toHaveLength(2);
    expect(tell.broken).not.toHaveBeenCalled();
    vi.advanceTimersByTime(1600);
    expect(sent).toHaveLength(3);
    vi.useRealTimers();
  });

  it("of a clip that is gone are asked for no more, and none of them is taken for damaged", () => {
    vi.useFakeTimers();
    const { decoded, say, tell, sent, answer } = decoding(clip(60));
    decoded.want([0, 20]);
    answer();
    say({ kind: "gone" });
    say({ kind: "done", first: 12, wrong: "the server answered 404", lost: true, left: false });
    vi.advanceTimersByTime(5000);
    decoded.want([40]);
    expect(sent).toHaveLength(3);
    expect(tell.gone).toHaveBeenCalledOnce();
    expect(tell.broken).not.toHaveBeenCalled();
    expect(decoded.get(0)).toBeDefined();
    vi.useRealTimers();
  });

  it("are left for another frame that is gone to, once, and none of them is taken for damaged", () => {
    const { decoded, say, sent, tell } = decoding(clip(60));
    decoded.want([2, 3]);
    decoded.want([40]);
    decoded.want([41]);
    expect(sent.slice(2)).toEqual([{ leave: true }]);
    say({ kind: "done", first: 0, wrong: "", lost: false, left: true });
    expect(sent[3]).toMatchObject({ first: 36 });
    expect(tell.broken).not.toHaveBeenCalled();
    // Frames that are only looked ahead for make nobody leave.
    decoded.want([42, 50]);
    expect(sent).toHaveLength(4);
    decoded.want([2]);
    say({ kind: "done", first: 36, wrong: "", lost: false, left: true });
    expect(sent.at(-1)).toMatchObject({ first: 0 });
  });

  it("end with the page, and a browser that cannot is told", () => {
    const { decoded, say, tell, thread } = decoding(clip(12));
    say({ kind: "unable", why: "no such codec" });
    expect(tell.unable).toHaveBeenCalledWith("no such codec");
    decoded.close();
    expect(thread.terminate).toHaveBeenCalled();
  });
});
