/**
 * The wall: what stands out, the trim that mends it, two shots beside each other, and another revision for
 * some of them.
 */
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { standing } from "../src/projects/plot";
import Wall from "../src/projects/wall";
import { broken, server, shown } from "./shown";
import { INES, KINDS, layer, NO_TRIM, project, revision, shot } from "./things";

const ASH = revision(10, "Ash");
const NEWER = revision(11, "Ash", { number: 2, look_id: 10 });
const usual = { skin: 50, grey: { red: 0, yellow: 0 }, tone: 50 };
const apart = [{ what: "skin", by: 12, text: "skin 12° yellower than its scene" }];
const wall = [
  {
    scene: 5,
    usual,
    shots: [1, 2, 3].map((id) => ({
      shot: id,
      reading: { ...usual, skin: id === 2 ? 62 : 50 },
      apart: id === 2 ? apart : [],
    })),
  },
];
const shots = [1, 2, 3].map((id) =>
  shot(id, `Head ${id}`, { scene: 5, layers: [layer(ASH)], given_by: "scene" }),
);
const body = project(shots, {
  scenes: [{ id: 5, name: "Heads", place: 1, puts: [{ revision: ASH, strength: 1 }] }],
});
const suggested = { trim: { ...NO_TRIM, temperature: -14 }, before: usual, after: usual, aim: usual };

const open = (at = "/projects/4/wall", more: Parameters<typeof server>[0] = {}) => {
  const asked = server({
    "GET /projects/4": { body },
    "GET /projects/4/wall": { body: wall },
    "GET /projects/4/offers": { body: [{ now: ASH, then: NEWER, shots: [1, 2, 3], words: [] }] },
    "GET /projects/4/shots/2/suggested": { body: suggested },
    "GET /projects/4/shots/1/suggested": { body: suggested },
    "GET /steps": { body: KINDS },
    "GET /session": { body: { person: INES } },
    ...more,
  });
  const view = shown(
    <Routes>
      <Route path="/projects/:id/wall" element={<Wall />} />
    </Routes>,
    at,
  );
  return { asked, ...view };
};

describe("where a shot stands", () => {
  const scene = wall[0]!;
  const on = (reading: object) => ({ shot: 1, reading: { ...usual, ...reading }, apart: [] });
  it("is a share of what is still even, hues by the shorter way round", () => {
    expect(standing(on({ tone: 62 }), scene, "tone")).toBeCloseTo(1);
    expect(standing(on({ grey: { red: 0, yellow: -4 } }), scene, "grey")).toBeCloseTo(-2);
    expect(standing(on({ skin: 57 }), scene, "skin")).toBeCloseTo(1);
    expect(standing(on({ skin: 355 }), { ...scene, usual: { ...usual, skin: 2 } }, "skin")).toBeCloseTo(-1);
    expect(standing(on({ skin: null }), scene, "skin")).toBeNull();
    expect(standing(on({ grey: null }), scene, "grey")).toBeNull();
  });
});

describe("the wall", () => {
  it("hangs all shots by scene and says what stands out", async () => {
    const { container } = open();
    expect(
      await screen.findByRole("button", { name: "2 Head 2: skin 12° yellower than its scene" }),
    ).toBeTruthy();
    expect(screen.getByText("1 to look at")).toBeTruthy();
    expect(screen.getByRole("region", { name: "Heads" })).toBeTruthy();
    expect(await broken(container)).toEqual([]);
  });

  it("goes to what is to be looked at by a key, and shows the trim that mends it before it is used", async () => {
    const { asked } = open(undefined, { "POST /projects/4/trim": { body } });
    await screen.findByText("1 to look at");
    await userEvent.keyboard("n");
    const closer = within(await screen.findByRole("region", { name: "2 Head 2, closer" }));
    expect(await closer.findByText("Shot 2: skin 12° yellower than its scene")).toBeTruthy();
    const seen = await closer.findByRole("img", { name: "Head 2 with the suggested trim" });
    expect(decodeURIComponent(seen.getAttribute("src") ?? "")).toContain('"temperature":-14');
    expect(asked.some((a) => a.what.startsWith("POST"))).toBe(false);
    await userEvent.click(closer.getByRole("button", { name: "Use this trim" }));
    await waitFor(() =>
      expect(asked.find((a) => a.what === "POST /projects/4/trim")?.body).toEqual({
        shots: [2],
        trim: suggested.trim,
        words: "Head 2 brought to its scene",
        seen: 0,
      }),
    );
  });

  it("takes what is meant for meant", async () => {
    const { asked } = open(undefined, { "PATCH /projects/4/shots/2": { body: shots[1] } });
    await userEvent.click(await screen.findByRole("button", { name: /^2 Head 2/ }));
    await userEvent.click(await screen.findByRole("button", { name: "It is meant so" }));
    await waitFor(() =>
      expect(asked.find((a) => a.what.startsWith("PATCH"))?.body).toEqual({ meant: ["skin"] }),
    );
  });

  it("puts two shots beside each other", async () => {
    open();
    await userEvent.click(await screen.findByRole("button", { name: "1 Head 1" }));
    await userEvent.click(await screen.findByRole("button", { name: "Beside ▾" }));
    await userEvent.click(await screen.findByRole("menuitem", { name: "3 Head 3" }));
    const both = within(await screen.findByRole("dialog"));
    expect(both.getByText("1 Head 1 and 3 Head 3")).toBeTruthy();
    await userEvent.click(both.getByRole("radio", { name: "Split" }));
    expect(both.getByRole("slider", { name: "Line between the shots" })).toBeTruthy();
    await userEvent.click(both.getByRole("radio", { name: "Beside" }));
    expect(both.getAllByRole("img")).toHaveLength(2);
  });
});

describe("another revision", () => {
  const more = {
    "GET /revisions/10": { body: ASH },
    "GET /revisions/11": { body: NEWER },
    "GET /looks/10/history": { body: [{ revision: NEWER }, { revision: ASH }] },
    "GET /projects/4/changed?now=10&then=11": {
      body: [
        { shot: 2, mean: 0.8, most: 3.2 },
        { shot: 1, mean: 0.4, most: 1.1 },
      ],
    },
    "POST /projects/4/roll-out": { body },
  };

  it("is seen on each shot with the biggest change first, and some of them go over", async () => {
    const { asked, container } = open("/projects/4/wall?now=10&then=11", more);
    const aside = within(await screen.findByRole("complementary", { name: "Another revision" }));
    const rows = await aside.findAllByRole("listitem");
    expect(rows.map((r) => r.textContent)).toEqual([
      "2 · Head 2ΔE 0.8, up to 3.2",
      "1 · Head 1ΔE 0.4, up to 1.1",
    ]);
    expect(aside.getByRole("img", { name: "Head 2, difference" }).getAttribute("src")).toContain(
      "/shots/2/apart?now=10&revision=11",
    );
    expect(await broken(container)).toEqual([]);
    await userEvent.click(aside.getByRole("checkbox", { name: /Head 1/ }));
    await userEvent.click(aside.getByRole("button", { name: "Accept 1 of 2" }));
    await waitFor(() =>
      expect(asked.find((a) => a.what === "POST /projects/4/roll-out")?.body).toEqual({
        now: 10,
        then: 11,
        shots: [2],
        seen: 0,
      }),
    );
    // Done: what else is newer is shown again.
    expect(await screen.findByRole("link", { name: "Look at the 3" })).toBeTruthy();
  });
});
