import { describe, expect, it } from "vitest";
import { forBench, forProject, intakePath, purposeOf } from "../src/framesin/purpose";

const read = (path: string) => purposeOf(new URL(path, "http://saucer.example").searchParams);

describe("what frames are brought in for", () => {
  it("stands in the address and comes back from it", () => {
    for (const purpose of [forProject(7), forBench("/bench/12"), forBench("/bench")])
      expect(read(intakePath(3, purpose))).toEqual(purpose);
    expect(intakePath(3)).toBe("/frames/in/3");
    expect(read("/frames/in/3")).toEqual({ project: null, back: "/frames" });
  });

  it("leads to no other site and to no other screen", () => {
    for (const back of [
      "https://elsewhere.example",
      "//elsewhere.example",
      "/people",
      "/bench/../people",
      "javascript:x",
    ])
      expect(read(`/frames/in/3?back=${encodeURIComponent(back)}`).back).toBe("/frames");
    for (const project of ["0", "-1", "x", "1.5"])
      expect(read(`/frames/in/3?project=${project}`).project).toBeNull();
  });
});
