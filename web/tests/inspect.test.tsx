/** The inspector, a table taken apart, and a look from a pair. */
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import type { CloudPoints, Compared, Inspection, Unbaking } from "../src/api/types";
import PairPage from "../src/catalogue/pair";
import Inspector from "../src/inspect/inspect";
import { placed } from "../src/inspect/scene";
import { differenceOf, inspectorOf, stillOf, subjectOf } from "../src/inspect/subject";
import { broken, server, shown } from "./shown";
import { ENCODINGS, frame, INES } from "./things";

const FOUND: Inspection = {
  ...{
    name: "Copper red",
    origin: "kiln.zip",
    rights: "ask first",
    words: ["warm", "saturated"],
    expects: "BT.709 display",
  },
  ...{ gives: "BT.709 display", said: [["file", "copper_red.cube"]] },
  condition: [
    {
      key: "clips",
      words: "clips, most in red",
      value: "4% of colours",
      doubtful: true,
      places: [[0.5, 0.1, 0.1, 0.6, 0.2, 0.1]],
    },
    { key: "order", words: "tones in order", value: "yes", doubtful: false, places: [] },
  ],
  greys: { x: [0, 1], red: [0, 0.99], green: [0.02, 0.97], blue: [0.07, 0.83] },
  disc: { light: 0.66, turned: ["green", 12.4], skin: -8.2, arrows: [[0.05, 0, 0.06, 0.02, "#aa8866"]] },
  nearest: [{ look: 4, name: "Oxide", apart: 6.8 }],
};
const CLOUD: CloudPoints = {
  side: 1,
  before: [0.5, 0, 0],
  after: [0.6, 0, 0],
  before_rgb: [9, 9, 9],
  after_rgb: [9, 9, 9],
  delta: [7],
  edges: [],
};
const job = (state: string, done = 0): Unbaking["job"] => ({
  ...{
    id: 3,
    kind: "unbaking",
    title: "",
    state,
    done,
    total: 100,
    doing: "step 2, ΔE 1.20 left",
    reason: "",
    asked_at: "",
    ahead: 0,
  },
});
const STAGE = {
  steps: 1,
  cube: [0.27, 1, 1.9] as [number, number, number],
  ordinary: [0.17, 1, 1.2] as [number, number, number],
};
const APART: Unbaking = {
  ...{ id: 5, name: "Copper red", job: job("done", 100) },
  found: {
    steps: [
      { kind: "levels", title: "Levels", words: "gamma 1.22", share: 0.6 },
      { kind: "curves", title: "Curves", words: "red 4 points", share: 0.37 },
    ],
    ...{
      stages: [STAGE],
      with_rest: { ...STAGE, cube: [0.01, 0.1, 0.3], ordinary: [0.01, 0.1, 0.2] },
      rest_behind: false,
    },
  },
};

function page(at: string, more: Parameters<typeof server>[0] = {}) {
  const asked = server({
    "GET /session": { body: { person: INES } },
    "GET /frames": { body: [frame(1, { name: "Clay heads" })] },
    "GET /luts": { body: [{ id: 2, name: "Second firing" }] },
    "GET /catalogue?limit=200": { body: { cards: [], total: 0, found: 0 } },
    "GET /inspect/lut/7": { body: FOUND },
    "GET /inspect/lut/2": { body: { ...FOUND, name: "Second firing" } },
    "GET /inspect/lut/7/cloud": { body: CLOUD },
    "GET /inspect/lut/7/cloud?other=lut&other_key=2": { body: CLOUD },
    "GET /inspect/lut/7/slices?by=blue": { body: { picture: "data:,blue", means: [9, 9, 8, 9, 12, 14] } },
    "GET /inspect/lut/7/slices?by=red": { body: { picture: "data:,red", means: [1, 2, 3, 4, 5, 6] } },
    ...more,
  });
  const view = shown(
    <Routes>
      <Route path="/catalogue/inspect/:kind/:key" element={<Inspector />} />
      <Route path="/bench/:id" element={<p>the bench</p>} />
    </Routes>,
    at,
  );
  return { asked, view };
}

