/**
 * Files that come in and go out: recipes where looks are started, presets at a step, finished pictures on the
 * bake page.
 */
import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { beforeEach, describe, expect, it } from "vitest";
import type { Preset } from "../src/api/types";
import { Finished } from "../src/bake/finished";
import { Presets } from "../src/bench/presets";
import { useBench } from "../src/bench/store";
import { NewLook } from "../src/catalogue/newlook";
import { exposure, look, record } from "./looks";
import { broken, server, shown } from "./shown";
import { ENCODINGS, frame } from "./things";

const file = (name: string) => new File(["{}"], name, { type: "application/json" });
const put = (it: File) => userEvent.upload(document.querySelector<HTMLInputElement>("input[type=file]")!, it);

describe("a recipe that is brought in", () => {
  const start = (answer: { status?: number; body: unknown }) => {
    server({
      "GET /encodings": { body: ENCODINGS },
      "GET /catalogue?limit=200": { body: { cards: [], total: 0, found: 0 } },
      "POST /looks/recipe": answer,
    });
    shown(
      <Routes>
        <Route path="/" element={<NewLook onClose={() => undefined} />} />
        <Route path="/bench/:id" element={<p>the bench</p>} />
      </Routes>,
    );
  };

  it("opens on the bench at once where nothing else is to be said", async () => {
    start({ status: 201, body: { id: 8, name: "Night shed", said: [] } });
    await screen.findByRole("dialog", { name: "New look" });
    await put(file("night.saucer.json"));
    expect(await screen.findByText("the bench")).toBeTruthy();
  });

  it("says first what it brought along", async () => {
    start({
      status: 201,
      body: { id: 8, name: "Night shed", said: ["It brought the LUT “Second firing”."] },
    });
    await screen.findByRole("dialog", { name: "New look" });
    await put(file("night.saucer.json"));
    expect(await screen.findByRole("dialog", { name: "“Night shed” is here" })).toBeTruthy();
    expect(screen.getByText("It brought the LUT “Second firing”.")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Open it" }));
    expect(screen.getByText("the bench")).toBeTruthy();
  });

  it("that is damaged says what is wrong with it", async () => {
    start({ status: 422, body: { message: "night.saucer.json: is not JSON" } });
    await screen.findByRole("dialog", { name: "New look" });
    await put(file("night.saucer.json"));
    expect((await screen.findByRole("alert")).textContent).toBe("night.saucer.json: is not JSON");
  });
});

describe("presets as files", () => {
  const MINE = {
    id: 5,
    kind: "exposure",
    name: "Half up",
    note: "",
    content: {},
    owner: "Ines",
    shared: false,
    mine: true,
    trace: {},
  } as Preset;
  beforeEach(() => useBench.getState().open(record(4, look(exposure("a", 1)))));
  const list = async (more: Parameters<typeof server>[0] = {}) => {
    server({ "GET /presets?kind=exposure&encoding=bt709_display": { body: [MINE] }, ...more });
    shown(<Presets id="a" kind="exposure" encoding="bt709_display" readOnly={false} />);
    await userEvent.click(await screen.findByRole("button", { name: "All 1 presets" }));
  };

  it("go out by a link of their own", async () => {
    await list();
    expect(screen.getByRole("link", { name: "Take the preset Half up as a file" }).getAttribute("href")).toBe(
      "/api/presets/5/file",
    );
    expect(await broken(screen.getByRole("dialog", { name: "Presets" }))).toEqual([]);
  });

  it("come in with what they borrow, also for another kind of step", async () => {
    await list({
      "POST /presets/file": {
        status: 201,
        body: { id: 9, name: "Night", kind: "zone_tint", said: ["It brought the LUT “A”."] },
      },
    });
    await put(file("night.saucer.json"));
    expect((await screen.findByRole("status")).textContent).toBe(
      "“Night” is kept, for zone tint. It brought the LUT “A”.",
    );
  });

  it("are removed, or stay with a reason", async () => {
    await list({
      "DELETE /presets/5": {
        status: 403,
        body: { message: "Only who keeps this preset, or a lead, can remove it." },
      },
    });
    await userEvent.click(screen.getByRole("button", { name: "Move the preset Half up to the bin" }));
    expect((await screen.findByRole("alert")).textContent).toContain("Only who keeps this preset");
  });
});

describe("finished pictures", () => {
  const KINDS = [
    { key: "png16", label: "PNG, 16 bit", suffix: ".png", depth: "uint16" },
    { key: "exr_half", label: "EXR, half float", suffix: ".exr", depth: "half" },
  ];
  it("are fetched for each frame, in the kind that is chosen, with the finish or without", async () => {
    server({ "GET /finished-kinds": { body: KINDS } });
    const { container } = shown(
      <Finished id={4} revision={12} frames={[frame(1), frame(2)]} output="BT.709 display" finish />,
    );
    const links = () => screen.getAllByRole("link").map((a) => a.getAttribute("href"));
    await waitFor(() =>
      expect(screen.getByRole("button", { name: /File/ }).textContent).toContain("PNG, 16 bit"),
    );
    expect(links()[0]).toBe("/api/looks/4/finished/1?revision=12&kind=png16&finish=true");
    await userEvent.click(screen.getByRole("button", { name: /File/ }));
    await userEvent.click(screen.getByRole("option", { name: "EXR, half float" }));
    await userEvent.click(screen.getByRole("switch", { name: "with the finish" }));
    expect(links()[1]).toBe("/api/looks/4/finished/2?revision=12&kind=exr_half&finish=false");
    expect(await broken(container)).toEqual([]);
  });
});
