/** The page of a look: revisions held against each other, notes on spots, reviews, what is like it. */
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import type { Me, Note, Review } from "../src/api/types";
import LookPage from "../src/look/look";
import { look, record } from "./looks";
import { broken, server, shown } from "./shown";
import { card, ENCODINGS, frame, INES, filterValues, ODILE, revision, SCALES } from "./things";

const R1 = revision(11, "Slip", { look_id: 5, number: 1, status: "draft" });
const R2 = revision(12, "Slip", { look_id: 5, number: 2, status: "in review" });
const change = (text: string) => ({ what: "changed" as const, step: "a", text });
const HISTORY = [
  { revision: R2, since: { changes: [change("Exposure: stops 0 → 1")], mean: 1.14, largest: 4.31 } },
  { revision: R1, since: null },
];
const note = (id: number, more: Partial<Note> = {}): Note => ({
  ...{ id, text: "Leans red.", by: "Tomas Ferrow", mine: false, at: "2026-05-02T10:00:00Z", revision: 1 },
  ...{ frame: 1, x: 0.25, y: 0.5, settled_by: null, replies: [] },
  ...more,
});
const review = (more: Partial<Review> = {}): Review => ({
  ...{
    id: 9,
    revision: R2,
    asked_by: "Ines Tallow",
    asked_of: "Odile Marl",
    mine: true,
    own: false,
    asked_at: "2026-05-02T10:00:00Z",
  },
  ...{ due: null, words: "Skin?", stand: "open", answer: "", answered_by: null, answered_at: null },
  ...more,
});

function page(person: Me, more: Parameters<typeof server>[0] = {}) {
  const asked = server({
    "GET /session": { body: { person } },
    "GET /waiting": { body: { asked: [], answered: [] } },
    "GET /encodings": { body: ENCODINGS },
    "GET /frames": { body: [frame(1, { name: "Clay heads" }), frame(2, { name: "Yard" })] },
    "GET /looks/5": { body: { ...record(5, look()), rights: "inside the studio", origin: "" } },
    "GET /looks/5/history": { body: HISTORY },
    "GET /looks/5/notes": { body: [] },
    "GET /looks/5/reviews": { body: [] },
    "GET /looks/5/bakes": { body: [] },
    "GET /projects/using/5": {
      body: [
        {
          project: 3,
          name: "Episode two",
          revision: 1,
          shots: 4,
          names: ["1 Shelf", "2 Wheel", "3 Yard", "4 Jar"],
        },
      ],
    },
    "GET /catalogue/cards?look=5": {
      body: [
        card(5, "Slip", { words: ["warm", "soft"], tags: ["dusk"], traits: { warmth: 12, contrast: 0.9 } }),
      ],
    },
    "GET /catalogue/filters": { body: filterValues() },
    "GET /catalogue/scales": { body: SCALES },
    "GET /catalogue/5/like?count=8": {
      body: [{ card: card(7, "Straw"), mean: 3.46, largest: 9, twin: false }],
    },
    "POST /catalogue/5/visit": { body: null },
    ...more,
  });
  const drawn = shown(
    <Routes>
      <Route path="/catalogue/look/:id" element={<LookPage />} />
    </Routes>,
    "/catalogue/look/5",
  );
  return { asked, ...drawn };
}

