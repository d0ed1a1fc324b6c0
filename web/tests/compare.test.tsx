/**
 * Looks side by side: seen in one way and in one part of the frame together, with what each makes of a spot.
 */
import { fireEvent, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, expect, it, vi } from "vitest";
import Compare from "../src/catalogue/compare";
import { useTray } from "../src/catalogue/tray";
import type { Place } from "../src/api/types";
import type { Zoom } from "../src/viewer/zoom";
import { broken, server, shown } from "./shown";
import { card, frame } from "./things";

// What a picture is asked to show is looked at here; that it shows it is seen in a browser.
vi.mock("../src/viewer/stage", () => ({
  Stage: (p: {
    name: string;
    mode: string;
    mask: string;
    zoom: Zoom;
    wish: { show?: string; against?: unknown } | null;
    other: { name: string } | null;
    spots: Place[];
    onPoint: (at: Place, pressed: boolean) => void;
  }) => (
    <button
      aria-label={`picture of ${p.name}`}
      data-seen={JSON.stringify([
        p.mode,
        p.wish?.show ?? "look",
        p.wish?.against ? "look" : "",
        p.other?.name ?? "",
        p.mask,
      ])}
      data-scale={p.zoom.scale}
      data-spots={p.spots.length}
      onClick={() => p.onPoint({ x: 0.25, y: 0.5 }, true)}
    />
  ),
}));

const recipe = (id: number) => ({
  input: "bt709_display",
  output: "bt709_display",
  steps: [{ id: `s${id}`, kind: "exposure", stops: id }],
});
const spot = (...eight: number[]) => ({ eight, css: `rgb(${eight.join(" ")})` });
let asked: { what: string; body: unknown }[];

beforeEach(() => {
  useTray.setState({ looks: [1, 2] });
  asked = server({
    "GET /frames": { body: [frame(1, { name: "Clay heads" }), frame(2, { name: "Yard" })] },
    "GET /catalogue/cards?look=1&look=2": { body: [card(1, "Ash"), card(2, "Ember")] },
    "GET /revisions/10/recipe": { body: recipe(1) },
    "GET /revisions/20/recipe": { body: recipe(2) },
    "POST /probe": (body) => {
      const { stops } = (body as { look: { steps: { stops: number }[] } }).look.steps[0]!;
      return { body: { before: spot(100, 90, 80), after: spot(100 + stops, 90, 80) } };
    },
  });
});
const open = async () => {
  const { container } = shown(<Compare />, "/catalogue/compare?look=1&look=2");
  await screen.findByRole("button", { name: "picture of Ash" });
  await waitFor(() =>
    expect(screen.getByRole("button", { name: "picture of Ember" }).dataset.seen).toContain("look"),
  );
  return container;
};
const pictures = () =>
  ["Ash", "Ember"].map((name) => screen.getByRole("button", { name: `picture of ${name}` }).dataset);

it("reads one spot under every look, before and after, and forgets it where it is pressed again", async () => {
  const container = await open();
  await userEvent.click(screen.getByRole("button", { name: "picture of Ash" }));
  expect((await screen.findByLabelText("Spot under Ash, 8-bit")).textContent).toContain(
    "100 90 80 →  101 90 80",
  );
  expect((await screen.findByLabelText("Spot under Ember, 8-bit")).textContent).toContain("102 90 80");
  expect(pictures().map((p) => p.spots)).toEqual(["1", "1"]);
  expect(await broken(container)).toEqual([]);
  await userEvent.click(screen.getByRole("button", { name: "picture of Ember" }));
  expect(screen.queryByLabelText("Spot under Ash, 8-bit")).toBeNull();
});

it("is worked by keys: the way all are seen, how large, where the spot lies", async () => {
  await open();
  const key = (name: string) => fireEvent.keyDown(document.body, { key: name });
  key("5");
  await waitFor(() =>
    expect(pictures().map((p) => JSON.parse(p.seen!) as string[])).toEqual(
      Array(2).fill(["look", "baked", "", "", ""]),
    ),
  );
  key("+");
  expect(pictures().map((p) => p.scale)).toEqual(["1.5", "1.5"]);
  key("0");
  expect(pictures().map((p) => p.scale)).toEqual(["1", "1"]);
  key("p");
  await screen.findByLabelText("Spot under Ash, 8-bit");
  key("ArrowRight");
  const spots = () =>
    asked.filter((a) => a.what === "POST /probe").map((a) => (a.body as { spot: Place }).spot);
  await waitFor(() => expect(spots().at(-1)).toEqual({ x: 0.51, y: 0.5 }));
  expect(spots()[0]).toEqual({ x: 0.5, y: 0.5 });
});

it("holds the others against one of them, split or by what differs, and each against the original where none is named", async () => {
  await open();
  await userEvent.click(screen.getByRole("radio", { name: "Difference" }));
  await waitFor(() => expect(pictures()[0]!.seen).toBe(JSON.stringify(["look", "difference", "", "", ""])));
  await userEvent.click(screen.getByRole("button", { name: /Held against/ }));
  await userEvent.click(await screen.findByRole("option", { name: "Ash" }));
  await waitFor(() =>
    expect(pictures()[1]!.seen).toBe(JSON.stringify(["look", "difference", "look", "", ""])),
  );
  await userEvent.click(screen.getByRole("radio", { name: "Split" }));
  await waitFor(() => expect(pictures()[1]!.seen).toBe(JSON.stringify(["split", "look", "", "Ash", ""])));
  // The one that the others are held against is held against the original itself.
  expect(pictures()[0]!.seen).toBe(JSON.stringify(["split", "look", "", "", ""]));
  await userEvent.click(screen.getByRole("button", { name: /Marked/ }));
  await userEvent.click(await screen.findByRole("option", { name: "out of gamut" }));
  expect(pictures().map((p) => (JSON.parse(p.seen!) as string[]).at(-1))).toEqual(["outside", "outside"]);
});