describe("what is inspected", () => {
  it("is named by its address", () => {
    expect(subjectOf("lut", "7")).toEqual({ kind: "lut", key: 7 });
    expect([
      subjectOf("frame", "7"),
      subjectOf("lut", "x"),
      subjectOf("lut", "-1"),
      subjectOf(undefined, undefined),
    ]).toEqual([null, null, null, null]);
    expect(inspectorOf({ kind: "item", key: 3 }, { kind: "look", key: 4 })).toBe(
      "/catalogue/inspect/item/3?with=look/4",
    );
    expect(stillOf({ kind: "lut", key: 7 }, 1, 320)).toBe("/api/inspect/lut/7/still?frame=1&width=320");
    expect(differenceOf({ kind: "lut", key: 7 }, { kind: "look", key: 4 }, 1, 320)).toContain(
      "&other=look&other_key=4",
    );
  });
  it("stands in the room with its lightness up", () => {
    const at = placed([0.5, 0.1, 0.2], new Float32Array(3), 1);
    expect(at[1]).toBeCloseTo(0.5);
    expect(Math.sign(at[0]!)).toBe(1);
    expect(Math.sign(at[2]!)).toBe(-1);
  });
});

describe("the inspector", () => {
  it("tells what the file says, its health, and where greys and hues go", async () => {
    const { view } = page("/catalogue/inspect/lut/7");
    expect(await screen.findByText("copper_red.cube")).toBeTruthy();
    expect(screen.getByText("most turned: green +12°")).toBeTruthy();
    expect(screen.getByText("skin −8°")).toBeTruthy();
    expect(screen.getByText("blue").parentElement?.textContent).toBe("blue7 to 83 %");
    expect(screen.getByRole("link", { name: /Oxide/ }).getAttribute("href")).toBe(
      "/catalogue/inspect/look/4",
    );
    // jsdom has no WebGL: the page says so, and shows the rest.
    expect(await screen.findByText(/draws nothing in three dimensions/)).toBeTruthy();
    expect(await broken(view.container)).toEqual([]);
  });

  it("marks where a point of its health shows; one without places cannot be pressed", async () => {
    page("/catalogue/inspect/lut/7");
    const clips = await screen.findByRole("button", { name: /clips, most in red/ });
    await userEvent.click(clips);
    expect(clips.getAttribute("aria-pressed")).toBe("true");
    expect(screen.getByText("Marked in the cloud.")).toBeTruthy();
    expect(screen.getByRole("button", { name: /tones in order/ })).toHaveProperty("disabled", true);
  });

  it("cuts the other way where it is asked to", async () => {
    page("/catalogue/inspect/lut/7");
    expect((await screen.findByAltText("Six slices of the cube by blue")).getAttribute("src")).toBe(
      "data:,blue",
    );
    await userEvent.click(screen.getByRole("radio", { name: "by red" }));
    await waitFor(() =>
      expect(screen.getByAltText("Six slices of the cube by red").getAttribute("src")).toBe("data:,red"),
    );
  });

  it("holds two against each other", async () => {
    page("/catalogue/inspect/lut/7?with=lut/2");
    expect((await screen.findByAltText("Clay heads, Second firing")).getAttribute("src")).toContain(
      "/api/inspect/lut/2/still",
    );
    expect(screen.getByAltText(/How far apart they are/).getAttribute("src")).toContain(
      "other=lut&other_key=2",
    );
    expect(screen.getByRole("radio", { name: "Second firing" })).toBeTruthy();
  });

  it("takes it apart, shows what that leaves, and opens it on the bench", async () => {
    let now: Unbaking = { ...APART, job: job("running", 40), found: null };
    const { asked } = page("/catalogue/inspect/lut/7", {
      "POST /inspect/lut/7/unbake": () => ({ status: 201, body: now }),
      "GET /unbakings/5": () => ({ body: now }),
      "POST /unbakings/5/keep": { status: 201, body: { id: 12, name: "Copper red" } },
    });
    await userEvent.click(await screen.findByRole("button", { name: "Find the steps" }));
    expect(await screen.findByText("step 2, ΔE 1.20 left")).toBeTruthy();
    now = APART;
    expect(await screen.findByText("gamma 1.22")).toBeTruthy();
    const steps = within(screen.getByRole("region", { name: "Make it editable" })).getAllByRole("listitem");
    expect(steps.map((s) => s.textContent)).toEqual([
      "1Levelsgamma 1.2260 %",
      "2Curvesred 4 points37 %",
      "Rest, kept as a tablebefore the steps; without it mean ΔE 0.27, largest 1.93 %",
    ]);
    await userEvent.click(screen.getByRole("switch", { name: "with the rest" }));
    expect(screen.getByText("ΔE 0.17")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Open on the bench" }));
    expect(await screen.findByText("the bench")).toBeTruthy();
    expect(asked.find((a) => a.what === "POST /unbakings/5/keep")?.body).toEqual({
      name: "Copper red",
      rest: false,
    });
  });

  it("keeps a LUT as one table where somebody wants no steps", async () => {
    page("/catalogue/inspect/lut/7", {
      "POST /inspect/lut/7/keep": { status: 201, body: { id: 12, name: "Copper red" } },
    });
    await userEvent.click(await screen.findByRole("button", { name: "Keep as one table" }));
    expect(await screen.findByText("the bench")).toBeTruthy();
  });

  it("says where there is nothing", async () => {
    page("/catalogue/inspect/frame/1");
    expect(await screen.findByText("Nothing to inspect here")).toBeTruthy();
  });
});

describe("a pair", () => {
  const DATA = "data:image/jpeg;base64,/9j/";
  const compared: Compared = {
    ...{
      share: 0.89,
      change: 16.8,
      left: 1.78,
      shift: [2.9, 2],
      scale: 1,
      seen: 0.01,
      guesses: 0.4,
      saucer: DATA,
    },
    findings: [
      { kind: "vignette", amount: 0.17, words: "a vignette: the corners are darker by 17% of the light" },
    ],
    ...{ before: `${DATA}1`, after: `${DATA}2`, made: `${DATA}3`, unexplained: `${DATA}4` },
    ...{
      frame_before: `${DATA}5`,
      frame_after: `${DATA}6`,
      frame_guessed: `${DATA}7`,
      cube_guessed: `${DATA}8`,
    },
  };
  const pair = (more: Parameters<typeof server>[0] = {}) => {
    const asked = server({
      "GET /session": { body: { person: INES } },
      "GET /encodings": { body: ENCODINGS.map((e) => ({ ...e, offered: true })) },
      "GET /frames": { body: [frame(1)] },
      "POST /carriers/pair": { body: compared },
      ...more,
    });
    const view = shown(
      <Routes>
        <Route path="/" element={<PairPage />} />
        <Route path="/bench/:id" element={<p>the bench</p>} />
      </Routes>,
    );
    return { asked, view };
  };
  const bring = async () => {
    const [before, after] = document.querySelectorAll<HTMLInputElement>("input[type=file]");
    await userEvent.upload(before!, new File(["x"], "heads.png"));
    await userEvent.upload(after!, new File(["y"], "heads_treated.png"));
  };

  it("says which share a look explains and what it cannot be, and becomes a look", async () => {
    const { asked, view } = pair({
      "POST /carriers/pair/keep": { status: 201, body: { id: 9, name: "heads treated" } },
    });
    await bring();
    expect(await screen.findByText("A look explains 89 % of the change")).toBeTruthy();
    expect(
      screen.getByText("A vignette: the corners are darker by 17% of the light. It stays out."),
    ).toBeTruthy();
    expect(screen.getByText(/2\.9 and 2\.0 pixels off/)).toBeTruthy();
    expect(screen.getByText(/On 40 % of this frame it guesses/)).toBeTruthy();
    await userEvent.click(screen.getByRole("radio", { name: "What no look explains" }));
    expect(screen.getByAltText("What no look explains").getAttribute("src")).toBe(`${DATA}4`);
    expect(await broken(view.container)).toEqual([]);
    await userEvent.type(screen.getByRole("textbox", { name: "Where it comes from" }), "a friend");
    await userEvent.click(screen.getByRole("button", { name: "Make a look of it" }));
    expect(await screen.findByText("the bench")).toBeTruthy();
    expect(asked.filter((a) => a.what.includes("pair")).map((a) => a.what)).toEqual([
      "POST /carriers/pair",
      "POST /carriers/pair/keep",
    ]);
  });

  it("of different pictures says so", async () => {
    pair({ "POST /carriers/pair": { status: 422, body: { message: "These are not the same picture." } } });
    await bring();
    expect((await screen.findByRole("alert")).textContent).toBe("These are not the same picture.");
  });
});
