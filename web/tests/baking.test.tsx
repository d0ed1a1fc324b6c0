/** The bake page: what is in, which files, which table is enough, and what is sent. */
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import type { Bake as Baked, Blamed, Deviation, FileOffer, LookRecord, Proof } from "../src/api/types";
import Bake from "../src/bake/bake";
import { best } from "../src/bake/grids";
import { bytes } from "../src/kit/bytes";
import { exposure, look, record } from "./looks";
import { broken, server, shown } from "./shown";
import { ENCODINGS, frame, INES, KINDS, NO_TRIM, revision } from "./things";

const deviation = (mean: number, most: number, largest: number): Deviation => ({
  ...{
    largest: 80,
    mean: 0.5,
    share_under_one: 0.98,
    metric: "ΔE2000 on the display",
    delta_mean: mean,
    delta_95: most / 2,
  },
  ...{
    delta_99: most,
    delta_largest: largest,
    worst_in: [0, 0, 0],
    worst_look: [0, 0, 0],
    worst_table: [0, 0, 0],
  },
});
const proof = (grid: number, method: "sampled" | "fitted", cube: Deviation, enough: boolean): Proof => ({
  ...{ grid, method, enough, seconds: method === "fitted" ? 1.84 : 0.043, bytes: 1_290_000 },
  report: { cube, pictures: deviation(0.1, 0.4, 1.2), worst: [] },
  chips: [
    { frame: "Kiln mouth", before: "#444041", look: "#0a2b46", table: "#0a2b44", delta: 1.21, beyond: true },
  ],
});
const PROOFS: Record<string, Proof> = {
  "17 sampled": proof(17, "sampled", deviation(0.2, 1.19, 2.74), false),
  "17 fitted": proof(17, "fitted", deviation(0.14, 0.89, 2.43), false),
  "33 sampled": proof(33, "sampled", deviation(0.06, 0.41, 2.05), false),
  "33 fitted": proof(33, "fitted", deviation(0.04, 0.37, 1.71), true),
  "65 sampled": proof(65, "sampled", deviation(0.02, 0.13, 1.85), true),
  "65 fitted": proof(65, "fitted", deviation(0.02, 0.12, 1.75), true),
};
const offer = (key: string, suffix: string, why = ""): FileOffer => ({
  offer: {
    key,
    label: key === "cube" ? ".cube, 3-D" : key,
    suffix,
    says: "a kind",
    baked: key === "cube",
    ranged: key === "cube",
    why,
  },
  name: `Slip_r2${suffix}`,
});
const OFFERS = [
  offer("cube", ".cube"),
  offer("cdl", ".cdl", "The look holds more than one step."),
  offer("recipe", ".saucer.json"),
];
const BLAMED: Blamed = {
  shares: [
    { step: "a", share: 0.7 },
    { step: "b", share: 0.3 },
  ],
  easing: {
    step: "a",
    before: { cube: deviation(0.06, 0.41, 2.05), pictures: deviation(0.13, 0.6, 1.51), worst: [] },
    after: { cube: deviation(0.05, 0.3, 1.9), pictures: deviation(0.11, 0.49, 1.39), worst: [] },
  },
};
const FILE: Baked = {
  ...{
    id: 9,
    revision_id: 12,
    revision_number: 2,
    format: "cube",
    label: ".cube, 3-D",
    grid: 33,
    method: "sampled",
    code_range: "full",
  },
  ...{
    title: "Slip",
    rights: "ask first",
    note: "",
    deviation: null,
    name: "Slip_r2.cube",
    bytes: 1_290_000,
    checksum: "7c1e40ab99",
  },
  ...{ fetched: 3, made_by: "Ines Tallow", made_at: "2026-05-01T10:00:00Z" },
};
const DRAFT = look(
  exposure("a", 1),
  { ...exposure("b", 0.5), label: "Lift" },
  { ...exposure("c", 2), on: false },
);

