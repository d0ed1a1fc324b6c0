/** Bringing looks in: what is gathered and sent, what needs a person, and what the page of a pack does. */
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { DropItem } from "react-aria-components";
import { Route, Routes } from "react-router";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Pack, PackItem } from "../src/api/types";
import Begin from "../src/bringin/begin";
import { called, chosen, dropped } from "../src/kit/gather";
import { counts, folders, sound, toLookAt, willBeKept } from "../src/bringin/judging";
import PackPage from "../src/bringin/pack";
import { batches } from "../src/kit/gather";
import { broken, server, shown } from "./shown";
import { ENCODINGS, frame, INES } from "./things";

const sure = { sure: 0.95, unsure: false, source: "what it does", apart: 4, rival: null };
const item = (id: number, more: Partial<PackItem> = {}): PackItem => ({
  ...{
    id,
    folder: "fired",
    file_name: `${id}.cube`,
    kind: "table",
    form: ".cube, 33 × 33 × 33",
    name: `Look ${id}`,
  },
  ...{
    expects: "bt709_display",
    gives: "bt709_display",
    guess: sure,
    far: 4,
    findings: [],
    serious: false,
    words: ["warm"],
  },
  ...{ reason: "", twin: null, chosen: true, kept: false, look_id: null },
  ...more,
});
const BROKEN = item(3, {
  reason: "line 812: expected 3 numbers, found 2",
  chosen: false,
  name: "whitewash.cube",
  guess: null,
});
const TWIN = item(4, {
  chosen: false,
  twin: { name: "Late straw", apart: 0.04, same: false, look: 9, lut: null, item: null },
});
const UNSURE = item(5, {
  guess: {
    ...sure,
    sure: 0.58,
    unsure: true,
    rival: { expects: "film_log", gives: "bt709_display", apart: 5 },
  },
  far: 14,
  findings: ["clips 4% of colours"],
});
const pack = (items: PackItem[], more: Partial<Pack> = {}): Pack => ({
  ...{
    id: 7,
    name: "kiln.zip",
    stage: "ready",
    brought_by: "Ines Tallow",
    origin: "",
    rights: "ask first",
    licence: "Ours",
  },
  ...{
    licence_file: "LICENCE.txt",
    tags: [],
    collections: { fired: "Fired" },
    review: false,
    files: 1,
    bytes: 4_600_000,
    job: null,
    items,
  },
  ...more,
});
const file = (name: string, size = 1) => new File(["x".repeat(size)], name);

describe("files", () => {
  const given = (name: string): DropItem => ({
    kind: "file",
    type: "",
    name,
    getFile: async () => file(name),
    getText: async () => "",
  });
  const folder = (name: string, inside: DropItem[]): DropItem => ({
    kind: "directory",
    name,
    async *getEntries() {
      yield* inside as never[];
    },
  });
  it("that were dropped keep their places in folders", async () => {
    const found = await dropped([
      given("a.cube"),
      folder("kiln", [given("b.cube"), folder("late", [given("c.cube")])]),
    ]);
    expect(found.map((g) => g.path)).toEqual(["a.cube", "kiln/b.cube", "kiln/late/c.cube"]);
    expect(called(found)).toBe("3 files");
    expect(called(found.slice(1))).toBe("kiln");
    expect(called(found.slice(0, 1))).toBe("a.cube");
  });
  it("that were chosen as a folder know their places", () => {
    const one = file("b.cube");
    Object.defineProperty(one, "webkitRelativePath", { value: "kiln/b.cube" });
    expect(chosen([one, file("a.cube")]).map((g) => g.path)).toEqual(["kiln/b.cube", "a.cube"]);
    expect(chosen(null)).toEqual([]);
  });
  it("are sent fifty at a time, and large ones alone", () => {
    const small = Array.from({ length: 120 }, (_, k) => ({ file: file(`${k}`), path: `${k}` }));
    expect(batches(small, 50).map((b) => b.length)).toEqual([50, 50, 20]);
    const large = { file: { size: 60 * 2 ** 20 } as File, path: "l" };
    expect(batches([large, large, small[0]!], 50).map((b) => b.length)).toEqual([1, 2]);
  });
});

