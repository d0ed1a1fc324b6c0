/** Carrying a look over: which carrier is taken away, and what is said of the one that comes back. */
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import type { Carried, CarrierKind } from "../src/api/types";
import Carry from "../src/catalogue/carry";
import { broken, server, shown } from "./shown";
import { ENCODINGS, frame, INES } from "./things";

const KINDS: CarrierKind[] = [
  {
    layout: "hald",
    label: "Square",
    sizes: [
      [6, 36],
      [8, 64],
    ],
  },
  { layout: "strip", label: "Strip", sizes: [[33, 33]] },
];
const DATA = "data:image/jpeg;base64,/9j/";
const carried = (more: Partial<Carried> = {}): Carried => ({
  ...{ verdict: "accept", findings: [], layout: "hald", grid: 64, smoothing: [0, 0] },
  ...{
    picture: `${DATA}picture`,
    damage: `${DATA}damage`,
    before: `${DATA}before`,
    after: `${DATA}after`,
    smoothed_after: "",
    saucer: DATA,
  },
  ...more,
});
const noise = {
  kind: "noise" as const,
  amount: 1.6,
  words: "grain or noise was on. Switch it off",
  serious: false,
};

function page(answer: Carried, more: Parameters<typeof server>[0] = {}) {
  const asked = server({
    "GET /session": { body: { person: INES } },
    "GET /encodings": { body: ENCODINGS.map((e) => ({ ...e, offered: true })) },
    "GET /frames": { body: [frame(1, { name: "Clay heads" })] },
    "GET /carriers/kinds": { body: KINDS },
    "POST /carriers/read": { body: answer },
    ...more,
  });
  const view = shown(
    <Routes>
      <Route path="/catalogue/carry" element={<Carry />} />
      <Route path="/bench/:id" element={<p>the bench</p>} />
    </Routes>,
    "/catalogue/carry",
  );
  return { asked, view };
}
const bring = (name = "ember_edit.png") =>
  userEvent.upload(
    document.querySelector<HTMLInputElement>("input[type=file]")!,
    new File(["x"], name, { type: "image/png" }),
  );
const link = () =>
  new URL(screen.getByRole("link", { name: "Take it away" }).getAttribute("href")!, "http://x").searchParams;

describe("a carrier", () => {
  it("is taken away as it was chosen, with a frame beside it where there is room", async () => {
    const { view } = page(carried());
    await screen.findByRole("radio", { name: "Strip" });
    await waitFor(() =>
      expect(Object.fromEntries(link())).toEqual({
        layout: "hald",
        size: "8",
        file: "png16",
        encoding: "bt709_display",
      }),
    );
    await userEvent.click(screen.getByRole("radio", { name: "36" }));
    await userEvent.click(screen.getByRole("switch", { name: "a frame of yours" }));
    expect([link().get("size"), link().get("frame")]).toEqual(["6", "1"]);
    await userEvent.click(screen.getByRole("radio", { name: "Strip" }));
    expect([link().get("size"), link().get("frame")]).toEqual(["33", null]);
    expect(await broken(view.container)).toEqual([]);
  });

  it("that is sound is shown on the frame and becomes a look", async () => {
    const { asked, view } = page(carried(), {
      "POST /carriers/keep": { status: 201, body: { id: 7, name: "ember edit" } },
    });
    await bring();
    expect(await screen.findByText("Sound: nothing in it follows the place")).toBeTruthy();
    expect(screen.getByAltText("The frame under it")).toBeTruthy();
    expect(screen.getByRole("textbox", { name: "Name of the look" })).toHaveProperty("value", "ember edit");
    const make = screen.getByRole("button", { name: "Make a look of it" });
    expect(make).toHaveProperty("disabled", true);
    await userEvent.type(screen.getByRole("textbox", { name: "Where it comes from" }), "the shed");
    expect(await broken(view.container)).toEqual([]);
    await userEvent.click(make);
    expect(await screen.findByText("the bench")).toBeTruthy();
    expect(asked.filter((a) => a.what === "POST /carriers/keep")).toHaveLength(1);
  });

  it("with noise says what smoothing changes, and offers both", async () => {
    page(
      carried({
        verdict: "smooth",
        findings: [noise],
        smoothing: [0.62, 6.8],
        smoothed_after: `${DATA}smooth`,
      }),
    );
    await bring();
    expect(await screen.findByText("Grain or noise was on. Switch it off.")).toBeTruthy();
    expect(screen.getByText("Smoothing changes colours by ΔE 0.62 on average, 6.8 at most.")).toBeTruthy();
    expect(screen.getByAltText("The frame under it, smoothed")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Take it as it is" })).toBeTruthy();
  });

  it("that may be meant so is asked about", async () => {
    const steps = {
      kind: "posterising" as const,
      amount: 6,
      words: "each channel has only 6 / 6 / 6 steps left",
      serious: false,
    };
    page(carried({ verdict: "ask", findings: [steps] }));
    await bring();
    expect(await screen.findByText("Usable, if what was found is meant so")).toBeTruthy();
    expect(screen.getByRole("button", { name: "It is meant so: make a look of it" })).toBeTruthy();
  });

  it("that is damaged shows where, and cannot be kept", async () => {
    page(
      carried({
        ...{ verdict: "refuse", before: "", after: "", saucer: "" },
        findings: [
          {
            kind: "shading",
            amount: 0.13,
            words: "darkened toward the corners by 13 %: a vignette was on. Switch it off",
            serious: true,
          },
        ],
      }),
    );
    await bring();
    expect(await screen.findByText(/^Darkened toward the corners by 13 %/)).toBeTruthy();
    await userEvent.click(screen.getByRole("radio", { name: "What no look explains" }));
    expect(screen.getByAltText("What no look explains in it").getAttribute("src")).toBe(`${DATA}damage`);
    expect(
      within(screen.getByRole("region", { name: "Bring back" })).queryByRole("button", {
        name: /look of it/,
      }),
    ).toBeNull();
  });

  it("that is no picture says so", async () => {
    page(carried(), {
      "POST /carriers/read": { status: 422, body: { message: "a.png: damaged or cut short" } },
    });
    await bring("a.png");
    expect((await screen.findByRole("alert")).textContent).toBe("a.png: damaged or cut short");
  });
});
