import { expect, test } from "vitest";
import fc from "fast-check";
import { brightness, lay, softened } from "../src/bench/density";

test("spreading counts keeps their sum, and no place is negative", () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 255 }), { minLength: 48, maxLength: 48 }), (counts) => {
      const soft = softened(counts, 6, 8);
      const sum = (values: Iterable<number>) => [...values].reduce((a, b) => a + b, 0);
      expect(sum(soft)).toBeCloseTo(sum(counts), 1);
      expect(Math.min(...soft)).toBeGreaterThanOrEqual(0);
    }),
  );
});

test("a lone count becomes a small soft spot around its place", () => {
  const counts = new Uint8Array(6 * 8);
  counts[3 * 8 + 4] = 36;
  const soft = softened(counts, 6, 8);
  expect(soft[3 * 8 + 4]).toBeCloseTo(6);
  expect(soft[2 * 8 + 4]).toBeCloseTo(3);
  expect(soft[3 * 8 + 6]).toBeCloseTo(2);
  expect(soft[3 * 8 + 7]).toBe(0);
});

test("brightness rises with density, is nought for none and never above one", () => {
  for (const scale of ["linear", "log"] as const) {
    expect(brightness(0, scale, 5)).toBe(0);
    expect(brightness(5, scale, 5)).toBe(1);
    expect(brightness(500, scale, 5)).toBe(1);
    fc.assert(
      fc.property(fc.double({ min: 0, max: 10, noNaN: true }), fc.double({ min: 0, max: 10, noNaN: true }), (a, b) => {
        if (a <= b) expect(brightness(a, scale, 5)).toBeLessThanOrEqual(brightness(b, scale, 5));
      }),
    );
  }
  expect(brightness(0.1, "log", 5)).toBeGreaterThan(brightness(0.1, "linear", 5));
});

test("a faint light is see-through, not dark; a second one adds nothing where it is weaker", () => {
  const data = new Uint8ClampedArray(4);
  lay(data, 0, [200, 100, 50], 0.5);
  expect([...data]).toEqual([200, 100, 50, 128]);
  lay(data, 0, [200, 100, 50], 0.25);
  expect([...data]).toEqual([200, 100, 50, 128]);
  lay(data, 0, [0, 255, 0], 1);
  expect([...data]).toEqual([100, 255, 25, 255]);
});
