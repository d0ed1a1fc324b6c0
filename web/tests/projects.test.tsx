/** Projects: shots by scene, the looks on them, trims, members, and the list. */
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes, useLocation } from "react-router";
import { beforeEach, describe, expect, it } from "vitest";
import ProjectScreen from "../src/projects/project";
import Projects from "../src/projects/projects";
import { broken, server, shown } from "./shown";
import { card, ENCODINGS, INES, KINDS, layer, NO_TRIM, ODILE, project, revision, shot } from "./things";

const ASH = revision(10, "Ash");
const READING = { skin: null, grey: { red: 0, yellow: 0.4 }, tone: 50 };
const asAnswers = (body: unknown, more: Parameters<typeof server>[0] = {}) =>
  server({
    "GET /projects/4": { body },
    "GET /projects/4/wall": { body: [] },
    "GET /projects/4/offers": { body: [] },
    "GET /encodings": { body: ENCODINGS },
    "GET /steps": { body: KINDS },
    "GET /session": { body: { person: INES } },
    "GET /people": {
      body: [
        { id: 1, name: "Ines Tallow", role: "Look designer" },
        { id: 2, name: "Odile Marl", role: "Lead" },
      ],
    },
    "GET /catalogue?limit=200": {
      body: {
        cards: [card(1, "Ash"), card(2, "Oxide", { revision: revision(20, "Oxide", { status: "retired" }) })],
        found: 2,
        total: 2,
      },
    },
    ...more,
  });
const open = () =>
  shown(
    <Routes>
      <Route path="/projects/:id" element={<ProjectScreen />} />
    </Routes>,
    "/projects/4",
  );
const done = (id: number, words: string) => ({
  id,
  kind: "assign",
  words,
  shots: [1],
  undone: false,
  made_by: "Ines Tallow",
  made_at: "2026-05-01T10:00:00Z",
});

beforeEach(() => localStorage.clear());

