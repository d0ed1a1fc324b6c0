/** Camera encodings: a maker's numbers typed in, judged by their check values, and kept. */
import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { CameraForm, Measured, TeamEncoding } from "../src/api/types";
import Encodings from "../src/frames/encodings";
import { broken, server, shown } from "./shown";
import { ENCODINGS, INES } from "./things";

const number = (title: string, more: object = {}) => ({
  title,
  description: "",
  minimum: -1000,
  maximum: 1000,
  ...more,
});
const FORM: CameraForm = {
  fields: {
    base: number("Base", { minimum: 1.01 }),
    log_side_slope: number("Log-side slope"),
    log_side_offset: number("Log-side offset"),
    lin_side_slope: number("Lin-side slope"),
    lin_side_offset: number("Lin-side offset"),
    lin_side_break: {
      title: "Lin-side break",
      description: "",
      anyOf: [{ minimum: -10, maximum: 10 }, { type: "null" }],
    },
    linear_slope: {
      title: "Linear slope",
      description: "",
      anyOf: [{ minimum: 0, maximum: 10 }, { type: "null" }],
    },
  },
  primaries: [
    { label: "BT.709", red: [0.64, 0.33], green: [0.3, 0.6], blue: [0.15, 0.06], white: [0.3127, 0.329] },
    {
      label: "BT.2020",
      red: [0.708, 0.292],
      green: [0.17, 0.797],
      blue: [0.131, 0.046],
      white: [0.3127, 0.329],
    },
  ],
};
const measured = (doubts: string[] = []): Measured => ({
  curve: [
    [-10, 0.1],
    [0, 0.4],
    [10, 1.1],
  ],
  checks: [{ name: "mid grey", light: 0.18, code: 0.4, ten_bit: 409.2, video_percent: 39.4 }],
  ceiling: 36.7,
  stops_above: 7.67,
  stop_of_grey: 77,
  doubts,
});
const SHED: TeamEncoding = {
  id: 1,
  key: "camera-1",
  name: "Shed log",
  offered: true,
  definition: {
    ...{ name: "Shed log", red: [0.7, 0.3], green: [0.2, 0.8], blue: [0.13, 0.04], white: [0.3127, 0.329] },
    ...{ base: 10, log_side_slope: 0.25, log_side_offset: 0.4, lin_side_slope: 5.5, lin_side_offset: 0.05 },
    ...{ lin_side_break: 0.011, linear_slope: null },
  },
  added_by: INES.name,
  added_at: "2026-11-20T10:00:00Z",
  measured: measured(),
};
const ask = (team: TeamEncoding[], more: Parameters<typeof server>[0] = {}) =>
  server({
    "GET /encodings": { body: ENCODINGS },
    "GET /encodings/team": { body: team },
    "GET /encodings/team/form": { body: FORM },
    "GET /session": { body: { person: INES } },
    "POST /encodings/team/measured": { body: measured(["Mid grey lies high."]) },
    ...more,
  });
const box = (name: string) => screen.getByRole("textbox", { name });
const type = async (name: string, text: string) => {
  await userEvent.clear(box(name));
  await userEvent.type(box(name), `${text}{Tab}`);
};

describe("camera encodings", () => {
  it("show the maker's numbers and the codes to check by, and cannot be typed over", async () => {
    ask([SHED]);
    const { container } = shown(<Encodings />);
    const table = await screen.findByRole("table", { name: "Check values" });
    expect(table.textContent).toContain("mid grey, 0.180.4000409.239.4 %");
    expect(screen.getByRole("option").textContent).toBe("Shed logmid grey at 409, 7.7 stops above it");
    expect(box("Log-side slope")).toMatchObject({ value: "0.25", readOnly: true });
    expect(box("Linear slope")).toMatchObject({ value: "", placeholder: "the tangent" });
    expect(await broken(container)).toEqual([]);
  });

  it("are kept once their numbers are whole, and doubted before", async () => {
    const asked = ask([], { "POST /encodings/team": { status: 201, body: { ...SHED, id: 2 } } });
    const { container } = shown(<Encodings />);
    await userEvent.click((await screen.findAllByRole("button", { name: "Type in an encoding" }))[0]!);
    const keep = screen.getByRole("button", { name: "Keep for everybody" });
    await userEvent.type(box("Name"), " Loft log ");
    for (const [name, text] of [
      ["Base", "10"],
      ["Log-side slope", "0.2471896383"],
      ["Log-side offset", "0.385537"],
      ["Lin-side slope", "5.555556"],
    ] as const)
      await type(name, text);
    expect(keep).toHaveProperty("disabled", true);
    await type("Lin-side offset", "0.052272");
    await type("red x", "0.7");
    expect(await screen.findByText("Mid grey lies high.")).toBeTruthy();
    expect(await broken(container)).toEqual([]);
    await userEvent.click(keep);
    await waitFor(() => expect(asked.filter((a) => a.what === "POST /encodings/team")).toHaveLength(1));
    expect(asked.find((a) => a.what === "POST /encodings/team")?.body).toMatchObject({
      name: "Loft log",
      red: [0.7, 0.33],
      log_side_slope: 0.2471896383,
      lin_side_offset: 0.052272,
      lin_side_break: null,
    });
  });

  it("say why they cannot be kept", async () => {
    ask([SHED], {
      "POST /encodings/team": {
        status: 409,
        body: { message: "These numbers are here already, as “Shed log”." },
      },
    });
    shown(<Encodings />);
    await userEvent.click(await screen.findByRole("button", { name: "Type in another from these" }));
    await userEvent.type(box("Name"), "Twin");
    await userEvent.click(screen.getByRole("button", { name: "Keep for everybody" }));
    expect((await screen.findByRole("alert")).textContent).toBe(
      "These numbers are here already, as “Shed log”.",
    );
    expect(box("Name")).toHaveProperty("value", "Twin");
  });

  it("are withdrawn by who added them, not by others", async () => {
    const asked = ask([SHED], { "PATCH /encodings/team/1": { body: { ...SHED, offered: false } } });
    const { unmount } = shown(<Encodings />);
    await userEvent.click(await screen.findByRole("button", { name: "Withdraw" }));
    await waitFor(() =>
      expect(asked.find((a) => a.what === "PATCH /encodings/team/1")?.body).toEqual({ offered: false }),
    );
    unmount();
    ask([{ ...SHED, added_by: "Tomas Ferrow" }]);
    shown(<Encodings />);
    await screen.findByRole("table", { name: "Check values" });
    expect(screen.queryByRole("button", { name: "Withdraw" })).toBeNull();
  });
});
