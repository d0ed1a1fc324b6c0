/**
 * Delivering: what goes out, encodings and what they lose, names, rights, the drop folder, feeds, and what
 * went before.
 */
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import Deliver from "../src/projects/deliver";
import { broken, server, shown } from "./shown";
import { delivery, INES, job, layer, ODILE, project, revision, shot } from "./things";

const body = project([shot(1, "Shelf", { layers: [layer(revision(10, "Ash"))] }), shot(2, "Wheel")]);
const LABELS = {
  looks: "Look LUTs",
  shots: "Shot LUTs",
  cdl: "CDL list",
  ocio: "OpenColorIO configuration",
  recipes: "Recipes",
  stills: "Stills",
  clips: "Clips",
  review: "Review clip",
  sheet: "Contact sheet",
};
const outlook = (more: object = {}) => ({
  shots: 1,
  parts: Object.entries(LABELS).map(([part, label]) => ({
    part,
    label,
    done: 0,
    dropped: 0,
    total: part === "clips" ? 0 : 1,
  })),
  names: [{ number: 1, shot: "Shelf", name: "001_Shelf_BT.709 display", same: [] }],
  clash: "",
  held: [],
  left_out: ["2 Wheel: no look is on it"],
  next: 3,
  changes: [],
  ...more,
});
const loss = (encoding: string, gamut: number) => ({
  ...{ encoding, gamut, lights: 0.02, worst_gamut: gamut ? 1 : null, worst_gamut_share: gamut },
  ...{ worst_lights: null, worst_lights_share: 0 },
});
const DROP_FOLDER = {
  name: "shelf",
  there: true,
  free: 3 * 2 ** 30,
  stand_in: { there: true, pace: 0, room: 0 },
};

const open = (more: Parameters<typeof server>[0] = {}) => {
  const asked = server({
    "GET /projects/4": { body },
    "PATCH /projects/4": { body },
    "GET /projects/4/deliveries": { body: [] },
    "GET /projects/4/feeds": { body: [] },
    "POST /projects/4/outlook": { body: outlook() },
    "POST /projects/4/deliveries": { status: 201, body: delivery(3, "waiting") },
    "GET /projects/4/losses?encoding=bt709_display": { body: loss("bt709_display", 0.276) },
    "GET /projects/4/losses?encoding=display_p3": { body: loss("display_p3", 0) },
    "GET /projects/4/losses?encoding=pq": { body: loss("pq", 0) },
    "GET /deliveries/choices": {
      body: {
        parts: LABELS,
        pictures: { png16: "PNG, 16 bit", jpeg: "JPEG" },
        clips: { h264_10: "H.264, 10 bit" },
        reviews: { h264: "H.264, 8 bit", h264_10: "H.264, 10 bit" },
        rows: { "540": "960 × 540", "1080": "1920 × 1080" },
        slate: { shot: "shot", look: "look and revision", timecode: "timecode", for: "for whom" },
      },
    },
    "GET /drop-folder": { body: DROP_FOLDER },
    "GET /encodings": {
      body: [
        { key: "bt709_display", label: "BT.709 display", referred: "display", offered: true },
        { key: "display_p3", label: "Display P3", referred: "display", offered: true },
        { key: "pq", label: "BT.2100 PQ", referred: "display", offered: true },
      ],
    },
    "GET /session": { body: { person: ODILE } },
    ...more,
  });
  const view = shown(
    <Routes>
      <Route path="/projects/:id/deliver" element={<Deliver />} />
    </Routes>,
    "/projects/4/deliver",
  );
  return { asked, ...view };
};

