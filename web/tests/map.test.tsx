/** The map on the page: told by keys, drawn around by the pointer. */
import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useLocation } from "react-router";
import { beforeEach, describe, expect, it } from "vitest";
import { LookMap } from "../src/catalogue/map";
import { useFilters } from "../src/catalogue/filters";
import { useTray } from "../src/catalogue/tray";
import { broken, server, shown } from "./shown";
import { card, frame, INES, SCALES } from "./things";

function Here() {
  const where = useLocation();
  return (
    <>
      <LookMap by={useFilters()} frame={frame(1)} />
      <output aria-label="address">{where.pathname + where.search}</output>
    </>
  );
}
const address = () => screen.getByLabelText("address").textContent;
const PLACES = {
  ids: [1, 2, 3],
  across: [4000, 10000, 16000],
  up: [10000, 10000, 14000],
  values: [
    [-20, 1],
    [0, 1],
    [25, 1.2],
  ],
  blue: ["102030", "102030", "102030"],
  clay: ["a0b0c0", "a0b0c0", "a0b0c0"],
  edges: ["cooler", "warmer", "softer", "harder"],
  found: null,
  steps: 20000,
};
const open = (more: Parameters<typeof server>[0] = {}) => {
  const asked = server({
    "GET /session": { body: { person: INES } },
    "GET /catalogue/scales": { body: SCALES },
    "GET /catalogue/map?across=warmth&up=contrast": { body: PLACES },
    "GET /catalogue/cards?look=1&look=2&look=3": {
      body: [card(1, "North"), card(2, "Ash", { words: ["neutral"] }), card(3, "Straw")],
    },
    ...more,
  });
  return { asked, ...shown(<Here />, "/catalogue?view=map") };
};

beforeEach(() => {
  localStorage.clear();
  act(() => useTray.setState({ looks: [] }));
});

describe("the map", () => {
  it("goes from look to look by arrows, tells each, and opens it", async () => {
    const { container } = open();
    const field = await screen.findByRole("application", { name: /^Map of looks/ });
    field.focus();
    await userEvent.keyboard("{ArrowRight}");
    expect(await screen.findByText("Ash, approved, neutral")).toBeTruthy();
    expect(screen.getByText("warmth 0 · contrast 1.00 ×")).toBeTruthy();
    await userEvent.keyboard("{ArrowLeft}t");
    expect(await screen.findByText(/^North, approved/)).toBeTruthy();
    expect(useTray.getState().looks).toEqual([1]);
    expect(["cooler", "warmer", "softer", "harder"].every((edge) => screen.getByText(edge))).toBe(true);
    expect(await broken(container)).toEqual([]);
    await userEvent.keyboard("{Enter}");
    await waitFor(() => expect(address()).toBe("/catalogue/look/1"));
  });

  it("gathers looks by keys as the pointer does, and lets them go", async () => {
    open();
    const field = await screen.findByRole("application", { name: /^Map of looks/ });
    field.focus();
    await userEvent.keyboard("{ArrowRight}");
    await screen.findByText("Ash, approved, neutral");
    fireEvent.keyDown(field, { key: "ArrowRight", shiftKey: true });
    expect(await screen.findByText("2 drawn around")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "To the tray" }));
    expect(useTray.getState().looks).toEqual([2, 3]);
    field.focus();
    await userEvent.keyboard("{Escape}");
    await waitFor(() => expect(screen.queryByText(/drawn around$/)?.textContent).not.toBe("2 drawn around"));
  });

  it("narrows the catalogue to what was drawn around, and puts it into a collection", async () => {
    const { asked } = open({
      "POST /collections/Warm/looks": {
        body: { name: "Warm", note: "", search: "", version: 1, looks: [2, 3] },
      },
      "GET /catalogue/map?range=warmth%3A-0.001%3A25.001&range=contrast%3A0.999%3A1.201&across=warmth&up=contrast":
        { body: PLACES },
    });
    await userEvent.click(await screen.findByRole("radio", { name: "drag draws around" }));
    const field = screen.getByRole("application", { name: /^Map of looks/ });
    field.setPointerCapture = () => undefined;
    // The room is 800 × 500 here; the first look is left of the line.
    const at = (clientX: number, clientY: number) => ({ clientX, clientY, pointerId: 1 });
    fireEvent.pointerDown(field, at(300, 20));
    for (const [x, y] of [
      [780, 20],
      [780, 480],
      [300, 480],
    ] as const)
      fireEvent.pointerMove(field, at(x, y));
    fireEvent.pointerUp(field, at(300, 480));
    expect(await screen.findByText("2 drawn around")).toBeTruthy();
    await userEvent.click(await screen.findByRole("button", { name: "To a collection" }));
    await userEvent.type(await screen.findByRole("textbox", { name: "Collection" }), "Warm{Enter}");
    await waitFor(() =>
      expect(asked.find((a) => a.what.startsWith("POST /collections"))?.body).toEqual({ looks: [2, 3] }),
    );
    await userEvent.click(await screen.findByRole("button", { name: "Only these" }));
    await waitFor(() =>
      expect(decodeURIComponent(address())).toContain(
        "range=warmth:-0.001:25.001&range=contrast:0.999:1.201",
      ),
    );
  });
});
