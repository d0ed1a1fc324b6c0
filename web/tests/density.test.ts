import { expect, test } from "vitest";
import fc from "fast-check";
import { brightness, lay, type Plane } from "../src/bench/density";

const image = (width: number, height: number) =>
  ({ width, height, data: new Uint8ClampedArray(4 * width * height) }) as ImageData;
const plane = (codes: number[], columns: number, more: Partial<Plane> = {}): Plane => ({
  codes: Uint8Array.from(codes),
  columns,
  ink: [200, 100, 50],
  scale: "log",
  lift: 45,
  ...more,
});
const pixel = (of: ImageData, x: number, y: number) => [
  ...of.data.slice(4 * (y * of.width + x), 4 * (y * of.width + x) + 4),
];

test("brightness rises with the code from nought to one, and the logarithm lifts what is rare", () => {
  for (const scale of ["linear", "log"] as const) {
    const lights = brightness(scale, 45);
    expect(lights[0]).toBe(0);
    expect(lights[255]).toBeCloseTo(1);
    for (let code = 1; code < 256; code++) expect(lights[code]).toBeGreaterThan(lights[code - 1]!);
  }
  expect(brightness("log", 45)[60]).toBeGreaterThan(brightness("linear", 45)[60]!);
});

test("a linear scale undoes the logarithm of the code", () => {
  fc.assert(
    fc.property(fc.double({ min: 0.02, max: 1, noNaN: true }), (share) => {
      const code = Math.round((255 * Math.log1p(450 * share)) / Math.log1p(450));
      expect(brightness("linear", 450)[code]).toBeCloseTo(share, 1);
    }),
  );
});

test("a plane is drawn at its column, row by row from the top, and nothing where nothing was counted", () => {
  const drawn = image(5, 2);
  lay(drawn, 2, plane([255, 0, 51, 102], 2));
  expect(pixel(drawn, 2, 0)).toEqual([200, 100, 50, 255]);
  expect(pixel(drawn, 3, 0)).toEqual([0, 0, 0, 0]);
  expect(pixel(drawn, 2, 1)).toEqual([200, 100, 50, 51]);
  expect(pixel(drawn, 3, 1)).toEqual([200, 100, 50, 102]);
  expect(pixel(drawn, 1, 1)).toEqual([0, 0, 0, 0]);
});

test("a faint light is see-through, not dark; a second one adds nothing where it is weaker", () => {
  const drawn = image(1, 1);
  lay(drawn, 0, plane([128], 1));
  expect(pixel(drawn, 0, 0)).toEqual([200, 100, 50, 128]);
  lay(drawn, 0, plane([64], 1));
  expect(pixel(drawn, 0, 0)).toEqual([200, 100, 50, 128]);
  lay(drawn, 0, plane([255], 1, { ink: [0, 255, 0] }));
  expect(pixel(drawn, 0, 0)).toEqual([100, 255, 25, 255]);
});

test("what is dimmed is fainter", () => {
  const drawn = image(1, 1);
  lay(drawn, 0, plane([255], 1, { dim: 0.5 }));
  expect(pixel(drawn, 0, 0)[3]).toBe(128);
});