describe("a delivery to be made", () => {
  it("shows its parts, what encodings lose, its names, and what stays behind", async () => {
    const { container } = open();
    expect(await screen.findByRole("button", { name: "Deliver as number 3" })).toBeTruthy();
    expect(await screen.findByText("27.6 %, shot 1 28 %")).toBeTruthy();
    expect(screen.getByText("001_Shelf_BT.709 display")).toBeTruthy();
    expect(screen.getByText("2 Wheel: no look is on it")).toBeTruthy();
    expect(screen.getByText("1 of 2 shots")).toBeTruthy();
    expect(screen.getByRole("checkbox", { name: "Clips" })).toHaveProperty("disabled", true);
    expect(await screen.findByText("there, 3 GB free")).toBeTruthy();
    expect(await broken(container)).toEqual([]);
  });

  it("is ordered as it was set, and the project remembers encodings and names", async () => {
    const { asked } = open();
    await userEvent.click(await screen.findByRole("checkbox", { name: "Stills" }));
    await userEvent.click(screen.getByRole("checkbox", { name: "Display P3" }));
    await userEvent.click(screen.getByRole("checkbox", { name: /Drop folder/ }));
    await userEvent.click(screen.getByRole("button", { name: "Deliver as number 3" }));
    await waitFor(() => expect(asked.some((a) => a.what === "POST /projects/4/deliveries")).toBe(true));
    const plan = asked.find((a) => a.what === "POST /projects/4/deliveries")?.body as Record<string, unknown>;
    expect(plan).toMatchObject({ encodings: ["display_p3"], drop_folder: true, held: "stop", grid: 33 });
    expect(plan.parts).not.toContain("stills");
    expect(asked.find((a) => a.what === "PATCH /projects/4")?.body).toEqual({
      encodings: ["display_p3"],
      pattern: ["number", "shot", "out"],
    });
  });

  it("makes a review clip as it was set: its slate in its order, for whom only where that is said", async () => {
    const { asked } = open();
    await userEvent.click(await screen.findByRole("checkbox", { name: "Review clip" }));
    const settings = within(screen.getByRole("group", { name: "Review clip" }));
    expect(settings.queryByLabelText("For whom")).toBeNull();
    await userEvent.click(settings.getByRole("checkbox", { name: "for whom" }));
    await userEvent.type(settings.getByLabelText("For whom"), "Ida");
    await userEvent.click(settings.getByRole("checkbox", { name: "look and revision" }));
    await userEvent.click(screen.getByRole("button", { name: "Deliver as number 3" }));
    await waitFor(() => expect(asked.some((a) => a.what === "POST /projects/4/deliveries")).toBe(true));
    const plan = asked.find((a) => a.what === "POST /projects/4/deliveries")?.body as Record<string, unknown>;
    expect(plan.parts).toContain("review");
    expect(plan.review).toEqual({
      ...{ scene: null, kind: "h264", rows: 1080, whom: "Ida" },
      slate: ["shot", "timecode", "for"],
    });
  });

  it("stops where two files would have one name, and mends it", async () => {
    const clash = "1 Shelf and 4 Shelf would be one file, Shelf. Put the number into the names.";
    const { asked } = open({
      "GET /projects/4": { body: { ...body, pattern: ["shot"] } },
      "POST /projects/4/outlook": (sent) => ({
        body: outlook(
          (sent as { names: string[] }).names.includes("number")
            ? {}
            : { clash, names: [{ number: 1, shot: "Shelf", name: "Shelf", same: [4] }] },
        ),
      }),
    });
    expect(await screen.findByText(clash)).toBeTruthy();
    expect(screen.getByText("1 to look at: names")).toBeTruthy();
    expect(screen.getByRole("button", { name: /Deliver as/ })).toHaveProperty("disabled", true);
    await userEvent.click(screen.getByRole("button", { name: "Put the number in" }));
    await waitFor(() => expect(screen.queryByText(clash)).toBeNull());
    expect((asked.at(-1)?.body as { names: string[] }).names).toEqual(["number", "shot"]);
    expect(screen.getByRole("button", { name: /Deliver as/ })).toHaveProperty("disabled", false);
  });

  it("waits for a look that must be asked for; leaving it behind goes on, only leads let it pass", async () => {
    open({
      "POST /projects/4/outlook": { body: outlook({ held: [{ look: "Oxide", shots: [1] }] }) },
      "GET /session": { body: { person: INES } },
    });
    expect(await screen.findByText("Oxide: ask first.")).toBeTruthy();
    expect(screen.getByRole("button", { name: /Deliver as/ })).toHaveProperty("disabled", true);
    expect(screen.getByRole("radio", { name: /deliver them all the same/ })).toHaveProperty("disabled", true);
    await userEvent.click(screen.getByRole("radio", { name: "these shots stay behind" }));
    await waitFor(() =>
      expect(screen.getByRole("button", { name: /Deliver as/ })).toHaveProperty("disabled", false),
    );
  });

  it("says what the server refuses", async () => {
    open({
      "POST /projects/4/deliveries": {
        status: 409,
        body: { message: "No shot has a look that can go out." },
      },
    });
    await userEvent.click(await screen.findByRole("button", { name: "Deliver as number 3" }));
    expect(
      (await screen.findByText("No shot has a look that can go out.")).closest("[role=alert]"),
    ).toBeTruthy();
  });

  it("lets a lead play with the stand-in of the drop folder", async () => {
    const { asked } = open({ "PUT /drop-folder": { body: DROP_FOLDER } });
    await userEvent.click(await screen.findByRole("button", { name: "Stand-in" }));
    await userEvent.click(await screen.findByRole("switch", { name: "It is there" }));
    await userEvent.click(screen.getByRole("button", { name: "Keep" }));
    await waitFor(() =>
      expect(asked.find((a) => a.what === "PUT /drop-folder")?.body).toEqual({
        there: false,
        pace: 0,
        room: 0,
      }),
    );
  });
});

