/** Frames drawn on the processor: the matrix, places between samples, the table by tetrahedra, parts of pictures. */
import { describe, expect, it } from "vitest";
import type { Planes } from "../src/player/messages";
import { sample, type Sampled } from "../src/viewer/sampling";
import { QuickPainter, type Drawn, type Wanted } from "../src/viewer/quick";

/** Numbers that look drawn by lot and are the same each time (Park and Miller 1988). */
function* drawn(seed: number): Generator<number> {
  for (let n = seed; ;) yield (n = (n * 16807) % 2147483647) / 2147483647;
}

/** A half float of a number from 0 to 1. */
function half(value: number): number {
  if (value < 2 ** -14) return Math.round(value * 2 ** 24);
  const power = Math.min(Math.floor(Math.log2(value)), 0);
  return ((power + 15) << 10) + Math.round((value / 2 ** power - 1) * 1024);
}

function table(size: number, of: (r: number, g: number, b: number) => [number, number, number]): Sampled {
  const values = new Uint16Array(size ** 3 * 3);
  for (let k = 0; k < size ** 3; k += 1) {
    const at = [k % size, Math.floor(k / size) % size, Math.floor(k / size ** 2)].map((n) => n / (size - 1));
    of(at[0]!, at[1]!, at[2]!).forEach((v, c) => (values[k * 3 + c] = half(v)));
  }
  return { size, values };
}

/** A frame of 10 bits from codes of luma and of both differences. */
function frame(width: number, height: number, code: (plane: number, x: number, y: number) => number): Planes {
  const data: number[] = [];
  for (let plane = 0; plane < 3; plane += 1) {
    const [wide, high] = plane ? [(width + 1) >> 1, (height + 1) >> 1] : [width, height];
    for (let y = 0; y < high; y += 1) for (let x = 0; x < wide; x += 1) data.push(code(plane, x, y));
  }
  return { number: 3, width, height, depth: 10, data: new Uint16Array(data).buffer };
}

/** Codes as colours: luma is red, the differences are green and blue. */
const PLAIN = [1 / 1023, 0, 0, 0, 0, 1 / 1023, 0, 0, 0, 0, 1 / 1023, 0];
const IDENTITY = table(5, (r, g, b) => [r, g, b]);

function drawnBy(given: Planes, wide: number, high: number, one: Sampled, rest: object = {}): number[][] {
  const target = new Uint32Array(wide * high);
  sample(target, wide, given, PLAIN, {
    ...{ table: one, place: [0, 0, wide, high], columns: [0, wide], rows: [0, high] },
    ...rest,
  });
  return [...target].map((c) => [c & 255, (c >> 8) & 255, (c >> 16) & 255, c >>> 24]);
}

