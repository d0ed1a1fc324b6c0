import { describe, expect, it } from "vitest";
import { backOf, intakePath } from "../src/framesin/back";

const read = (path: string) => backOf(new URL(path, "http://saucer.example").searchParams);

describe("where an intake goes back to", () => {
  it("stands in its address and comes back from it", () => {
    for (const back of ["/bench/12", "/bench"]) expect(read(intakePath(3, back))).toBe(back);
    expect(intakePath(3)).toBe("/frames/in/3");
    expect(read("/frames/in/3")).toBe("/frames");
  });

  it("leads to no other site and to no other screen", () => {
    for (const back of [
      "https://elsewhere.example",
      "//elsewhere.example",
      "/people",
      "/bench/../people",
      "javascript:x",
    ])
      expect(read(`/frames/in/3?back=${encodeURIComponent(back)}`)).toBe("/frames");
  });
});
