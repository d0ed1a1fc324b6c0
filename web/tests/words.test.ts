/** What a row says of its step. */
import fc from "fast-check";
import { expect, test } from "vitest";
import type { Step } from "../src/api/types";
import { summary } from "../src/bench/kinds/registry";

const says = (step: object) => summary(step as Step, (encoding) => encoding);
const row = { slope: 1, offset: 0, power: 1 };

test("a balance is said with its own numbers", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -100, max: 100 }),
      fc.integer({ min: -100, max: 100 }),
      (temperature, tint) => {
        const found = /^([+−]?)(\d+) warm, ([+−]?)(\d+) tint$/.exec(
          says({ kind: "balance", temperature, tint }),
        )!;
        const read = (sign: string, digits: string) => (sign === "−" ? -1 : 1) * Number(digits);
        expect(read(found[1]!, found[2]!)).toBe(temperature + 0);
        expect(read(found[3]!, found[4]!)).toBe(tint + 0);
      },
    ),
  );
});

test("what rounds to nothing has no sign", () => {
  expect(says({ kind: "exposure", stops: -0.001 })).toBe("0 stops");
  expect(says({ kind: "exposure", stops: 0.5 })).toBe("+0.5 stops");
  expect(says({ kind: "exposure", stops: -10 })).toBe("−10 stops");
});

test("slope, offset and power name what is set", () => {
  const step = { kind: "slope_offset_power", red: row, green: row, blue: row, saturation: 1 };
  expect(says(step)).toBe("nothing set");
  expect(says({ ...step, blue: { ...row, power: 1.1 }, saturation: 0.9 })).toBe("power, saturation 0.90");
});
