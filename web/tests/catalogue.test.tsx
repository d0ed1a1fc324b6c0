/**
 * The catalogue: narrowed by words, tags and traits, all in the address; cards by keys and pointer; the tray.
 */
import { act, fireEvent, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useLocation } from "react-router";
import { beforeEach, describe, expect, it, test, vi } from "vitest";
import { drawnAt } from "../src/catalogue/cards";
import Catalogue from "../src/catalogue/catalogue";
import { useTray } from "../src/catalogue/tray";
import { broken, server, shown } from "./shown";
import { card, ENCODINGS, frame, INES, filterValues, SCALES } from "./things";

const Where = () => <output aria-label="address">{useLocation().pathname + useLocation().search}</output>;
const address = () => new URLSearchParams(screen.getByLabelText("address").textContent.split("?")[1]);
const page = (...cards: unknown[]) => ({ body: { cards, found: cards.length, total: 2 } });
const cards = (query: string) => `GET /catalogue?${query}${query ? "&" : ""}offset=0&limit=48`;
const ask = (more: Parameters<typeof server>[0]) =>
  server({
    "GET /frames": { body: [frame(1, { name: "Clay heads" }), frame(2, { name: "Yard" })] },
    "GET /encodings": { body: ENCODINGS },
    "GET /session": { body: { person: INES } },
    "GET /waiting": { body: { asked: [], answered: [] } },
    "GET /catalogue/scales": { body: SCALES },
    "GET /catalogue/searches": { body: [] },
    "GET /catalogue/filters": {
      body: filterValues({
        tags: [{ name: "warm", count: 1 }],
        lights: [{ name: "dusk", count: 3 }],
        statuses: [{ name: "approved", count: 2 }],
      }),
    },
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

beforeEach(() => {
  localStorage.clear();
  act(() => useTray.setState({ looks: [] }));
  // The list draws the cards that fit; jsdom lays nothing out.
  vi.spyOn(HTMLElement.prototype, "clientHeight", "get").mockReturnValue(900);
  vi.spyOn(HTMLElement.prototype, "clientWidth", "get").mockReturnValue(1000);
});

describe("the catalogue", () => {
  it("shows every look on the chosen frame, with what it does in words", async () => {
    ask({ [cards("")]: page(card(1, "Ash"), card(2, "Ember", { words: ["warm", "hard"], uses: 3 })) });
    const { container } = open();
    expect((await screen.findByRole("img", { name: "Clay heads under Ash" })).getAttribute("src")).toBe(
      "/api/revisions/10/still?frame=1&width=320&strength=1&v=abcdefghv1",
    );
    expect(screen.getByText("2 looks")).toBeTruthy();
    expect(screen.getByText("warm, hard")).toBeTruthy();
    expect(screen.getByText("3 shots")).toBeTruthy();
    expect(screen.getByRole("button", { name: "New look" })).toBeTruthy();
    expect(await broken(container)).toEqual([]);
  });

  it("says what a misspelt word was taken for", async () => {
    ask({
      [cards("")]: page(card(1, "Ash"), card(2, "North window")),
      [cards("q=windwo")]: page(card(2, "North window")),
      "GET /catalogue/filters?q=windwo": {
        body: filterValues({ found: 1, taken_for: { windwo: ["window", "windows", "winding", "wind"] } }),
      },
    });
    open();
    await userEvent.type(await screen.findByRole("textbox", { name: "Search" }), "windwo");
    expect(
      await screen.findByText("No look holds “windwo”. Nearest to it: window, windows, winding."),
    ).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Show all" }));
    await waitFor(() => expect(screen.queryByText(/No look holds/)).toBeNull());
  });

  it("is narrowed by tags, light and status together, which stand in the address", async () => {
    const counts = {
      body: filterValues({
        found: 1,
        tags: [{ name: "warm", count: 1 }],
        lights: [{ name: "dusk", count: 1 }],
      }),
    };
    ask({
      [cards("")]: page(card(1, "Ash"), card(2, "Ember")),
      [cards("tag=dusk")]: page(card(2, "Ember")),
      [cards("tag=dusk&tag=warm")]: page(card(2, "Ember")),
      "GET /catalogue/filters?tag=dusk": counts,
      "GET /catalogue/filters?tag=dusk&tag=warm": counts,
    });
    open();
    await userEvent.click(await screen.findByRole("button", { name: "dusk" }));
    expect(await screen.findByText("1 of 2 looks")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "warm" }));
    await waitFor(() => expect(address().getAll("tag")).toEqual(["dusk", "warm"]));
    await userEvent.click(await screen.findByRole("button", { name: "Show all" }));
    expect([...address().keys()]).toEqual([]);
  });

  it("is narrowed to a range of a trait by keys; an end of the scale is open", async () => {
    ask({
      [cards("")]: page(card(1, "Ash")),
      [cards("range=warmth%3A-59%3A")]: page(card(2, "Ember")),
      "GET /catalogue/filters?range=warmth%3A-59%3A": { body: filterValues({ found: 1 }) },
    });
    open();
    const thumb = await screen.findByRole("slider", { name: /Warmth, from/ });
    thumb.focus();
    await userEvent.keyboard("{ArrowRight}");
    await waitFor(() => expect(address().getAll("range")).toEqual(["warmth:-59:"]));
    expect(screen.getByText("over −59")).toBeTruthy();
    await userEvent.keyboard("{ArrowLeft}");
    await waitFor(() => expect(address().getAll("range")).toEqual([]));
  });

  it("searches when the typing rests, and says so where nothing fits", async () => {
    const asked = ask({
      [cards("")]: page(card(1, "Ash")),
      [cards("q=slate")]: page(),
      "GET /catalogue/filters?q=slate": { body: filterValues({ found: 0 }) },
    });
    open();
    await screen.findByRole("button", { name: "Try Ash" });
    await userEvent.type(screen.getByRole("textbox", { name: "Search" }), "slate");
    expect(await screen.findByText("No look fits")).toBeTruthy();
    expect(address().get("q")).toBe("slate");
    expect(asked.filter((a) => a.what.startsWith("GET /catalogue?q=s")).map((a) => a.what)).toEqual([
      cards("q=slate"),
    ]);
  });

  it("keeps the frame that looks are shown on, and goes through frames by keys", async () => {
    ask({ [cards("")]: page(card(1, "Ash")) });
    open("/catalogue?frame=2");
    expect(await screen.findByRole("img", { name: "Yard under Ash" })).toBeTruthy();
    await userEvent.keyboard(",");
    expect(await screen.findByRole("img", { name: "Clay heads under Ash" })).toBeTruthy();
    expect(address().get("frame")).toBe("1");
    expect(localStorage.getItem("saucer-frame")).toBe("1");
    fireEvent.keyDown(document.body, { key: "h" });
    expect((await screen.findByRole("img", { name: "Clay heads, original" })).getAttribute("src")).toContain(
      "/api/frames/1/still",
    );
    fireEvent.keyUp(document.body, { key: "h" });
    expect(await screen.findByRole("img", { name: "Clay heads under Ash" })).toBeTruthy();
  });

  it("likes a look and puts it into the tray by keys, which holds four", async () => {
    const asked = ask({
      [cards("")]: page(card(1, "Ash"), card(2, "Ember")),
      "PUT /catalogue/1/favourite": { status: 200 },
      "GET /catalogue/cards?look=1": { body: [card(1, "Ash")] },
    });
    open();
    const row = await screen.findByRole("row", { name: /Ash/ });
    row.focus();
    await userEvent.keyboard("t");
    const tray = await screen.findByRole("region", { name: "Tray" });
    expect(await within(tray).findByText("Ash")).toBeTruthy();
    expect(within(tray).getByText("room for three more")).toBeTruthy();
    expect(within(tray).getByRole("button", { name: "Side by side" }).hasAttribute("disabled")).toBe(true);
    await userEvent.keyboard("l");
    await waitFor(() =>
      expect(asked.find((a) => a.what === "PUT /catalogue/1/favourite")?.body).toEqual({ likes: true }),
    );
    act(() => [2, 3, 4, 5].forEach((id) => useTray.getState().turn(id)));
    expect(useTray.getState().looks).toEqual([2, 3, 4, 5]);
    expect(JSON.parse(localStorage.getItem("saucer-tray")!)).toEqual([2, 3, 4, 5]);
  });

  it("moves a card in a collection's order by keys, and says so where somebody was quicker", async () => {
    const asked = ask({
      [cards("collection=Kiln&order=by%20hand")]: page(card(1, "Ash"), card(2, "Ember"), card(3, "Straw")),
      "GET /catalogue/filters?collection=Kiln&order=by%20hand": { body: filterValues({ found: 3 }) },
      "GET /collections/Kiln": { body: { name: "Kiln", note: "", search: "", version: 4, looks: [1, 2, 3] } },
      "PUT /collections/Kiln/looks": { status: 409, body: { message: "Somebody changed this collection." } },
    });
    open("/catalogue?collection=Kiln&order=by+hand");
    await screen.findByText(/drag the cards/);
    (await screen.findByRole("row", { name: /Ash/ })).focus();
    await userEvent.keyboard("{Alt>}{ArrowRight}{/Alt}");
    await waitFor(() =>
      expect(asked.find((a) => a.what === "PUT /collections/Kiln/looks")?.body).toEqual({
        looks: [2, 1, 3],
        version: 4,
      }),
    );
    expect(await screen.findByText("Somebody changed this collection.")).toBeTruthy();
  });

  it("keeps a search, and opens it again", async () => {
    let kept: unknown[] = [];
    const asked = ask({
      [cards("tag=dusk")]: page(card(2, "Ember")),
      [cards("tag=dusk&order=warmth")]: page(card(2, "Ember")),
      "GET /catalogue/filters?tag=dusk": { body: filterValues({ found: 1 }) },
      "GET /catalogue/filters?tag=dusk&order=warmth": { body: filterValues({ found: 1 }) },
      "GET /catalogue/searches": () => ({ body: kept }),
      "POST /catalogue/searches": (body) => {
        kept = [{ id: 7, ...(body as object) }];
        return { status: 201, body: kept[0] };
      },
      [cards("")]: page(card(1, "Ash")),
    });
    open("/catalogue?tag=dusk&order=warmth&frame=2");
    await userEvent.click(await screen.findByRole("button", { name: "Keep this search" }));
    await userEvent.type(await screen.findByRole("textbox", { name: "Name" }), "Dusk{Enter}");
    await waitFor(() =>
      expect(asked.find((a) => a.what === "POST /catalogue/searches")?.body).toEqual({
        name: "Dusk",
        search: "tag=dusk&order=warmth",
      }),
    );
    const search = await screen.findByRole("button", { name: "Dusk" });
    expect(search.getAttribute("aria-pressed")).toBe("true");
    await userEvent.click(screen.getByRole("button", { name: "Show all" }));
    await userEvent.click(screen.getByRole("button", { name: "Dusk" }));
    await waitFor(() => expect(address().get("order")).toBe("warmth"));
    expect(address().getAll("tag")).toEqual(["dusk"]);
  });

  it("lets go of a chosen value that leaves nothing any more", async () => {
    ask({
      [cards("maker=Somebody")]: page(),
      "GET /catalogue/filters?maker=Somebody": { body: filterValues({ found: 0 }) },
      [cards("")]: page(card(1, "Ash")),
    });
    open("/catalogue?maker=Somebody");
    await userEvent.click(await screen.findByRole("button", { name: "Somebody 0" }));
    await waitFor(() => expect(address().getAll("maker")).toEqual([]));
  });

  it("says what went wrong, and asks again when told to", async () => {
    let down = true;
    ask({
      [cards("")]: () =>
        down ? { status: 503, body: { message: "The server is busy." } } : page(card(1, "Ash")),
    });
    open();
    expect(await screen.findByText("The server is busy.")).toBeTruthy();
    down = false;
    await userEvent.click(screen.getByRole("button", { name: "Try again" }));
    expect(await screen.findByRole("button", { name: "Try Ash" })).toBeTruthy();
  });
});

test("pictures of cards are never scaled up, and as small as the screen allows", () => {
  expect([drawnAt("small", 1), drawnAt("middle", 1), drawnAt("large", 1)]).toEqual([320, 320, 480]);
  expect([drawnAt("small", 2), drawnAt("middle", 2), drawnAt("large", 3)]).toEqual([480, 640, 640]);
});