describe("what needs a person", () => {
  it("is what is unsure or in bad health, not what cannot be read", () => {
    expect([UNSURE, item(1, { serious: true }), BROKEN, TWIN, item(2)].map(toLookAt)).toEqual([
      true,
      true,
      false,
      false,
      false,
    ]);
    expect(counts([UNSURE, BROKEN, TWIN, item(2)])).toEqual({ all: 4, look: 1, twins: 1, unread: 1 });
    expect([item(1), BROKEN, TWIN, item(2, { kept: true })].map(willBeKept)).toEqual([
      true,
      false,
      false,
      false,
    ]);
    expect([item(1), UNSURE, TWIN].map(sound)).toEqual([true, false, false]);
  });
  it("stands in view, while sound rows of a long folder are put away", () => {
    const many = [...Array.from({ length: 20 }, (_, k) => item(10 + k)), UNSURE, BROKEN];
    const [fired] = folders(many, "all", new Set());
    expect([fired!.shown.length, fired!.away]).toEqual([6, 16]);
    expect(fired!.shown).toContain(UNSURE);
    expect(folders(many, "all", new Set(["fired"]))[0]!.shown).toHaveLength(22);
    expect(folders(many, "unread", new Set()).map((f) => f.shown)).toEqual([[BROKEN]]);
    expect(folders(many, "twins", new Set())).toEqual([]);
  });
});

describe("the page of a pack", () => {
  beforeEach(() => {
    // The list draws the rows that fit; jsdom lays nothing out.
    vi.spyOn(HTMLElement.prototype, "clientHeight", "get").mockReturnValue(900);
    vi.spyOn(HTMLElement.prototype, "clientWidth", "get").mockReturnValue(1000);
  });
  const page = (found: Pack, more: Parameters<typeof server>[0] = {}) => {
    const asked = server({
      "GET /session": { body: { person: INES } },
      "GET /encodings": { body: ENCODINGS.map((e) => ({ ...e, offered: true })) },
      "GET /frames": { body: [frame(1, { name: "Clay heads" })] },
      "GET /packs/7": { body: found },
      "GET /packs": { body: [] },
      ...more,
    });
    const view = shown(
      <Routes>
        <Route path="/catalogue/bring-in/:id" element={<PackPage />} />
        <Route path="/catalogue/bring-in" element={<p>the beginning</p>} />
        <Route path="/catalogue" element={<p>the catalogue</p>} />
      </Routes>,
      "/catalogue/bring-in/7",
    );
    return { asked, view };
  };
  const row = (name: string) => screen.findByRole("row", { name: new RegExp(name) });

  it("shows each look before and after, with what is known of it", async () => {
    const { view } = page(pack([item(1), UNSURE, TWIN, BROKEN]));
    expect((await screen.findByAltText("Clay heads under Look 1")).getAttribute("src")).toContain(
      "/api/packs/items/1/still?frame=1",
    );
    expect(within(await row("Look 1")).getByText("sound")).toBeTruthy();
    expect(within(await row("Look 5")).getByText("changes a picture by ΔE 14.0")).toBeTruthy();
    expect(within(await row("Look 4")).getByText("twin of Late straw")).toBeTruthy();
    expect(within(await row("whitewash")).getByText(/line 812/)).toBeTruthy();
    expect(screen.getByText("2 of 4 will be kept")).toBeTruthy();
    expect(screen.getByText("To keep them, say where they come from.")).toBeTruthy();
    expect(await broken(view.container)).toEqual([]);
  });

  it("keeps a twin where somebody wants both, and leaves out what they do not", async () => {
    const { asked } = page(pack([item(1), TWIN]), {
      "PATCH /packs/7/items": (body) => {
        const { ids, chosen } = body as { ids: number[]; chosen: boolean };
        return { body: [item(1), TWIN].filter((i) => ids.includes(i.id)).map((i) => ({ ...i, chosen })) };
      },
    });
    await userEvent.click(within(await row("Look 4")).getByRole("button", { name: "keep both" }));
    expect(await screen.findByText("2 of 2 will be kept")).toBeTruthy();
    await userEvent.click(within(await row("Look 1")).getByRole("checkbox"));
    expect(await screen.findByText("1 of 2 will be kept")).toBeTruthy();
    expect(asked.filter((a) => a.what === "PATCH /packs/7/items").map((a) => a.body)).toEqual([
      { ids: [4], chosen: true },
      { ids: [1], chosen: false },
    ]);
  });

  it("takes the other likely encodings at a press", async () => {
    const { asked } = page(pack([UNSURE]), {
      "PATCH /packs/7/items": { body: [{ ...UNSURE, expects: "film_log" }] },
    });
    await userEvent.click(
      await within(await row("Look 5")).findByRole("button", {
        name: "Encodings of Look 5: BT.709 display → BT.709 display, 58 % sure, choose",
      }),
    );
    await userEvent.click(await screen.findByRole("button", { name: "film log → BT.709 display: ΔE 5.0" }));
    await waitFor(() =>
      expect(asked.at(-1)?.body).toEqual({ ids: [5], expects: "film_log", gives: "bt709_display" }),
    );
  });

  it("says what was typed before it is kept, then keeps", async () => {
    let found = pack([item(1)]);
    const { asked } = page(found, {
      "GET /packs/7": () => ({ body: found }),
      "PATCH /packs/7": (body) => ({ body: (found = { ...found, ...(body as object) }) }),
      "POST /packs/7/keep": () => ({
        body: (found = { ...found, stage: "kept", items: [item(1, { kept: true })] }),
      }),
    });
    await row("Look 1");
    const keep = screen.getByRole("button", { name: "Keep 1 look" });
    expect(keep).toHaveProperty("disabled", true);
    await userEvent.type(screen.getByRole("textbox", { name: "Where it comes from" }), "Ines");
    await userEvent.click(screen.getByRole("radio", { name: /inside the studio/ }));
    await userEvent.click(keep);
    expect(await screen.findByText("1 look of kiln.zip kept")).toBeTruthy();
    const sent = asked.filter((a) => /PATCH|keep/.test(a.what));
    expect(sent.at(-1)?.what).toBe("POST /packs/7/keep");
    expect(Object.assign({}, ...sent.map((a) => a.body ?? {}))).toMatchObject({
      origin: "Ines",
      rights: "inside the studio",
    });
    await userEvent.click(screen.getByRole("button", { name: "Open the catalogue" }));
    expect(screen.getByText("the catalogue")).toBeTruthy();
  });

  it("that is being read says how far it is, and stops", async () => {
    const job = {
      id: 3,
      kind: "pack",
      title: "",
      state: "running",
      done: 4,
      total: 14,
      doing: "a.cube",
      reason: "",
      asked_at: "",
      ahead: 0,
    };
    const { asked } = page(pack([item(1)], { stage: "reading", job }), {
      "POST /jobs/3/cancel": { body: {} },
    });
    expect(await screen.findByText("Reading 4 of 14")).toBeTruthy();
    expect(screen.getByRole("progressbar", { name: "How far it is" })).toBeTruthy();
    expect(screen.getByRole("button", { name: "Keep 1 look" })).toHaveProperty("disabled", true);
    await userEvent.click(screen.getByRole("button", { name: "Stop" }));
    await waitFor(() => expect(asked.some((a) => a.what === "POST /jobs/3/cancel")).toBe(true));
  });

  it("that was not read yet is read, and can be let go", async () => {
    const { asked } = page(pack([], { stage: "gathering" }), {
      "POST /packs/7/read": { body: pack([], { stage: "reading" }) },
      "DELETE /packs/7": { status: 200, body: {} },
    });
    await userEvent.click(await screen.findByRole("button", { name: "Read it" }));
    await waitFor(() =>
      expect(asked.find((a) => a.what === "POST /packs/7/read")?.body).toEqual({ frame: 1 }),
    );
    await userEvent.click(screen.getByRole("button", { name: "Let go of it" }));
    expect(await screen.findByText("the beginning")).toBeTruthy();
  });
});

