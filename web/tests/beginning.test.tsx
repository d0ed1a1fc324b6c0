/** Where a look has no step yet: what is offered, shown, and taken. And the way to the bench. */
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { Begin } from "../src/bench/begin";
import { PickList } from "../src/bench/kinds/picker";
import BenchDoor from "../src/bench/door";
import { undo, useBench } from "../src/bench/store";
import { useView, view } from "../src/bench/view";
import type { Encoding, Frame, Kind, Look, Step } from "../src/api/types";
import { record } from "./looks";
import { broken, server, shown } from "./shown";

const encoding = (key: string, referred: string) => ({ key, label: key, referred }) as Encoding;
const ENCODINGS = [encoding("bt709_display", "display"), encoding("film_log", "scene")];
const kind = (name: string, defaults: object) =>
  ({
    kind: name,
    title: name,
    summary: "",
    purpose: "tone",
    defaults: { kind: name, on: true, strength: 1, blend: "normal", label: "", ...defaults },
  }) as unknown as Kind;
const KINDS = [
  kind("scene_to_display", { to: "bt709_display" }),
  kind("look", { look: null, revision: null, name: "" }),
  kind("lut", { table: "" }),
];
const FRAME = {
  id: 1,
  name: "Clay heads",
  light: "",
  encoding: "bt709_display",
  width: 160,
  height: 90,
  version: "v",
} as unknown as Frame;
const step = (id: string, kind: string) =>
  ({ id, kind, on: true, strength: 1, blend: "normal", label: "" }) as unknown as Step;
const group = (name: string, ...steps: Step[]) => ({
  id: 0,
  kind: "group",
  name,
  note: `about ${name}`,
  owner: "",
  mine: false,
  shared: true,
  trace: {},
  content: { kind: "group", label: name, on: true, strength: 1, blend: "normal", steps },
});
const GROUPS = [
  group("Soft print", step("a", "curves")),
  group("Log to display", step("b", "scene_to_display")),
];
const CARD = {
  id: 7,
  name: "Ash",
  note: "",
  maker: "Ines",
  tags: [],
  revisions: 1,
  revision: { id: 12, number: 1, digest: "abcdefgh", status: "approved", look_name: "Ash" },
};
const RECIPE = {
  input: "film_log",
  output: "bt709_display",
  strength: 1,
  steps: [step("x", "scene_to_display"), step("y", "contrast")],
};

const answers = {
  "GET /steps": { body: KINDS },
  "GET /encodings": { body: ENCODINGS },
  "GET /luts": { body: [] },
  "GET /presets?kind=group&encoding=bt709_display": { body: GROUPS },
  "GET /catalogue?limit=200": { body: { cards: [CARD], total: 1, found: 0 } },
  "GET /revisions/12/recipe": { body: RECIPE },
  "POST /picture?width=160": { body: {} },
  // As the core begins looks: what renders scene light is of use to scene light alone.
  "POST /begun": (body: unknown) => {
    const { input, output, ways } = body as { input: string; output: string; ways: Step[][] };
    const renders = (steps: Step[]): boolean =>
      steps.some((s) => s.kind === "scene_to_display" || (s.kind === "group" && renders(s.steps)));
    const scene = input === "film_log";
    return {
      body: ways.map((steps) =>
        renders(steps)
          ? scene
            ? { input, output, steps }
            : null
          : { input, output, steps: scene ? [step("way", "scene_to_display"), ...steps] : steps },
      ),
    };
  },
};

const empty = (input: Look["input"] = "bt709_display"): Look => ({
  input,
  output: "bt709_display",
  steps: [],
});
const open = (draft: Look) => useBench.getState().open(record(1, draft));
const draft = () => useBench.getState().draft;

beforeEach(() => {
  localStorage.clear();
  view({ preview: null });
  vi.stubGlobal(
    "URL",
    Object.assign(URL, { createObjectURL: () => "blob:made", revokeObjectURL: () => undefined }),
  );
});

describe("what a look begins with", () => {
  it("is shown when one comes to it and taken with a press; one undo takes it back", async () => {
    server(answers);
    open({ ...empty(), strength: 0.5 });
    const { container } = shown(<Begin frame={FRAME} />);
    const offer = await screen.findByRole("option", { name: /Soft print/ });
    // It renders scene light, and this look takes in a display's.
    expect(screen.queryByRole("option", { name: /Log to display/ })).toBeNull();
    expect(await broken(container)).toEqual([]);
    await userEvent.hover(offer);
    expect(useView.getState().preview?.name).toBe("Soft print");
    expect(draft().steps).toEqual([]);
    await userEvent.click(offer);
    expect(useView.getState().preview).toBeNull();
    expect(draft().steps).toMatchObject([
      { kind: "group", label: "Soft print", steps: [{ kind: "curves" }] },
    ]);
    // What else the draft has stays.
    expect(draft().strength).toBe(0.5);
    expect(useBench.getState().chosen).toEqual(new Set([draft().steps[0]!.id]));
    undo();
    expect(draft().steps).toEqual([]);
  });

  it("is reached by keys", async () => {
    server(answers);
    open(empty("film_log"));
    shown(<Begin frame={FRAME} />);
    await screen.findByRole("option", { name: /Log to display/ });
    await userEvent.tab();
    expect(useView.getState().preview?.name).toBe("Soft print");
    await userEvent.keyboard("{ArrowRight}");
    expect(useView.getState().preview?.name).toBe("Log to display");
    await userEvent.keyboard("{Enter}");
    expect(draft().steps).toMatchObject([{ kind: "group", label: "Log to display" }]);
  });

  it("shows the frame as it comes in where nothing is pointed at and the ends differ", async () => {
    server(answers);
    open(empty("film_log"));
    const { unmount } = shown(<Begin frame={FRAME} />);
    await waitFor(() =>
      expect(useView.getState().preview).toMatchObject({
        name: "",
        look: { input: "film_log", output: "film_log", steps: [] },
      }),
    );
    unmount();
    expect(useView.getState().preview).toBeNull();
  });

  it("may be another look: its steps, or the look whole in one step", async () => {
    for (const whole of [false, true]) {
      server(answers);
      open(empty());
      const { unmount } = shown(<Begin frame={FRAME} />);
      await screen.findByText(/1 in the catalogue/);
      await userEvent.click(screen.getByRole("button", { name: "Begin with another look" }));
      const dialog = within(await screen.findByRole("dialog"));
      if (whole) await userEvent.click(dialog.getByRole("switch", { name: "Hold it whole, in one step" }));
      await userEvent.click(dialog.getByRole("option", { name: /Ash/ }));
      await waitFor(() => expect(draft().input).toBe("film_log"));
      if (whole)
        expect(draft().steps).toMatchObject([
          { kind: "look", revision: 12, name: "Ash r1", look: { input: "film_log" } },
        ]);
      else expect(draft().steps.map((s) => s.kind)).toEqual(["scene_to_display", "contrast"]);
      unmount();
    }
  });
});

