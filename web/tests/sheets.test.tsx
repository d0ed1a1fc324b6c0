/** Contact sheets: voting by keys, names that are turned over, closing; packs that go out. */
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import type { ContactSheet, Outgoing, SheetRow } from "../src/api/types";
import PackOut from "../src/catalogue/packout";
import SheetPage from "../src/sheet/sheet";
import { broken, server, shown } from "./shown";
import { card, frame, INES, filterValues, ODILE, SCALES } from "./things";

const NONE = { yes: 0, changes: 0, no: 0 };
const row = (id: number, name: string, more: Partial<SheetRow> = {}): SheetRow => ({
  ...{
    id,
    name,
    judged_by: false,
    gone: false,
    look: null,
    revision: null,
    words: [],
    traits: {},
    sums: NONE,
  },
  ...more,
});
const sheet = (more: Partial<ContactSheet> = {}): ContactSheet => ({
  ...{
    id: 3,
    name: "Poster",
    strength: 0.8,
    blind: true,
    hidden: true,
    closed_by: null,
    made_by: "Ines Tallow",
    may_close: true,
  },
  rows: [
    row(30, "Plain r2", { judged_by: true, look: 1, revision: 10 }),
    row(31, "Look A"),
    row(32, "Look B"),
  ],
  columns: [
    { id: 50, name: "Clay heads", frame: 1, part: { x: 0.5, y: 0.5 } },
    { id: 51, name: "Yard", frame: null, part: { x: 0.5, y: 0.5 } },
  ],
  ...{ cells: [], own: [], notes: [], people: [], to_vote: 4 },
  ...more,
});

function opened(first: ContactSheet, at = "/catalogue/sheet/3", more: Parameters<typeof server>[0] = {}) {
  const asked = server({
    "GET /session": { body: { person: INES } },
    "GET /waiting": { body: { asked: [], answered: [] } },
    "GET /frames": {
      body: [frame(1, { name: "Clay heads", light: "window" }), frame(2, { name: "Test", chart: true })],
    },
    "GET /catalogue/scales": { body: SCALES },
    "GET /sheets/3": { body: first },
    ...more,
  });
  const drawn = shown(
    <Routes>
      <Route path="/catalogue/sheet/:id" element={<SheetPage />} />
    </Routes>,
    at,
  );
  return { asked, ...drawn };
}

describe("a contact sheet", () => {
  it("is voted on by keys, cell by cell, and never tells a hidden name", async () => {
    const { asked, container } = opened(sheet(), undefined, {
      "PUT /sheets/3/marks": (body) => ({ body: sheet({ own: [body as ContactSheet["own"][number]] }) }),
    });
    const first = await screen.findByRole("button", { name: "Original on Clay heads" });
    expect(
      screen
        .getByRole("button", { name: "Look A on Clay heads, open" })
        .querySelector("img")
        ?.getAttribute("src"),
    ).toBe("/api/sheets/3/still?column=50&row=31&width=320&v=0.8");
    first.focus();
    await userEvent.keyboard("{ArrowDown}f");
    expect(asked.some((a) => a.what.startsWith("PUT"))).toBe(false);
    await userEvent.keyboard("{ArrowDown}w");
    await waitFor(() =>
      expect(asked.find((a) => a.what === "PUT /sheets/3/marks")?.body).toEqual({
        row: 31,
        column: 50,
        verdict: "with changes",
        note: "",
      }),
    );
    expect(await screen.findByRole("button", { name: "Look A on Clay heads, with changes" })).toBeTruthy();
    expect(screen.getByText("1 of 4 voted")).toBeTruthy();
    await userEvent.keyboard("w");
    await waitFor(() =>
      expect(asked.filter((a) => a.what === "PUT /sheets/3/marks")[1]?.body).toMatchObject({ verdict: "" }),
    );
    expect(await broken(container)).toEqual([]);
  });

  it("shows a frame that went as gone, and a cell large with a note on it", async () => {
    const { asked } = opened(sheet(), undefined, { "PUT /sheets/3/marks": { body: sheet() } });
    const gone = await screen.findByRole("button", { name: "Look B on Yard, open" });
    expect(gone.textContent).toBe("gone");
    await userEvent.click(screen.getByRole("button", { name: "Look A on Clay heads, open" }));
    const large = await screen.findByRole("dialog", { name: "Look A" });
    await userEvent.type(within(large).getByRole("textbox"), "too yellow");
    await userEvent.click(within(large).getByRole("button", { name: "Keep the note" }));
    await waitFor(() =>
      expect(asked.find((a) => a.what === "PUT /sheets/3/marks")?.body).toMatchObject({
        verdict: "",
        note: "too yellow",
      }),
    );
  });

  it("shows the names and the sums when the vote is closed, and orders by them", async () => {
    const closed = sheet({
      hidden: false,
      closed_by: "Ines Tallow",
      rows: [
        row(31, "Ash r1 (Look A)", { sums: { yes: 0, changes: 1, no: 1 } }),
        row(32, "Oxide r1 (Look B)", { sums: { yes: 2, changes: 0, no: 0 } }),
      ],
    });
    opened(sheet(), undefined, { "POST /sheets/3/close": { body: closed } });
    await userEvent.click(await screen.findByRole("button", { name: "Close the vote, show names" }));
    expect(await screen.findByText("The vote is over, closed by Ines Tallow.")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: /Order of rows/ }));
    await userEvent.click(await screen.findByRole("option", { name: "by votes" }));
    const rows = screen.getAllByRole("row").map((r) => r.querySelector("strong")?.textContent);
    expect(rows.filter(Boolean)).toEqual(["Original", "Oxide r1 (Look B)", "Ash r1 (Look A)"]);
    expect(screen.getByRole("img", { name: "2 for it, 0 with changes, 0 against" })).toBeTruthy();
  });

  it("is made of looks and frames, blind if wanted", async () => {
    const { asked } = opened(sheet(), "/catalogue/sheet/new?look=1&look=2", {
      "GET /catalogue/cards?look=1&look=2": { body: [card(1, "Ash"), card(2, "Oxide")] },
      "GET /catalogue/cards?look=1": { body: [card(1, "Ash")] },
      "GET /catalogue?limit=200": { body: { cards: [card(1, "Ash"), card(2, "Oxide")], found: 2, total: 2 } },
      "POST /sheets": { status: 201, body: sheet() },
    });
    await userEvent.type(await screen.findByRole("textbox", { name: "What is to be chosen" }), "Poster");
    await userEvent.click(screen.getByRole("switch", { name: /^Blind/ }));
    await userEvent.click((await screen.findAllByRole("switch", { name: "to judge by" }))[0]!);
    await userEvent.click(screen.getByRole("button", { name: "Leave Oxide out" }));
    await waitFor(() => expect(screen.queryByText("Oxide")).toBeNull());
    await userEvent.click(screen.getByRole("button", { name: "Make the sheet" }));
    await waitFor(() =>
      expect(asked.find((a) => a.what === "POST /sheets")?.body).toEqual({
        name: "Poster",
        looks: [1],
        frames: [1],
        blind: true,
        judged_by: [1],
      }),
    );
    expect(await screen.findByRole("heading", { name: "Poster" })).toBeTruthy();
  });
});