describe("the way in", () => {
  it("sends what is chosen and goes to the pack; packs that wait stand below", async () => {
    const asked = server({
      "GET /session": { body: { person: INES } },
      "GET /frames": { body: [frame(1)] },
      "GET /packs": {
        body: [{ id: 7, name: "kiln.zip", stage: "ready", brought_at: "2026-05-01T10:00:00Z", count: 14 }],
      },
      "POST /packs": { status: 201, body: pack([], { id: 8 }) },
      "POST /packs/8/files": { body: {} },
      "POST /packs/8/read": { body: pack([], { id: 8, stage: "reading" }) },
    });
    const view = shown(
      <Routes>
        <Route path="/catalogue/bring-in" element={<Begin />} />
        <Route path="/catalogue/bring-in/:id" element={<p>the pack</p>} />
      </Routes>,
      "/catalogue/bring-in",
    );
    expect(await screen.findByText("14 looks and files, waits for you")).toBeTruthy();
    expect(screen.getByRole("link", { name: /From a pair/ }).getAttribute("href")).toBe("/catalogue/pair");
    expect(await broken(view.container)).toEqual([]);
    await userEvent.upload(document.querySelector<HTMLInputElement>("input[type=file]")!, [
      file("a.cube"),
      file("b.cube"),
    ]);
    expect(await screen.findByText("the pack")).toBeTruthy();
    expect(asked.find((a) => a.what === "POST /packs")?.body).toEqual({ name: "2 files" });
    expect(asked.filter((a) => a.what.includes("/packs/8/")).map((a) => a.what)).toEqual([
      "POST /packs/8/files",
      "POST /packs/8/read",
    ]);
  });

  it("says why nothing could be sent", async () => {
    server({
      "GET /session": { body: { person: INES } },
      "GET /frames": { body: [] },
      "GET /packs": { body: [] },
      "POST /packs": { status: 409, body: { message: "20 packs of yours wait for a decision." } },
    });
    shown(<Begin />);
    await userEvent.upload(document.querySelector<HTMLInputElement>("input[type=file]")!, file("a.cube"));
    expect((await screen.findByRole("alert")).textContent).toBe("20 packs of yours wait for a decision.");
  });
});