describe("a project", () => {
  it("shows every shot with its trim, its looks, where they come from, and both pictures", async () => {
    asAnswers(
      project(
        [
          shot(1, "Shelf", {
            scene: 5,
            layers: [layer(ASH, 0.7)],
            given_by: "scene",
            trim: { ...NO_TRIM, exposure: 0.5, temperature: -12 },
          }),
          shot(2, "Wheel", { cut: { clip: 3, name: "Fire", first: 44, last: 87, rate: "24/1" } }),
        ],
        { scenes: [{ id: 5, name: "Morning", place: 1, puts: [{ revision: ASH, strength: 0.7 }] }] },
      ),
    );
    const { container } = open();
    const shelf = within(await screen.findByRole("listitem", { name: "Shelf" }));
    await waitFor(() => expect(shelf.getByText("film log")).toBeTruthy());
    expect(shelf.getByText("trim +0.5 stops, cooler 12")).toBeTruthy();
    expect(shelf.getByText("r1 · 70 % · from the scene")).toBeTruthy();
    expect(shelf.getByRole("img", { name: "Shelf after" }).getAttribute("src")).toBe(
      "/api/projects/4/shots/1/still?width=320&v=s1",
    );
    const wheel = within(screen.getByRole("listitem", { name: "Wheel" }));
    expect(wheel.getByText(/44 frames/)).toBeTruthy();
    expect(wheel.getByRole("button", { name: "Trim Wheel, no look yet" })).toBeTruthy();
    expect(screen.getByText("2 shots · 1 look in use")).toBeTruthy();
    expect(screen.getByRole("list", { name: "Shots of Morning" })).toBeTruthy();
    expect(document.title).toBe("Kiln series · Saucer");
    expect(await broken(container)).toEqual([]);
  });

  it("says which shot stands out of its scene, and shows how even they are", async () => {
    const apart = [{ what: "tone", by: 20, text: "20 % lighter than its scene" }];
    asAnswers(project([shot(1, "Shelf"), shot(2, "Wheel"), shot(3, "Yard")]), {
      "GET /projects/4/wall": {
        body: [
          {
            scene: null,
            usual: READING,
            shots: [1, 2, 3].map((id) => ({
              shot: id,
              reading: { ...READING, tone: id === 3 ? 70 : 50 },
              apart: id === 3 ? apart : [],
            })),
          },
        ],
      },
    });
    open();
    expect(await screen.findByText("20 % lighter than its scene")).toBeTruthy();
    expect(screen.getByRole("img", { name: "tone of 3 shots; apart: Yard" })).toBeTruthy();
    expect(screen.getByRole("link", { name: "1 to look at on the wall" }).getAttribute("href")).toBe(
      "/projects/4/wall",
    );
  });

  it("tries a look on the chosen shots before it is put on them; a retired one is not offered", async () => {
    const asked = asAnswers(
      project([shot(1, "Shelf"), shot(2, "Wheel"), shot(3, "Yard")], { changes: [done(9, "x")] }),
      {
        "POST /projects/4/assign": { body: project([]) },
      },
    );
    open();
    await userEvent.click(await screen.findByRole("checkbox", { name: "Choose Shelf" }));
    await userEvent.click(screen.getByRole("checkbox", { name: "Choose Yard" }));
    expect(screen.getByText("2 chosen")).toBeTruthy();
    await userEvent.click(screen.getAllByRole("button", { name: "Put a look on" })[0]!);
    const sheet = within(await screen.findByRole("dialog"));
    expect(sheet.getByText("A look for 2 shots")).toBeTruthy();
    expect(sheet.queryByRole("option", { name: /Oxide/ })).toBeNull();
    await userEvent.click(await sheet.findByRole("option", { name: /Ash/ }));
    expect(sheet.getByRole("img", { name: "Shelf under Ash" }).getAttribute("src")).toContain(
      "/shots/1/trying?revision=10&strength=1&over=false",
    );
    expect(asked.some((a) => a.what.startsWith("POST"))).toBe(false);
    await userEvent.click(sheet.getByRole("radio", { name: "Over it" }));
    expect(sheet.getByRole("img", { name: "Shelf under Ash" }).getAttribute("src")).toContain("over=true");
    await userEvent.click(sheet.getByRole("button", { name: "Stack it" }));
    await waitFor(() =>
      expect(asked.find((a) => a.what === "POST /projects/4/assign")?.body).toEqual({
        shots: [1, 3],
        scenes: [],
        whole: false,
        how: "stack",
        layers: [{ revision: 10, strength: 1 }],
        seen: 9,
      }),
    );
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("says who was quicker, and keeps what is on the screen", async () => {
    asAnswers(
      project([shot(1, "Shelf", { layers: [layer(ASH)], given_by: "shot" })], {
        changes: [done(9, "Ash r1 on Shelf")],
      }),
      {
        "POST /projects/4/changes/9/undo": { status: 409, body: { message: "Tomas was quicker." } },
      },
    );
    open();
    await userEvent.click(await screen.findByRole("button", { name: "Undo: Ash r1 on Shelf" }));
    expect((await screen.findByText("Tomas was quicker.")).closest("[role=alert]")).toBeTruthy();
    expect(screen.getByRole("listitem", { name: "Shelf" })).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Dismiss" }));
    expect(screen.queryByText("Tomas was quicker.")).toBeNull();
  });

  it("gives the trim of one shot to others, or its balance alone", async () => {
    const trim = { ...NO_TRIM, temperature: 8, exposure: 0.3 };
    const asked = asAnswers(project([shot(1, "Shelf", { trim }), shot(2, "Wheel")]), {
      "POST /projects/4/trim": { body: project([]) },
    });
    open();
    await userEvent.click(await screen.findByRole("checkbox", { name: "Choose Shelf" }));
    await userEvent.click(screen.getByRole("button", { name: "Trim ▾" }));
    await userEvent.click(await screen.findByRole("menuitem", { name: "Copy from Shelf" }));
    await userEvent.click(screen.getByRole("checkbox", { name: "Choose Wheel" }));
    await userEvent.click(screen.getByRole("button", { name: "Trim ▾" }));
    await userEvent.click(await screen.findByRole("menuitem", { name: "Paste its balance alone" }));
    await waitFor(() =>
      expect(asked.find((a) => a.what === "POST /projects/4/trim")?.body).toEqual({
        shots: [1, 2],
        trim,
        parts: ["balance"],
        words: "balance of Shelf on 2",
        seen: 0,
      }),
    );
  });

  it("makes a scene of the chosen shots", async () => {
    const asked = asAnswers(project([shot(1, "Shelf"), shot(2, "Wheel")]), {
      "POST /projects/4/scenes": { status: 201, body: project([]) },
    });
    open();
    await userEvent.click(await screen.findByRole("checkbox", { name: "Choose all shots" }));
    await userEvent.click(screen.getByRole("button", { name: "Scene ▾" }));
    await userEvent.click(await screen.findByRole("menuitem", { name: "New scene …" }));
    await userEvent.type(await screen.findByRole("textbox", { name: "Name of the scene" }), "Morning");
    await userEvent.click(screen.getByRole("button", { name: "Keep" }));
    await waitFor(() =>
      expect(asked.find((a) => a.what === "POST /projects/4/scenes")?.body).toEqual({
        name: "Morning",
        shots: [1, 2],
      }),
    );
  });

  it("offers a newer revision, and stays where that is wished", async () => {
    const newer = revision(11, "Ash", { number: 2 });
    const asked = asAnswers(project([shot(1, "Shelf", { layers: [layer(ASH)] })]), {
      "GET /projects/4/offers": {
        body: [{ now: ASH, then: newer, shots: [1], words: ["contrast 1.2 → 1.4"] }],
      },
      "POST /projects/4/roll-out": { body: project([]) },
    });
    open();
    expect((await screen.findByRole("link", { name: "Look at the 1" })).getAttribute("href")).toBe(
      "/projects/4/wall?now=10&then=11",
    );
    expect(screen.getByText("contrast 1.2 → 1.4")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Stay on r1" }));
    await waitFor(() =>
      expect(asked.find((a) => a.what === "POST /projects/4/roll-out")?.body).toEqual({
        now: 10,
        then: 11,
        shots: [],
        seen: 0,
      }),
    );
  });

  it("names its members; only a lead changes them, and rules say how pictures are read", async () => {
    const rules = [{ by: "name" as const, pattern: "*_log*", encoding: "film_log" as const }];
    const asked = asAnswers(
      project([], { reading: rules, members: [{ id: 1, name: "Ines Tallow", role: "" }] }),
      {
        "GET /session": { body: { person: ODILE } },
        "PATCH /projects/4": { body: project([]) },
      },
    );
    open();
    await userEvent.click(await screen.findByRole("button", { name: "Members 1" }));
    const sheet = within(await screen.findByRole("dialog"));
    await userEvent.click(await sheet.findByRole("checkbox", { name: /Odile/ }));
    expect(sheet.getByText(/Everybody may look/)).toBeTruthy();
    await userEvent.click(sheet.getByRole("switch", { name: "Private" }));
    expect(sheet.getByText(/Its members and leads alone see it/)).toBeTruthy();
    expect(sheet.queryByText(/Everybody may look/)).toBeNull();
    await userEvent.click(sheet.getByRole("button", { name: "Keep" }));
    await waitFor(() =>
      expect(asked.find((a) => a.what === "PATCH /projects/4")?.body).toEqual({
        name: "Kiln series",
        note: "Six minutes.",
        reading: rules,
        members: [1, 2],
        private: true,
      }),
    );
  });
});

describe("all projects", () => {
  const Where = () => <p>at {useLocation().pathname}</p>;
  const list = () =>
    shown(
      <Routes>
        <Route path="/projects" element={<Projects />} />
        <Route path="*" element={<Where />} />
      </Routes>,
      "/projects",
    );

  it("are listed with a strip of their shots, what waits, and their last delivery; only a lead starts one", async () => {
    const line = {
      ...{ id: 4, name: "Kiln series", note: "", shots: 6, looks: 1, members: 2, private: true, last: null },
      strip: [{ id: 1, version: "a", part: { x: 0.5, y: 0.5 } }],
      waiting: "newer revisions for 3 shots",
      delivery: { number: 2, made_at: new Date().toISOString() },
    };
    server({ "GET /projects": { body: [line] }, "GET /session": { body: { person: INES } } });
    const { container } = list();
    const link = await screen.findByRole("link", { name: /Kiln series/ });
    expect(link.getAttribute("href")).toBe("/projects/4");
    expect(link.textContent).toContain("6 shots, 1 look in use, private, 2 members");
    expect(link.textContent).toContain("delivered as 2, just now · newer revisions for 3 shots");
    expect(container.querySelector("img[src^='/api/projects/4/shots/1/still']")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "New project" })).toBeNull();
    expect(await broken(container)).toEqual([]);
  });

  it("begin with one that a lead names", async () => {
    const asked = server({
      "GET /projects": { body: [] },
      "GET /session": { body: { person: ODILE } },
      "POST /projects": { status: 201, body: { id: 9 } },
    });
    list();
    expect(await screen.findByText(/Start one, add shots/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "New project" }));
    await userEvent.type(await screen.findByRole("textbox", { name: "Name" }), "Glaze tests");
    await userEvent.click(screen.getByRole("button", { name: "Start project" }));
    expect(await screen.findByText("at /projects/9")).toBeTruthy();
    expect(asked.find((a) => a.what === "POST /projects")?.body).toEqual({ name: "Glaze tests", note: "" });
  });
});
