/** The bake sheet and who sits at a draft, against a server that answers as told. */
import { act, renderHook, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Bake, GridChoice, LookRecord, Revision } from "../src/api/types";
import { BakeSheet } from "../src/bake/sheet";
import { useSeats } from "../src/bench/presence";
import { useBench } from "../src/bench/store";
import { exposure, look, record } from "./looks";
import { broken, server, shown } from "./shown";

const deviation = (largest: number) =>
  ({
    largest,
    mean: 0.5,
    share_under_one: 0.987,
    metric: "ΔE2000 on the display",
    delta_mean: 0.06,
    delta_99: 0.41,
    delta_largest: 2.05,
  }) as GridChoice["deviation"];
const GRIDS = [17, 33, 65].map((grid) => ({ grid, recommended: grid === 65, deviation: deviation(grid === 17 ? 12.34 : 3.456) }));
const revision = (id: number, number: number) =>
  ({ id, number, note: "", status: "draft", input: "film_log", output: "bt709_display" }) as Revision;
const FILE = { id: 9, file_name: "slip_r2_33.cube", rights: "ask first", bytes: 2 ** 20, deviation: deviation(3.456) } as Bake;
const ENCODINGS = [
  { key: "film_log", label: "film log" },
  { key: "bt709_display", label: "BT.709 display" },
];

function sheet(answers: Parameters<typeof server>[0] = {}, more: Partial<LookRecord> = {}) {
  const asked = server({
    "GET /encodings": { body: ENCODINGS },
    "POST /looks/4/grids?revision=12": { body: GRIDS },
    "POST /looks/4/grids": { body: GRIDS },
    "GET /looks/4/bakes": { body: [] },
    ...answers,
  });
  const view = shown(
    <BakeSheet look={{ ...record(4, look(exposure("a", 1))), revisions: [revision(12, 2)], ...more }} revision={null} onClose={vi.fn()} />,
  );
  return { asked, view };
}

const said = (name: RegExp) => screen.getByRole("radio", { name }).closest("label")?.textContent;

beforeEach(() => useBench.getState().open(record(4, look(exposure("a", 1)))));
afterEach(() => vi.unstubAllGlobals());

describe("the bake sheet", () => {
  it("says how far each grid is from the look, in units, and which one is enough", async () => {
    sheet();
    await waitFor(() => expect(said(/65/)).toContain("recommended"));
    expect(said(/17/)).toBe("17 × 17 × 170.060.412.0598.7 %");
    expect(screen.getByText("ΔE2000 mean")).toBeTruthy();
    expect(said(/33/)).not.toContain("recommended");
    await waitFor(() => expect(screen.getByText("film log → BT.709 display")).toBeTruthy());
    expect(screen.getByRole<HTMLInputElement>("radio", { name: /33/ }).checked).toBe(true);
    expect(await broken(screen.getByRole("dialog"))).toEqual([]);
  });

  it("bakes what is chosen, with what the file shall say, and lists the file", async () => {
    let files: Bake[] = [];
    const { asked } = sheet({
      "POST /revisions/12/bakes": () => ({ body: (files = [FILE])[0] }),
      "GET /looks/4/bakes": () => ({ body: files }),
    });
    const title = screen.getByRole("textbox", { name: "Title in the file" });
    await userEvent.clear(title);
    await userEvent.type(title, "Slip, night");
    await userEvent.type(screen.getByRole("textbox", { name: /Rights/ }), "ask first");
    await userEvent.click(screen.getByRole("radio", { name: /65/ }));
    await userEvent.click(screen.getByRole("button", { name: "Bake file" }));
    await waitFor(() => expect(screen.getByRole("link", { name: "Download" }).getAttribute("href")).toBe("/api/bakes/9/file"));
    expect(asked.find((a) => a.what === "POST /revisions/12/bakes")?.body).toEqual({
      grid: 65,
      title: "Slip, night",
      rights: "ask first",
      note: "",
    });
    expect(within(screen.getByRole("dialog")).getByText(/99 % within ΔE2000 0.41 · 1.0 MiB/)).toBeTruthy();
  });

  it("a draft without a revision is kept as one first, and that one is baked", async () => {
    const { asked } = sheet(
      {
        "POST /looks/4/revisions": { body: revision(13, 1) },
        "POST /revisions/13/bakes": { body: FILE },
        "POST /looks/4/grids?revision=13": { body: GRIDS },
      },
      { revisions: [] },
    );
    await userEvent.click(screen.getByRole("button", { name: "Bake file" }));
    await waitFor(() => expect(asked.some((a) => a.what === "POST /revisions/13/bakes")).toBe(true));
    const order = asked.map((a) => a.what).filter((w) => w.endsWith("/revisions") || w.endsWith("13/bakes"));
    expect(order).toEqual(["POST /looks/4/revisions", "POST /revisions/13/bakes"]);
  });

  it("a refusal stands on the sheet in the server's words, and one can try again", async () => {
    sheet({ "POST /revisions/12/bakes": { status: 507, body: { message: "The disk is full. Nothing was written." } } });
    await userEvent.click(screen.getByRole("button", { name: "Bake file" }));
    await waitFor(() => expect(screen.getByRole("alert").textContent).toBe("The disk is full. Nothing was written."));
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Bake file" }).disabled).toBe(false);
  });

  it("who may not change the look may read and load, and bakes nothing", async () => {
    sheet({ "GET /looks/4/bakes": { body: [FILE] } }, { may_edit: false });
    await waitFor(() => expect(screen.getByRole("link", { name: "Download" })).toBeTruthy());
    expect(screen.queryByRole("button", { name: "Bake file" })).toBeNull();
  });
});

describe("who sits at a draft", () => {
  it("says so at once, takes over when asked, and says when it goes", async () => {
    let holder = "Tomas";
    const asked = server({
      "PUT /looks/4/sitting": (body) => {
        if ((body as { take: boolean }).take) holder = "";
        return { body: { mine: !holder, holder, others: [] } };
      },
      "POST /looks/4/leave": {},
    });
    const { result, unmount } = renderHook(() => useSeats(4, true));
    await waitFor(() => expect(result.current.seats).toEqual({ mine: false, holder: "Tomas", others: [] }));
    await act(() => result.current.take());
    expect(result.current.seats?.mine).toBe(true);
    unmount();
    expect(asked.map((a) => a.what).at(-1)).toBe("POST /looks/4/leave");
  });

  it("keeps what it knew while the server is away, and asks nothing where nobody may sit", async () => {
    const asked = server({ "PUT /looks/4/sitting": () => ({ body: { mine: true, holder: "", others: ["Vera"] } }) });
    const { result } = renderHook(() => useSeats(4, true));
    await waitFor(() => expect(result.current.seats?.others).toEqual(["Vera"]));
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("no network")));
    await act(() => result.current.take());
    expect(result.current.seats?.others).toEqual(["Vera"]);
    const before = asked.length;
    renderHook(() => useSeats(5, false));
    expect(asked.length).toBe(before);
  });
});
