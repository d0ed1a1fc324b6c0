import { expect, it } from "vitest";
import fc from "fast-check";
import { headed, sized } from "../src/viewer/framing";

/** As the server writes it: a length, JSON padded to four bytes, and the bodies. */
function answer(head: unknown, body: number[]): ArrayBuffer {
  const text = new TextEncoder().encode(JSON.stringify(head));
  const padded = Math.ceil(text.length / 4) * 4;
  const bytes = new Uint8Array(4 + padded + body.length).fill(32, 4, 4 + padded);
  new DataView(bytes.buffer).setUint32(0, padded, true);
  bytes.set(text, 4);
  bytes.set(body, 4 + padded);
  return bytes.buffer;
}

it("any head and any body come out as they went in, and bodies begin where half floats may", () => {
  fc.assert(
    fc.property(fc.jsonValue(), fc.array(fc.integer({ min: 0, max: 255 })), (value, body) => {
      const given = { value: JSON.parse(JSON.stringify(value)) as unknown };
      const bytes = answer(given, body);
      const { head, at } = headed(bytes);
      expect(head).toEqual(given);
      expect(at % 4).toBe(0);
      expect([...new Uint8Array(bytes, at)]).toEqual(body);
    }),
  );
});

it("an answer that was cut off is an error and not a picture", () => {
  expect(() => headed(answer({ size: 17 }, []).slice(0, 9))).toThrow();
  expect(() => sized(new ArrayBuffer(3))).toThrow();
});