describe("packs that go out", () => {
  const job = {
    id: 8,
    kind: "pack out",
    title: "",
    state: "done",
    done: 3,
    total: 3,
    doing: "",
    reason: "",
    asked_at: "2026-05-02T10:00:00Z",
    ahead: 0,
  };
  const pack: Outgoing = {
    ...{
      id: 2,
      name: "Kiln pack",
      collections: ["Kiln"],
      kinds: ["cube"],
      job,
      ready: true,
      bytes: 2_000_000,
      count: 3,
    },
    ...{ left_out: [], changes: ["Ash: r1 → r2"], made_by: "Odile Marl", made_at: "2026-05-02T10:00:00Z" },
  };
  const ask = (person: typeof INES, more: Parameters<typeof server>[0]) =>
    server({
      "GET /session": { body: { person } },
      "GET /waiting": { body: { asked: [], answered: [] } },
      "GET /catalogue/filters": {
        body: filterValues({ collections: [{ name: "Kiln", count: 3, kept: false }] }),
      },
      "GET /outgoing": { body: [pack] },
      ...more,
    });

  it("say what changed since the last, and can be taken", async () => {
    ask(INES, {});
    const { container } = shown(<PackOut />, "/catalogue/pack-out");
    expect((await screen.findByRole("link", { name: "Take Kiln pack" })).getAttribute("href")).toBe(
      "/api/outgoing/2/file",
    );
    expect(screen.getByText("Since the last: Ash: r1 → r2")).toBeTruthy();
    expect(await broken(container)).toEqual([]);
  });

  it("are stopped by rights, which a lead may set aside", async () => {
    const asked = ask(ODILE, {
      "POST /outgoing": (body) =>
        (body as { anyway: boolean }).anyway
          ? { status: 201, body: pack }
          : { status: 409, body: { message: "Ash: ask first.", detail: { held: ["Ash"] } } },
    });
    shown(<PackOut />, "/catalogue/pack-out?collection=Kiln");
    await userEvent.type(await screen.findByRole("textbox", { name: "Name of the pack" }), "Kiln pack");
    await userEvent.click(screen.getByRole("button", { name: "Pack" }));
    expect(await screen.findByText("Ash: ask first.")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Let them go out all the same" }));
    await waitFor(() =>
      expect(asked.filter((a) => a.what === "POST /outgoing").map((a) => a.body)).toEqual([
        { name: "Kiln pack", collections: ["Kiln"], kinds: ["cube"], grid: 33, anyway: false },
        { name: "Kiln pack", collections: ["Kiln"], kinds: ["cube"], grid: 33, anyway: true },
      ]),
    );
  });
});
