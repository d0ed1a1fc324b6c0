/** Frames: reference pictures, brought in with their encoding. */
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import Frames from "../src/frames/frames";
import { trimWords } from "../src/kit/trim";
import { broken, server, shown } from "./shown";
import { ENCODINGS, frame, INES, NO_TRIM } from "./things";

const ask = (frames: unknown[], more: Parameters<typeof server>[0] = {}) =>
  server({
    "GET /frames": { body: frames },
    "GET /encodings": { body: ENCODINGS },
    "GET /session": { body: { person: INES } },
    ...more,
  });

describe("frames", () => {
  it("say how they are encoded, trimmed and recorded, and what is doubtful about it", async () => {
    ask([
      frame(1, { name: "Clay heads", trim: { ...NO_TRIM, exposure: 0.5 } }),
      frame(2, { name: "Old tape", doubt: "Black stands at 64. Export it again in full range." }),
      frame(3, {
        name: "Plain",
        encoding_by: "assumed, as is usual for PNG: the file declares nothing",
        unread: ["2 more pages of the file"],
      }),
    ]);
    const { container } = shown(<Frames />);
    expect(await screen.findByRole("button", { name: "Open Clay heads" })).toBeTruthy();
    await waitFor(() => expect(screen.getAllByText("noon · film log")).toHaveLength(3));
    expect(container.textContent).toContain("PNG 16 bit, 1920 × 1080");
    expect(container.textContent).toContain("trim +0.5 stops");
    expect(screen.getByText("Black stands at 64. Export it again in full range.")).toBeTruthy();
    expect(screen.getByText("assumed, as is usual for PNG: the file declares nothing")).toBeTruthy();
    expect(screen.getByText("Not read: 2 more pages of the file")).toBeTruthy();
    expect(await broken(container)).toEqual([]);
  });

  it("are brought in as a file with its name and encoding", async () => {
    const asked = ask([], { "POST /frames": { status: 201, body: frame(7) } });
    shown(<Frames />);
    await screen.findByText("No frames yet");
    await userEvent.click(screen.getAllByRole("button", { name: "Add frame" })[0]!);
    const sheet = within(await screen.findByRole("dialog"));
    const send = sheet.getByRole("button", { name: "Add frame" });
    expect(send).toHaveProperty("disabled", true);
    await userEvent.upload(
      document.querySelector<HTMLInputElement>("input[type=file]")!,
      new File(["x"], "kiln_mouth.png", { type: "image/png" }),
    );
    expect(sheet.getByRole("textbox", { name: "Name" })).toHaveProperty("value", "kiln mouth");
    // Unless somebody says it, the file does.
    expect(sheet.getByRole("button", { name: /Encoded as/ }).textContent).toContain("as the file says");
    await userEvent.click(send);
    await waitFor(() => expect(asked.some((a) => a.what === "POST /frames")).toBe(true));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("that cannot be read say why, and nothing typed is lost", async () => {
    ask([], { "POST /frames": { status: 422, body: { message: "kiln.png: not a picture Saucer reads" } } });
    shown(<Frames />);
    await userEvent.click((await screen.findAllByRole("button", { name: "Add frame" }))[0]!);
    const sheet = within(await screen.findByRole("dialog"));
    await userEvent.upload(
      document.querySelector<HTMLInputElement>("input[type=file]")!,
      new File(["x"], "kiln.png", { type: "image/png" }),
    );
    await userEvent.type(sheet.getByRole("textbox", { name: "Light" }), "fire");
    await userEvent.click(sheet.getByRole("button", { name: "Add frame" }));
    expect((await sheet.findByRole("alert")).textContent).toBe("kiln.png: not a picture Saucer reads");
    expect(sheet.getByRole("textbox", { name: "Light" })).toHaveProperty("value", "fire");
  });
});

describe("a trim in words", () => {
  it("names only what was done", () => {
    expect(trimWords(NO_TRIM)).toBe("none");
    expect(trimWords({ ...NO_TRIM, blue: { slope: 1.1, offset: 0, power: 1 } })).toBe("CDL");
    expect(trimWords({ ...NO_TRIM, exposure: -1, temperature: 8, tint: -2, contrast: 0.92 })).toBe(
      "−1 stops, warmer 8, tint −2, contrast × 0.92",
    );
  });
});
