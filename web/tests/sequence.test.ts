// @vitest-environment node
/** Folders of numbered pictures are packed into one file; other files stay behind. */
import { describe, expect, it } from "vitest";
import { isClip, isNumbered, isSequence, packed } from "../src/kit/sequence";

const file = (name: string, text = name) => new File([text], name);

describe("numbered sequences", () => {
  it("are told by the names of pictures", () => {
    expect(["kiln_0001.png", "kiln.17.EXR", "9.dpx"].map(isNumbered)).toEqual([true, true, true]);
    expect(["kiln.png", "kiln_1.txt", "kiln_1"].map(isNumbered)).toEqual([false, false, false]);
    expect([isSequence("kiln.ZIP"), isClip("kiln.zip"), isSequence("kiln.mov")]).toEqual([true, true, false]);
  });

  it("are packed without anything else of the folder, byte for byte", async () => {
    const zip = await packed("glaze", [
      file("g.1.png", "first"),
      file("g.2.png", "second"),
      file("notes.txt"),
    ]);
    expect(zip.name).toBe("glaze.zip");
    const bytes = new TextDecoder("latin1").decode(await zip.arrayBuffer());
    expect(bytes.startsWith("PK\x03\x04")).toBe(true);
    expect(bytes).toContain("g.1.pngfirst");
    expect(bytes).toContain("g.2.pngsecond");
    expect(bytes).not.toContain("notes.txt");
  });

  it("are missed aloud", async () => {
    await expect(packed("glaze", [file("kiln.png")])).rejects.toThrow("glaze holds no numbered pictures");
  });
});