describe("deliveries", () => {
  const part = (name: keyof typeof LABELS, done: number, total: number) => ({
    part: name,
    label: LABELS[name],
    done,
    dropped: 0,
    total,
  });

  it("that are made show each part; clips are left out, or all is stopped", async () => {
    const running = delivery(3, "running", {
      job: job("running", { id: 73, doing: "Clips: 001 Shelf.mov" }),
      parts: [part("looks", 2, 2), part("clips", 0, 4)],
      ready: false,
    });
    const { asked } = open({
      "GET /projects/4/deliveries": { body: [running] },
      "DELETE /projects/4/deliveries/3/parts/clips": { body: running },
      "POST /jobs/73/cancel": { body: {} },
    });
    const under = within(await screen.findByRole("region", { name: "Delivery 3 is running" }));
    expect(under.getByText("2, done")).toBeTruthy();
    expect(under.getByRole("progressbar", { name: "Clips" }).getAttribute("aria-valuenow")).toBe("0");
    expect(under.getByText("Clips: 001 Shelf.mov")).toBeTruthy();
    expect(screen.getByRole("button", { name: /Deliver as/ })).toHaveProperty("disabled", true);
    await userEvent.click(under.getByRole("button", { name: "Leave the clips out" }));
    await waitFor(() =>
      expect(asked.some((a) => a.what === "DELETE /projects/4/deliveries/3/parts/clips")).toBe(true),
    );
    await userEvent.click(under.getByRole("button", { name: "Stop all" }));
    await waitFor(() => expect(asked.some((a) => a.what === "POST /jobs/73/cancel")).toBe(true));
  });

  it("that were made are fetched, say what changed, and go to the drop folder again", async () => {
    const { asked } = open({
      "GET /projects/4/deliveries": {
        body: [
          delivery(3, "done", {
            changes: [{ text: "Ash r1 → Ash r2, 2 shots", shots: [1] }],
            drop_folder: { state: "failed", place: "", why: "the drop folder is full" },
          }),
          delivery(2, "failed", { job: job("failed", { reason: "The disk is full." }) }),
          delivery(1, "cancelled", { ready: false }),
        ],
      },
      "POST /projects/4/outlook": {
        body: outlook({ changes: [{ text: "1 Shelf: newly trimmed", shots: [1] }] }),
      },
      "POST /projects/4/deliveries/3/drop-folder": { body: delivery(3, "done") },
    });
    expect((await screen.findByRole("link", { name: "Fetch" })).getAttribute("href")).toBe(
      "/api/projects/4/deliveries/3/file",
    );
    expect(screen.getByText(/Ash r1 → Ash r2, 2 shots/)).toBeTruthy();
    expect(screen.getByText("failed: The disk is full.")).toBeTruthy();
    expect(screen.getByText("stopped")).toBeTruthy();
    const since = within(await screen.findByRole("region", { name: "Since delivery 3" }));
    expect(since.getByText("1 Shelf: newly trimmed")).toBeTruthy();
    expect(since.getByRole("img", { name: "Shelf in delivery 3" }).getAttribute("src")).toContain(
      "/deliveries/3/shots/1/still",
    );
    await userEvent.click(screen.getByRole("button", { name: "Put it into the drop folder" }));
    await waitFor(() =>
      expect(asked.some((a) => a.what === "POST /projects/4/deliveries/3/drop-folder")).toBe(true),
    );
  });
});

describe("feeds", () => {
  const feed = (more: object = {}) => ({
    ...{
      id: 6,
      name: "Edit room",
      hint: "4f7a",
      ends_at: null,
      revoked_at: null,
      made_by: "Odile",
      made_at: "2026-05-01T10:00:00Z",
    },
    ...{ fetches: [], days: Array<number>(30).fill(0), address: "" },
    ...more,
  });

  it("tell their address once, when they are made", async () => {
    const { asked } = open({
      "POST /projects/4/feeds": { status: 201, body: feed({ address: "http://here/api/feed/secret4f7a" }) },
    });
    await userEvent.click(await screen.findByRole("button", { name: "New feed" }));
    await userEvent.type(await screen.findByRole("textbox", { name: "For whom" }), "Edit room");
    await userEvent.click(screen.getByRole("button", { name: "Make the address" }));
    expect(await screen.findByText("http://here/api/feed/secret4f7a")).toBeTruthy();
    const sent = asked.find((a) => a.what === "POST /projects/4/feeds")?.body as {
      name: string;
      ends_at: string;
    };
    expect(sent.name).toBe("Edit room");
    expect(Date.parse(sent.ends_at) - Date.now()).toBeGreaterThan(89 * 86_400_000);
  });

  it("show when they were fetched, and are ended", async () => {
    const fetched = {
      what: "list",
      delivery: 5,
      status: 200,
      bytes: 9,
      came_from: "",
      at: new Date().toISOString(),
    };
    const { asked } = open({
      "GET /projects/4/feeds": {
        body: [
          feed({ fetches: [fetched], days: [...Array<number>(29).fill(0), 4] }),
          feed({ id: 7, revoked_at: "2026-05-02T00:00:00Z" }),
        ],
      },
      "DELETE /projects/4/feeds/6": { body: feed() },
    });
    expect(await screen.findByText("until it is ended · fetched just now, delivery 5")).toBeTruthy();
    expect(screen.getByRole("img", { name: "4 fetches today, 4 in 30 days" })).toBeTruthy();
    expect(screen.getByText("ended · never fetched")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "End now" }));
    await waitFor(() => expect(asked.some((a) => a.what === "DELETE /projects/4/feeds/6")).toBe(true));
  });
});