function page(
  answers: Parameters<typeof server>[0] = {},
  more: Partial<LookRecord> = {},
  at = "/bench/4/bake",
) {
  const asked = server({
    "GET /session": { body: { person: INES } },
    "GET /encodings": { body: ENCODINGS },
    "GET /steps": { body: KINDS },
    "GET /frames": {
      body: [frame(1, { name: "Kiln mouth", trim: { ...NO_TRIM, exposure: 1 }, unread: ["the channels Z"] })],
    },
    "GET /looks/4": {
      body: { ...record(4, DRAFT), revisions: [revision(12, "Slip", { number: 2 })], ...more },
    },
    "GET /revisions/12/recipe": { body: DRAFT },
    "POST /looks/4/offers?revision=12": { body: OFFERS },
    "POST /looks/4/offers": { body: OFFERS },
    "POST /looks/4/proof": (body) => {
      const { grid, method } = body as { grid: number; method: string };
      return { body: PROOFS[`${grid} ${method}`] };
    },
    "POST /looks/4/blame": { body: BLAMED },
    "GET /looks/4/bakes": { body: [] },
    ...answers,
  });
  const view = shown(
    <Routes>
      <Route path="/bench/:id/bake" element={<Bake />} />
      <Route path="/bench/:id" element={<p>the bench</p>} />
    </Routes>,
    at,
  );
  return { asked, view };
}
const row = (name: string) => screen.getByRole("radio", { name }).closest("label")!;

