import { describe, expect, it } from "vitest";
import type { IntakeFile } from "../src/api/types";
import { clippedWords, counts, shown, toSay, willBeKept } from "../src/framesin/judging";
import { around } from "../src/kit/partshown";

const WHITE = { kelvin: 5200, tint: 0 };
const file = (id: number, more: Partial<IntakeFile> = {}): IntakeFile => ({
  ...{ id, folder: "", name: `${id}.jpg`, bytes: 1000, stage: "read", reason: "", chosen: true, twin: null },
  ...{ said_name: "", light: "", encoding: "srgb", unsure: false },
  ...{ guess: { key: "srgb", sure: 1, why: "its colour profile" } },
  ...{
    kind: "JPEG",
    depth: "8 bit",
    width: 60,
    height: 40,
    notes: [],
    parts: [],
    layer: 0,
    unread: [],
    doubt: "",
  },
  ...{ part: { x: 0.5, y: 0.5 }, part_by: "detail", raw: null, picture: "a" },
  ...more,
});
const raw = (clipped: [number, number, number]) => ({ shot: WHITE, used: WHITE, clipped });

describe("what the files of an intake need from a person", () => {
  const sound = file(1);
  const unsure = file(2, { unsure: true });
  const bright = file(3, { raw: raw([0.02, 0.031, 0]), notes: ["turned upright"] });
  const here = file(4, { twin: { frame: 9, name: "Wall" }, chosen: false });
  const bad = file(5, { stage: "refused", reason: "is empty", chosen: false });
  const files = [sound, unsure, bright, here, bad];

  it("are told apart and counted", () => {
    expect(counts(files)).toEqual({ all: 5, look: 2, here: 1, unread: 1 });
    expect(shown(files, "look")).toEqual([unsure, bright]);
    expect(files.filter(willBeKept)).toEqual([sound, unsure, bright]);
  });

  it("are said, the gravest first", () => {
    expect(toSay(sound)).toEqual({ first: "sound", more: "", warns: false });
    expect(toSay(unsure).warns).toBe(true);
    expect(clippedWords(bright)).toBe("red and green, at the sensor");
    expect(toSay(bright)).toEqual({
      first: "3.1 % clipped: red and green, at the sensor",
      more: "turned upright",
      warns: true,
    });
    expect(toSay(here).first).toBe("here already: Wall");
    expect(toSay(bad)).toEqual({ first: "cannot be read", more: "is empty", warns: true });
    expect(toSay(file(6, { stage: "waiting" })).first).toBe("being read …");
  });

  it("a sensor with a few full places is not worth a word", () => {
    expect(counts([file(7, { raw: raw([0.0005, 0, 0]) })]).look).toBe(0);
  });
});

it("a small card shows the part that was chosen", () => {
  expect(around({ x: 0.25, y: 1 })).toEqual({ objectPosition: "25% 100%" });
});