describe("the page of a look", () => {
  it("shows what it does, how it came to be, and where it is used", async () => {
    const { container } = page(INES);
    expect(await screen.findByRole("heading", { name: "Slip", level: 1 })).toBeTruthy();
    expect(
      (await screen.findByRole("img", { name: "Clay heads under revision 2" })).getAttribute("src"),
    ).toContain("/api/revisions/12/still?frame=1");
    expect(screen.getByText("warm, soft")).toBeTruthy();
    expect(screen.getByText("+12")).toBeTruthy();
    expect(screen.getByText("0.90 ×")).toBeTruthy();
    expect(screen.getByText("ΔE mean 1.1, largest 4.3")).toBeTruthy();
    expect(screen.getByText("4 shots on r1: 1 Shelf, 2 Wheel, 3 Yard …")).toBeTruthy();
    expect(screen.getByText("inside the studio")).toBeTruthy();
    expect(await screen.findByText("ΔE 3.5")).toBeTruthy();
    expect(await broken(container)).toEqual([]);
  });

  it("holds two revisions against each other: in words, split, and as a picture of the difference", async () => {
    page(INES, {
      "GET /revisions/12/since/11": {
        body: { changes: [change("Exposure: stops 0 → 1")], mean: 1.14, largest: 4.31 },
      },
    });
    await userEvent.click(await screen.findByRole("button", { name: /Held against/ }));
    await userEvent.click(await screen.findByRole("option", { name: "r1" }));
    expect(await screen.findByRole("img", { name: "the same under revision 1" })).toBeTruthy();
    expect(
      within(await screen.findByRole("region", { name: "What changed" })).getByText("Exposure: stops 0 → 1"),
    ).toBeTruthy();
    await userEvent.keyboard("4");
    const picture = await screen.findByRole("img", {
      name: /^What differs on Clay heads between revision 1 and 2/,
    });
    expect(picture.getAttribute("src")).toContain("/api/revisions/12/against/11?frame=1");
    await userEvent.keyboard("1");
    expect(await screen.findByRole("img", { name: "Clay heads, original" })).toBeTruthy();
  });

  it("pins a note to a spot by keys, and shows whose it is on which revision", async () => {
    let notes = [note(1), note(2, { frame: 2, text: "One blue now.", settled_by: "Odile Marl" })];
    const { asked } = page(INES, {
      "GET /looks/5/notes": () => ({ body: notes }),
      "POST /looks/5/notes": (body) => {
        notes = [...notes, note(3, body as Partial<Note>)];
        return { status: 201, body: notes[2] };
      },
    });
    expect(await screen.findByRole("button", { name: "Note 1 by Tomas Ferrow: Leans red." })).toBeTruthy();
    expect(screen.queryByRole("button", { name: /^Note 2 by/ })).toBeNull();
    expect(screen.getByText("2, 1 open")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Show note 2" }));
    expect(await screen.findByRole("button", { name: /^Note 2 by/ })).toBeTruthy();
    await userEvent.keyboard(",");
    await userEvent.click(screen.getByRole("button", { name: "Pin a note" }));
    (await screen.findByRole("application", { name: /Where the note goes/ })).focus();
    await userEvent.keyboard("{ArrowRight}{ArrowUp}{Enter}");
    await userEvent.type(
      await screen.findByRole("textbox", { name: "Note on a spot of Clay heads" }),
      "Cap clips",
    );
    await userEvent.click(screen.getByRole("button", { name: "Keep" }));
    await waitFor(() =>
      expect(asked.find((a) => a.what === "POST /looks/5/notes")?.body).toEqual({
        revision: 12,
        text: "Cap clips",
        frame: 1,
        x: 0.52,
        y: 0.48,
      }),
    );
    expect(await screen.findByRole("button", { name: /^Note 3 by/ })).toBeTruthy();
  });

  it("lets a lead approve, or send back with a reason", async () => {
    const { asked } = page(ODILE, {
      "GET /looks/5/reviews": { body: [review()] },
      "POST /reviews/9/answer": { status: 409, body: { message: "Bruno was quicker." } },
    });
    expect(await screen.findByText(/r2 is asked of you/)).toBeTruthy();
    expect(screen.getByText("Ines Tallow asks Odile Marl: Skin?")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Send back" }));
    const sheet = await screen.findByRole("dialog", { name: "Send r2 back" });
    expect(within(sheet).getByRole("button", { name: "Send back" }).hasAttribute("disabled")).toBe(true);
    await userEvent.type(within(sheet).getByRole("textbox"), "Too red");
    await userEvent.click(within(sheet).getByRole("button", { name: "Send back" }));
    expect(await within(sheet).findByText("Bruno was quicker.")).toBeTruthy();
    expect(asked.find((a) => a.what === "POST /reviews/9/answer")?.body).toEqual({
      approve: false,
      words: "Too red",
    });
  });

  it("lets a designer ask, and not decide", async () => {
    const { asked } = page(INES, {
      "GET /deciders": { body: [{ id: 4, name: "Odile Marl" }] },
      "POST /revisions/12/reviews": { status: 201, body: review() },
    });
    await userEvent.click(await screen.findByRole("button", { name: "Ask for a review" }));
    const sheet = await screen.findByRole("dialog", { name: "Ask for a review of r2" });
    await userEvent.type(within(sheet).getByRole("textbox", { name: "What to look at" }), "Skin?");
    await userEvent.click(within(sheet).getByRole("button", { name: "Ask" }));
    await waitFor(() =>
      expect(asked.find((a) => a.what === "POST /revisions/12/reviews")?.body).toEqual({
        of: 4,
        due: null,
        words: "Skin?",
      }),
    );
    expect(screen.queryByRole("button", { name: /^Approve/ })).toBeNull();
  });

  it("finds what is like it but cooler: one side of a trait at a time", async () => {
    page(INES, {
      "GET /catalogue/5/like?but=warmth%3Aless&count=8": {
        body: [{ card: card(8, "North"), mean: 6, largest: 12, twin: false }],
      },
      "GET /catalogue/5/like?but=warmth%3Amore&count=8": { body: [] },
    });
    const similar = await screen.findByRole("region", { name: "Similar looks" });
    await userEvent.click(await within(similar).findByRole("button", { name: "cooler" }));
    expect(await within(similar).findByText("North")).toBeTruthy();
    await userEvent.click(within(similar).getByRole("button", { name: "warmer" }));
    expect(await within(similar).findByText("No other look is.")).toBeTruthy();
    expect(within(similar).getByRole("button", { name: "cooler" }).getAttribute("aria-pressed")).toBe(
      "false",
    );
  });

  it("says so where a look has no revision yet, or is not there", async () => {
    page(INES, { "GET /looks/5/history": { body: [] }, "GET /catalogue/cards?look=5": { body: [] } });
    expect(await screen.findByText(/Slip has no revision yet/)).toBeTruthy();
  });
});

describe("a variation", () => {
  it("begins as the revision that is shown, not only as the newest one", async () => {
    const { asked } = page(INES, {
      "GET /catalogue?limit=200": { body: { cards: [], found: 0, total: 0 } },
      "GET /revisions/11/recipe": { body: look() },
      "POST /looks/5/variations": { status: 409, body: { message: "A look of that name is there." } },
    });
    await userEvent.click(await screen.findByRole("option", { name: /^r1/ }));
    await userEvent.click(screen.getByRole("button", { name: "Variation" }));
    const sheet = await screen.findByRole("dialog", { name: "A variation" });
    expect(within(sheet).getByText("A variation of Slip r1.")).toBeTruthy();
    await userEvent.type(within(sheet).getByRole("textbox", { name: "Name" }), "Night slip");
    await userEvent.click(within(sheet).getByRole("button", { name: "Start" }));
    expect(await within(sheet).findByText("A look of that name is there.")).toBeTruthy();
    expect(asked.find((a) => a.what === "POST /looks/5/variations")?.body).toEqual({
      name: "Night slip",
      draft: look(),
    });
  });
});