describe("baking", () => {
  it("says what is in the table and what stays out", async () => {
    page();
    const inside = within(await screen.findByRole("complementary", { name: "What is in the table" }));
    await inside.findByText("film log");
    expect(inside.getAllByRole("listitem").map((i) => i.textContent)).toEqual([
      "Exposure+1 stops",
      "Lift+0.5 stops",
      "Trims of 1 frames they belong to the frames",
      "Exposure step 3 is switched off",
    ]);
  });

  it("says first what an eye would see, and recommends the smallest table that is enough", async () => {
    const { asked, view } = page();
    expect(await screen.findByText("recommended, fitted: nothing an eye would catch")).toBeTruthy();
    expect(row("33, sampled").textContent).toBe("sampled43 ms0.1000.401.200.0600.412.050.50");
    expect(row("33, fitted").textContent).toContain("1.8 s");
    expect(screen.getByText("no better to the eye, 8 times the file")).toBeTruthy();
    expect(screen.getAllByText("an eye can see it")).toHaveLength(1);
    const methods = asked
      .filter((a) => a.what === "POST /looks/4/proof")
      .map((a) => a.body as { grid: number; method: string });
    expect(methods.some((m) => m.grid === 65 && m.method === "fitted")).toBe(false);
    await userEvent.click(screen.getByRole("radio", { name: "65, fitted" }));
    await waitFor(() => expect(row("65, fitted").textContent).toContain("1.75"));
    expect(await broken(view.container)).toEqual([]);
  });

  it("chooses by keys, but not where letters are typed", async () => {
    page();
    await screen.findByText("recommended, fitted: nothing an eye would catch");
    await userEvent.keyboard("1f");
    expect(screen.getByRole<HTMLInputElement>("radio", { name: "17, fitted" }).checked).toBe(true);
    await userEvent.type(screen.getByRole("textbox", { name: "Note" }), "3f");
    expect(screen.getByRole<HTMLInputElement>("radio", { name: "17, fitted" }).checked).toBe(true);
    expect(screen.getByRole("textbox", { name: "Note" })).toHaveProperty("value", "3f");
  });

  it("says what prevents a kind of file, and what the others will be called", async () => {
    page();
    const files = within(await screen.findByRole("region", { name: "Files" }));
    expect(await files.findByText("The look holds more than one step.")).toBeTruthy();
    expect(files.getByRole("checkbox", { name: /cdl/ })).toHaveProperty("disabled", true);
    await userEvent.click(files.getByRole("checkbox", { name: /recipe/ }));
    expect(screen.getByText("Slip_r2.saucer.json")).toBeTruthy();
    await userEvent.click(files.getByRole("radio", { name: "narrow" }));
    expect(files.getByText("has no narrow range")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Bake 1 file" })).toBeTruthy();
  });

  it("shows where the table is off: on a frame, in colours, because of a step", async () => {
    page();
    const off = within(await screen.findByRole("region", { name: "Where it is off" }));
    expect(await off.findByText("1.2")).toBeTruthy();
    // No grid holds a colour that lies outside the table: it says so.
    expect(off.getByText("outside")).toBeTruthy();
    expect(off.getByText(/a table of any size covers/)).toBeTruthy();
    expect(off.getByAltText(/How far the table is from the look/).getAttribute("src")).toContain(
      "/api/looks/4/proof/1?revision=12",
    );
    expect(await off.findByText("70 %")).toBeTruthy();
    expect(screen.getByText("Of Kiln mouth is left out: the channels Z.")).toBeTruthy();
    expect(off.getByText(/99 % 0.60 → 0.49, mean 0.130 → 0.110, largest 1.51 → 1.39/)).toBeTruthy();
    await userEvent.click(off.getByRole("button", { name: "See the step" }));
    expect(screen.getByText("the bench")).toBeTruthy();
  });

  it("sends what was chosen and lists what was made", async () => {
    let files: Baked[] = [];
    const { asked } = page({
      "POST /revisions/12/bakes": () => ({ status: 201, body: (files = [FILE]) }),
      "GET /looks/4/bakes": () => ({ body: files }),
    });
    await userEvent.click(await screen.findByRole("radio", { name: "33, fitted" }));
    await userEvent.click(screen.getByRole("radio", { name: "ask first" }));
    await userEvent.click(screen.getAllByRole("button", { name: /Remove/ })[0]!);
    const title = screen.getByRole("textbox", { name: "Title" });
    await userEvent.clear(title);
    await userEvent.type(title, "Slip, night");
    await userEvent.click(await screen.findByRole("button", { name: "Bake 1 file" }));
    const fetch = await screen.findByRole("link", { name: "Fetch Slip_r2.cube" });
    expect(fetch.getAttribute("href")).toBe("/api/bakes/9/file");
    expect(screen.getByRole("status").textContent).toBe("1 file was baked.");
    expect(asked.find((a) => a.what === "POST /revisions/12/bakes")?.body).toEqual({
      ...{
        kinds: ["cube"],
        grid: 33,
        method: "fitted",
        code_range: "full",
        title: "Slip, night",
        rights: "ask first",
        note: "",
      },
      parts: ["revision", "out", "grid"],
    });
    expect(screen.getByText(/r2 is out there sampled: one that is fitted will not match it/)).toBeTruthy();
  });

  it("keeps a draft as a revision before it is baked", async () => {
    const { asked } = page(
      {
        "POST /looks/4/revisions": { status: 201, body: revision(13, "Slip", { number: 3 }) },
        "POST /revisions/13/bakes": { status: 201, body: [FILE] },
      },
      {},
      "/bench/4/bake?revision=draft",
    );
    await userEvent.click(await screen.findByRole("button", { name: "Bake 1 file" }));
    await waitFor(() => expect(asked.some((a) => a.what === "POST /revisions/13/bakes")).toBe(true));
    const order = asked.map((a) => a.what).filter((w) => w.endsWith("/revisions") || w.endsWith("13/bakes"));
    expect(order).toEqual(["POST /looks/4/revisions", "POST /revisions/13/bakes"]);
  });

  it("says why nothing was baked, and one can try again", async () => {
    page({
      "POST /revisions/12/bakes": { status: 507, body: { message: "The disk is full: nothing was kept." } },
    });
    const press = await screen.findByRole("button", { name: "Bake 1 file" });
    await userEvent.click(press);
    expect((await screen.findByRole("alert")).textContent).toBe("The disk is full: nothing was kept.");
    expect(screen.getByRole("button", { name: "Bake 1 file" })).toHaveProperty("disabled", false);
  });

  it("lets who may not change the look fetch files, and bake none", async () => {
    page({ "GET /looks/4/bakes": { body: [FILE] } }, { may_edit: false });
    expect(await screen.findByRole("link", { name: "Fetch Slip_r2.cube" })).toBeTruthy();
    expect(screen.queryByRole("button", { name: /^Bake/ })).toBeNull();
  });
});

describe("the table that is recommended", () => {
  const all = Object.values(PROOFS);
  it("is the smallest that is enough, sampled before fitted", () => {
    expect(best(all)).toBe(PROOFS["33 fitted"]);
    expect(best([...all, { ...PROOFS["33 sampled"]!, enough: true }])).toMatchObject({
      grid: 33,
      method: "sampled",
    });
  });
  it("is the nearest where none is enough", () => {
    expect(best(all.map((p) => ({ ...p, enough: false })))).toMatchObject({ grid: 65, method: "fitted" });
  });
  it("is said with its size", () => {
    expect([0, 430, 94_300, 1_290_000, 2.5e9].map(bytes)).toEqual([
      "0 kB",
      "1 kB",
      "94 kB",
      "1.3 MB",
      "2.5 GB",
    ]);
  });
});
