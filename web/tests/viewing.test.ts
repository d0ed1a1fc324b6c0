import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { fromText, toText } from "../src/bench/clipboard";
import { digitsFor } from "../src/kit/amount";
import { parseLive, parsePicture } from "../src/viewer/table";
import { held, laid, MOST, through, WHOLE, zoomed, type Zoom } from "../src/viewer/zoom";
import { answerOf, pictureOf } from "./bytes";
import { exposure, group } from "./looks";

const share = fc.double({ min: 0, max: 1, noNaN: true });
const anyZoom = fc
  .record({ scale: fc.double({ min: 1, max: MOST, noNaN: true }), x: share, y: share })
  .map(held);
const place = fc.record({ x: share, y: share });

describe("zooming", () => {
  it("keeps the place under the pointer where it is, away from the edges", () => {
    fc.assert(
      fc.property(anyZoom, place, fc.double({ min: 1, max: 4, noNaN: true }), (zoom, at, by) => {
        const next = zoomed(zoom, by, at);
        const [a, b] = [through(zoom, at), through(next, at)];
        expect(b.x).toBeCloseTo(a.x, 6);
        expect(b.y).toBeCloseTo(a.y, 6);
      }),
    );
  });

  it("never shows what is beyond the picture", () => {
    fc.assert(
      fc.property(anyZoom, place, fc.double({ min: 0.05, max: 20, noNaN: true }), (zoom, at, by) => {
        const next = zoomed(zoom, by, at);
        const { x, y, width, height } = laid(next, 640, 360);
        expect(x).toBeLessThan(1e-6);
        expect(y).toBeLessThan(1e-6);
        expect(x + width).toBeGreaterThan(640 - 1e-6);
        expect(y + height).toBeGreaterThan(360 - 1e-6);
      }),
    );
  });

  it("comes back to the whole picture", () => {
    fc.assert(fc.property(anyZoom, (zoom: Zoom) => void expect(zoomed(zoom, 1 / MOST / 2)).toEqual(WHOLE)));
  });

  it("lays a place of the picture where it is seen", () => {
    fc.assert(
      fc.property(anyZoom, place, (zoom, at) => {
        const seen = through(zoom, at);
        const { x, y, width, height } = laid(zoom, 640, 360);
        expect(x + seen.x * width).toBeCloseTo(at.x * 640, 3);
        expect(y + seen.y * height).toBeCloseTo(at.y * 360, 3);
      }),
    );
  });
});

describe("answers", () => {
  it("are taken apart: table, end, traces", () => {
    const live = parseLive(
      answerOf({
        size: 3,
        end: "bt709_display",
        traces: { a: { encoding: "film_log", mark: "1", trace: { x: [0, 1] } } },
      }),
    );
    expect(live).toMatchObject({ size: 3, end: "bt709_display", traces: { a: { trace: { x: [0, 1] } } } });
    expect(live.table).toHaveLength(81);
  });

  it("keep the identity of traces that did not change, so that nothing is drawn anew for them", () => {
    const traces = (mark: string) => ({
      a: { encoding: "film_log", mark, trace: {} },
      b: { encoding: "film_log", mark: "same", trace: {} },
    });
    const first = parseLive(answerOf({ size: 2, end: "x", traces: traces("1") }));
    const second = parseLive(answerOf({ size: 2, end: "x", traces: traces("2") }), first);
    expect(second.traces.b).toBe(first.traces.b);
    expect(second.traces.a).not.toBe(first.traces.a);
  });

  it("hold pictures row by row", () => {
    const picture = parsePicture("k", pictureOf(3, 2));
    expect(picture).toMatchObject({ key: "k", width: 3, height: 2 });
    expect([...picture.pixels.slice(9, 12)]).toEqual([9, 10, 11]);
  });
});

describe("steps on the clipboard", () => {
  it("come back as they were", () => {
    const steps = [exposure("a", 1), group("g", exposure("b"))];
    expect(fromText(toText(steps))).toEqual(steps);
  });

  it("are not found in other texts", () => {
    for (const text of [
      "",
      "null",
      "[]",
      "12",
      "{",
      '{"saucer_steps": []}',
      '{"saucer_steps": [null]}',
      '{"saucer_steps": [{"kind": 3}]}',
      '{"saucer_steps": 1}',
    ]) {
      expect(fromText(text)).toBeNull();
    }
    expect(fromText(toText(Array.from({ length: 61 }, (_, k) => exposure(String(k)))))).toBeNull();
    fc.assert(fc.property(fc.string(), (text) => void expect(fromText(text)).toBeNull()));
    fc.assert(fc.property(fc.json(), (text) => void expect(fromText(text)).toBeNull()));
  });
});

describe("numbers", () => {
  it("show as many digits as their finest step has", () => {
    expect([1, 0.5, 0.1, 0.05, 0.01, 0.001, 5, 10].map(digitsFor)).toEqual([0, 1, 1, 2, 2, 3, 0, 0]);
  });
});
