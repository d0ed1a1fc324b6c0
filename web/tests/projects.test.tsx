/** Projects: shots, the looks on them, and deliveries. */
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes, useLocation } from "react-router";
import { beforeEach, describe, expect, it } from "vitest";
import ProjectScreen from "../src/projects/project";
import Projects from "../src/projects/projects";
import { broken, server, shown } from "./shown";
import { card, delivery, ENCODINGS, INES, KINDS, ODILE, project, revision, shot } from "./things";

const ASH = revision(10, "Ash");
const asAnswers = (body: unknown, more: Parameters<typeof server>[0] = {}) =>
  server({
    "GET /projects/4": { body },
    "GET /encodings": { body: ENCODINGS },
    "GET /steps": { body: KINDS },
    "GET /session": { body: { person: INES } },
    "GET /catalogue?limit=200": {
      body: {
        cards: [card(1, "Ash"), card(2, "Oxide", { revision: revision(20, "Oxide", { status: "retired" }) })],
        total: 2,
        tags: [],
        collections: [],
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

beforeEach(() => localStorage.clear());

describe("a project", () => {
  it("shows every shot with its trim, its look and both pictures", async () => {
    asAnswers(
      project([
        shot(1, "Shelf", { revision: ASH, strength: 0.7, trim: { exposure: 0.5, temperature: -12, tint: 0, contrast: 1 } }),
        shot(2, "Wheel"),
      ]),
    );
    const { container } = open();
    const shelf = within(await screen.findByRole("listitem", { name: "Shelf" }));
    await waitFor(() => expect(shelf.getByText("film log")).toBeTruthy());
    expect(shelf.getByText("trim +0.5 stops, cooler 12")).toBeTruthy();
    expect(shelf.getByText("r1 · strength 70 %")).toBeTruthy();
    expect(shelf.getByRole("img", { name: "Shelf after" }).getAttribute("src")).toMatch(
      /^\/api\/projects\/4\/shots\/1\/still\?width=320&v=/,
    );
    expect(within(screen.getByRole("listitem", { name: "Wheel" })).getByRole("button", { name: "Trim Wheel, no look yet" })).toBeTruthy();
    expect(screen.getByText("2 shots · 1 look in use")).toBeTruthy();
    expect(document.title).toBe("Kiln series · Saucer");
    expect(await broken(container)).toEqual([]);
  });

  it("puts a look on the chosen shots; a retired one is not offered", async () => {
    const asked = asAnswers(project([shot(1, "Shelf"), shot(2, "Wheel"), shot(3, "Yard")]), {
      "POST /projects/4/assign": { body: project([]) },
    });
    open();
    await userEvent.click(await screen.findByRole("checkbox", { name: "Choose Shelf" }));
    await userEvent.click(screen.getByRole("checkbox", { name: "Choose Yard" }));
    expect(screen.getByText("2 chosen")).toBeTruthy();
    await userEvent.click(screen.getAllByRole("button", { name: "Assign look" })[0]!);
    const sheet = within(await screen.findByRole("dialog"));
    expect(sheet.getByText("Assign a look to 2 shots")).toBeTruthy();
    expect(sheet.queryByRole("option", { name: /Oxide/ })).toBeNull();
    await userEvent.click(await sheet.findByRole("option", { name: /Ash/ }));
    await userEvent.click(sheet.getByRole("button", { name: /^Assign/ }));
    await waitFor(() =>
      expect(asked.find((a) => a.what === "POST /projects/4/assign")?.body).toEqual({ shots: [1, 3], revision: 10, strength: 1 }),
    );
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("says what a package will hold, and which shots it will not", async () => {
    const asked = asAnswers(
      project([shot(1, "Shelf", { revision: ASH }), shot(2, "Wheel", { revision: ASH, strength: 0.5 }), shot(3, "Yard")]),
      { "POST /projects/4/deliveries": { status: 201, body: {} } },
    );
    open();
    await userEvent.click(await screen.findByRole("button", { name: "Deliver" }));
    const sheet = within(await screen.findByRole("dialog"));
    expect(sheet.getByText(/^1 LUT, one for each look/)).toBeTruthy();
    expect(sheet.getByText(/^1 LUT for shots with a trim/)).toBeTruthy();
    expect(sheet.getByText(/^2 graded stills/)).toBeTruthy();
    expect(sheet.getByRole("alert").textContent).toBe("1 shot has no look and will not be in it.");
    await userEvent.click(sheet.getByRole("button", { name: "Make the package" }));
    await waitFor(() => expect(asked.some((a) => a.what === "POST /projects/4/deliveries")).toBe(true));
  });

  it("shows how far a delivery is, stops it, and says why one failed", async () => {
    const asked = asAnswers(
      project(
        [shot(1, "Shelf", { revision: ASH })],
        [
          delivery(3, "running", { done: 2, total: 8, doing: "still of shot 2" }),
          delivery(2, "failed", { reason: "The disk is full." }),
          delivery(1, "done", { ready: true }),
        ],
      ),
      { "POST /jobs/73/cancel": { body: {} } },
    );
    open();
    const bar = await screen.findByRole("progressbar", { name: "Delivery 3" });
    expect(bar.getAttribute("aria-valuenow")).toBe("2");
    expect(screen.getByText("still of shot 2 · 2 of 8")).toBeTruthy();
    expect(screen.getByText("failed: The disk is full.")).toBeTruthy();
    expect(screen.getByRole("link", { name: "Download ZIP" }).getAttribute("href")).toBe("/api/projects/4/deliveries/1/file");
    expect(screen.getByRole("button", { name: "Deliver" })).toHaveProperty("disabled", true);
    await userEvent.click(screen.getByRole("button", { name: "Stop" }));
    await waitFor(() => expect(asked.some((a) => a.what === "POST /jobs/73/cancel")).toBe(true));
  });

  it("keeps what is on the screen where a wish was refused, and says why", async () => {
    asAnswers(project([shot(1, "Shelf", { revision: ASH })]), {
      "POST /projects/4/deliveries": { status: 409, body: { message: "No shot has a look yet." } },
    });
    open();
    await userEvent.click(await screen.findByRole("button", { name: "Deliver" }));
    await userEvent.click(within(await screen.findByRole("dialog")).getByRole("button", { name: "Make the package" }));
    expect((await screen.findByText("No shot has a look yet.")).closest("[role=alert]")).toBeTruthy();
    expect(screen.getByRole("listitem", { name: "Shelf" })).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Dismiss" }));
    expect(screen.queryByText("No shot has a look yet.")).toBeNull();
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

  it("are listed with their frames; only a lead starts one", async () => {
    server({
      "GET /projects": { body: [{ id: 4, name: "Kiln series", note: "", shots: 6, looks: 1, frames: [1, 2] }] },
      "GET /session": { body: { person: INES } },
    });
    const { container } = list();
    const link = await screen.findByRole("link", { name: /Kiln series/ });
    expect(link.getAttribute("href")).toBe("/projects/4");
    expect(link.textContent).toContain("6 shots, 1 look in use");
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
