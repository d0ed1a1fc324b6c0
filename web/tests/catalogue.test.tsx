/** The catalogue: narrowed by words, status and tags, all in the address. */
import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useLocation } from "react-router";
import { beforeEach, describe, expect, it } from "vitest";
import Catalogue from "../src/catalogue/catalogue";
import { broken, server, shown } from "./shown";
import { card, ENCODINGS, frame, INES } from "./things";

const Where = () => <output aria-label="address">{useLocation().search}</output>;
const address = () => new URLSearchParams(screen.getByLabelText("address").textContent);
const TAGS = [
  { name: "dusk", count: 3 },
  { name: "warm", count: 1 },
];
const found = (...cards: unknown[]) => ({ body: { cards, total: 2, tags: TAGS, collections: [] } });
const ask = (more: Parameters<typeof server>[0]) =>
  server({
    "GET /frames": { body: [frame(1, { name: "Clay heads" }), frame(2, { name: "Yard" })] },
    "GET /encodings": { body: ENCODINGS },
    "GET /session": { body: { person: INES } },
    ...more,
  });
const open = (at = "/catalogue") =>
  shown(
    <>
      <Catalogue />
      <Where />
    </>,
    at,
  );

beforeEach(() => localStorage.clear());

describe("the catalogue", () => {
  it("shows every look on the chosen frame", async () => {
    ask({ "GET /catalogue?q=&status=&collection=": found(card(1, "Ash"), card(2, "Ember", { tags: ["dusk", "warm"] })) });
    const { container } = open();
    expect((await screen.findByRole("img", { name: "Clay heads under Ash" })).getAttribute("src")).toBe(
      "/api/revisions/10/still?frame=1&width=480&strength=1&v=abcdefghv1",
    );
    expect(screen.getByText("2 looks")).toBeTruthy();
    expect(screen.getByText("dusk, warm")).toBeTruthy();
    expect(screen.getByRole("button", { name: "New look" })).toBeTruthy();
    expect(await broken(container)).toEqual([]);
  });

  it("is narrowed by tags and status, which stand in the address", async () => {
    ask({
      "GET /catalogue?q=&status=&collection=": found(card(1, "Ash"), card(2, "Ember")),
      "GET /catalogue?q=&tag=dusk&status=&collection=": found(card(2, "Ember")),
      "GET /catalogue?q=&tag=dusk&status=approved&collection=": found(card(2, "Ember")),
    });
    open();
    await userEvent.click(await screen.findByRole("button", { name: /dusk/ }));
    await waitFor(() => expect(screen.getByText("1 of 2 looks")).toBeTruthy());
    expect(address().getAll("tag")).toEqual(["dusk"]);
    await userEvent.click(screen.getByRole("radio", { name: "approved" }));
    expect(address().get("status")).toBe("approved");
    await userEvent.click(await screen.findByRole("button", { name: "Show all" }));
    expect([...address().keys()]).toEqual([]);
  });

  it("searches when the typing rests, and says so where nothing fits", async () => {
    const asked = ask({
      "GET /catalogue?q=&status=&collection=": found(card(1, "Ash")),
      "GET /catalogue?q=slate&status=&collection=": found(),
    });
    open();
    await screen.findByRole("button", { name: "Try Ash" });
    await userEvent.type(screen.getByRole("textbox", { name: "Search" }), "slate");
    expect(await screen.findByText("No look fits")).toBeTruthy();
    expect(address().get("q")).toBe("slate");
    expect(asked.filter((a) => a.what.includes("q=s")).map((a) => a.what)).toEqual(["GET /catalogue?q=slate&status=&collection="]);
  });

  it("keeps the frame that looks are shown on, for the next time too", async () => {
    ask({ "GET /catalogue?q=&status=&collection=": found(card(1, "Ash")) });
    open("/catalogue?frame=2");
    expect(await screen.findByRole("img", { name: "Yard under Ash" })).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: /Frame to show looks on/ }));
    await userEvent.click(await screen.findByRole("option", { name: /Clay heads/ }));
    expect(await screen.findByRole("img", { name: "Clay heads under Ash" })).toBeTruthy();
    expect(address().get("frame")).toBe("1");
    expect(localStorage.getItem("saucer-frame")).toBe("1");
  });

  it("says what went wrong, and asks again when told to", async () => {
    let down = true;
    ask({
      "GET /catalogue?q=&status=&collection=": () =>
        down ? { status: 503, body: { message: "The server is busy." } } : found(card(1, "Ash")),
    });
    open();
    expect(await screen.findByText("The server is busy.")).toBeTruthy();
    down = false;
    await userEvent.click(screen.getByRole("button", { name: "Try again" }));
    expect(await screen.findByRole("button", { name: "Try Ash" })).toBeTruthy();
  });
});