describe("a list to choose from", () => {
  it("shows only what one points at now, however late the answers come", async () => {
    const answers: Record<string, (look: Look) => void> = {};
    const items = ["Ash", "Oxide"].map((name) => ({
      key: name,
      name,
      note: "",
      seen: () => new Promise<Look>((give) => (answers[name] = give)),
    }));
    const { unmount } = shown(<PickList label="Looks" items={items} onTake={vi.fn()} />);
    await userEvent.hover(screen.getByRole("option", { name: "Ash" }));
    await userEvent.hover(screen.getByRole("option", { name: "Oxide" }));
    answers.Oxide!(empty());
    await waitFor(() => expect(useView.getState().preview?.name).toBe("Oxide"));
    answers.Ash!(empty());
    await Promise.resolve();
    expect(useView.getState().preview?.name).toBe("Oxide");
    unmount();
    expect(useView.getState().preview).toBeNull();
  });
});

describe("a long list to choose from", () => {
  const names = ["Ash", "Cross bath", "Ember", "Late straw", "Oxide", "Plain print"];
  const items = names.map((name) => ({
    key: name,
    name,
    note: "33³",
    more: name === "Ash" ? "monochrome · ask first" : "warm · to anyone",
    picture: `/${name}.jpg`,
    seen: () => Promise.resolve(empty()),
  }));

  it("is searched by name, words and rights, and shown by the keys before it is taken", async () => {
    const take = vi.fn();
    const { container, unmount } = shown(<PickList label="Tables" items={items} onTake={take} />);
    const search = screen.getByRole("searchbox", { name: "Search Tables" });
    await waitFor(() => expect(document.activeElement).toBe(search));
    await userEvent.keyboard("{ArrowDown}{ArrowDown}");
    await waitFor(() => expect(useView.getState().preview?.name).toBe("Cross bath"));
    await userEvent.type(search, "ask first");
    expect(screen.getAllByRole("option").map((o) => o.textContent)).toEqual(["Ash33³monochrome · ask first"]);
    expect(await broken(container)).toEqual([]);
    await userEvent.keyboard("{ArrowDown}{Enter}");
    expect(take).toHaveBeenCalledWith("Ash");
    await userEvent.clear(search);
    await userEvent.type(search, "glaze");
    expect(screen.getByText("None fits.")).toBeTruthy();
    unmount();
  });
});

describe("the way to the bench", () => {
  const line = (id: number, name: string, mine: boolean, revision: number | null) => ({
    id,
    name,
    mine,
    revision,
    status: revision ? "approved" : "",
    draft_by: "Tomas Ferrow",
    draft_version: 3,
    draft_at: new Date().toISOString(),
    parent: null,
  });

  it("shows what one worked on last, then one's own, then the team's, on a frame", async () => {
    server({
      "GET /looks": {
        body: [line(4, "Ember", true, 2), line(5, "Slip", true, null), line(6, "Oxide", false, 1)],
      },
      "GET /frames": { body: [FRAME] },
    });
    const { container } = shown(<BenchDoor />);
    const links = await screen.findAllByRole("link", { name: /Ember|Slip|Oxide/ });
    expect(links.map((l) => l.getAttribute("href"))).toEqual(["/bench/4", "/bench/5", "/bench/6"]);
    expect(links[0]!.textContent).toContain("draft after r2, approved");
    expect(links[1]!.textContent).toContain("draft without a revision");
    expect(links[2]!.textContent).toContain("Tomas Ferrow");
    await waitFor(() =>
      expect(container.querySelector(".last img")?.getAttribute("src")).toBe(
        "/api/looks/4/still?frame=1&width=960&v=3-v",
      ),
    );
    expect(await broken(container)).toEqual([]);
  });

  it("says so where there is no look", async () => {
    server({ "GET /looks": { body: [] }, "GET /frames": { body: [] } });
    shown(<BenchDoor />);
    expect(await screen.findByText("No looks yet")).toBeTruthy();
  });
});