describe("a frame", () => {
  it("gives its codes by the matrix, opaque, within what the screen has", () => {
    const seen = drawnBy(
      frame(4, 2, (plane, x) => (plane ? [0, 1023][x]! : 341 * x)),
      4,
      2,
      IDENTITY,
    );
    expect(seen.slice(0, 4).map(([red]) => red)).toEqual([0, 85, 170, 255]);
    // A difference lies on every second column: between two of them is their mean.
    expect(seen.slice(0, 4).map(([, green]) => green)).toEqual([0, 128, 255, 255]);
    expect(seen.every(([, , , opaque]) => opaque === 255)).toBe(true);
  });

  it("takes differences midway between two rows", () => {
    const seen = drawnBy(
      frame(2, 4, (plane, _, y) => (plane ? [0, 1020][y]! : 0)),
      2,
      4,
      IDENTITY,
    );
    expect(seen.filter((_, k) => k % 2 === 0).map(([, green]) => green)).toEqual([0, 64, 191, 254]);
  });

  it("goes through the table by tetrahedra, whichever part is the largest", () => {
    const lot = drawn(7);
    const next = () => lot.next().value as number;
    const entries = Array.from({ length: 8 }, () => [next(), next(), next()] as [number, number, number]);
    const cube = table(2, (r, g, b) => entries[r + 2 * g + 4 * b]!);
    for (let k = 0; k < 200; k += 1) {
      const codes = [next(), next(), next()].map((v) => Math.round(v * 1023));
      const [seen] = drawnBy(
        frame(2, 2, (plane) => codes[plane]!),
        2,
        2,
        cube,
      );
      const at = codes.map((c) => c / 1023);
      // From corner to corner along the axes, the largest part first (Sakamoto and Itooka 1981).
      const order = [0, 1, 2].sort((a, b) => at[b]! - at[a]!);
      const parts = [1, ...order.map((a) => at[a]!), 0];
      const corners = order.reduce((way, a) => [...way, way.at(-1)! + 2 ** a], [0]);
      const wanted = [0, 1, 2].map(
        (c) => 255 * corners.reduce((sum, p, n) => sum + (parts[n]! - parts[n + 1]!) * entries[p]![c]!, 0),
      );
      wanted.forEach((w, c) => expect(Math.abs(seen![c]! - w)).toBeLessThan(0.75));
    }
  });

  it("is drawn in its place, and only where it is asked for", () => {
    const grey = frame(4, 4, () => 512);
    const seen = drawnBy(grey, 6, 6, IDENTITY, { place: [1, 1, 4, 4], columns: [1, 3], rows: [1, 5] });
    const filled = seen.flatMap(([, , , opaque], k) => (opaque ? [[k % 6, Math.floor(k / 6)]] : []));
    expect(filled).toHaveLength(8);
    expect(filled.every(([x, y]) => x! >= 1 && x! < 3 && y! >= 1 && y! < 5)).toBe(true);
    expect(drawnBy(grey, 2, 2, IDENTITY, { columns: [1, 1] }).flat()).toEqual(Array(16).fill(0));
  });

  it("of odd size and 8 bits is read, too", () => {
    const given: Planes = {
      ...{ number: 0, width: 3, height: 1, depth: 8 },
      data: new ArrayBuffer(3 + 2 + 2),
    };
    new Uint8Array(given.data).set([0, 51, 102, 0, 204, 255, 255]);
    const target = new Uint32Array(3);
    const matrix = PLAIN.map((n) => (n * 1023) / 255);
    const all = { columns: [0, 3], rows: [0, 1] } as const;
    sample(target, 3, given, matrix, { table: IDENTITY, place: [0, 0, 3, 1], ...all });
    expect([...target].map((c) => [c & 255, (c >> 8) & 255, (c >> 16) & 255])).toEqual([
      [0, 0, 255],
      [51, 102, 255],
      [102, 204, 255],
    ]);
  });
});

describe("the thread", () => {
  it("draws the newest frame, sends each table once, and shows nothing after it was hidden", () => {
    const sent: Wanted[] = [];
    const thread = {
      postMessage: (one: Wanted) => void sent.push(one),
      terminate: () => undefined,
      onmessage: null as ((event: MessageEvent<Drawn>) => unknown) | null,
    };
    const canvas = document.createElement("canvas");
    canvas.hidden = true;
    canvas.getContext = () => null;
    const painter = new QuickPainter(canvas, () => thread);
    const ask = (number: number) =>
      painter.draw(() => ({
        frame: { ...frame(2, 2, () => 0), number },
        ...{ matrix: PLAIN, width: 2, height: 2, parts: [] },
        tables: painter.fresh([{ slot: "look", table: IDENTITY }]),
      }));
    const answer = (number: number) =>
      thread.onmessage?.({
        data: { number, width: 2, height: 2, pixels: new ArrayBuffer(16) },
      } as MessageEvent<Drawn>);
    [1, 2, 3].forEach(ask);
    expect(sent.map((s) => s.frame.number)).toEqual([1]);
    answer(1);
    expect([canvas.hidden, canvas.dataset.number]).toEqual([false, "1"]);
    expect(sent.map((s) => [s.frame.number, s.tables.length])).toEqual([
      [1, 1],
      [3, 0],
    ]);
    painter.hide();
    answer(3);
    expect([canvas.hidden, canvas.dataset.number]).toEqual([true, undefined]);
  });
});
