/** The order of steps: choosing, adding, removing, grouping, and steps from the clipboard. */
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it } from "vitest";
import type { Look } from "../src/api/types";
import { toText } from "../src/bench/clipboard";
import { Order } from "../src/bench/order";
import { undo, useBench } from "../src/bench/store";
import { useView } from "../src/bench/view";
import { createFeed } from "../src/viewer/live";
import { exposure, group, look, record } from "./looks";
import { broken, server, shown } from "./shown";
import { ENCODINGS, KINDS } from "./things";

const [own] = KINDS;
const kinds = [
  { ...own!, defaults: { ...exposure("new"), id: undefined } },
  { ...own!, kind: "group", title: "Group", purpose: "group", defaults: {} },
] as unknown as typeof KINDS;
const FINISH = Object.fromEntries(
  ["softening", "sharpening", "glow", "light_wash", "vignette", "grain"].map((name) => [name, { amount: 0 }]),
);
const whole = (body: unknown) => ({ body });
const ask = (more: Parameters<typeof server>[0] = {}) =>
  server({
    "GET /encodings": { body: ENCODINGS },
    "GET /presets?kind=group&encoding=bt709_display": { body: [] },
    "GET /finish": { body: { defaults: FINISH, begins: {}, parameters: { $defs: {} } } },
    "POST /whole": whole,
    ...more,
  });

const draft = () => useBench.getState().draft;
const ids = (of: Look = draft()) => of.steps.map((s) => s.id);
const list = () => within(screen.getByRole("grid", { name: "Steps" }));
const row = (k: number) => list().getAllByRole("row")[k]!;

function open(on: Look, readOnly = false) {
  ask();
  useBench.getState().open(record(1, on));
  return shown(
    <Order
      feed={createFeed()}
      kinds={kinds}
      readOnly={readOnly}
      broken={null}
      effect={null}
      onEffect={() => undefined}
      parent={null}
    />,
  );
}

beforeEach(() => sessionStorage.clear());

describe("the order", () => {
  it("lists the steps as they are computed, each with what it does", async () => {
    const { container } = open(look(exposure("a", 0.5), group("g", exposure("b", -1)), exposure("c")));
    expect(
      list()
        .getAllByRole("row")
        .map((r) => r.getAttribute("aria-label")),
    ).toHaveLength(4);
    expect(row(0).textContent).toContain("+0.5 stops");
    expect(row(1).textContent).toContain("1 step");
    expect(row(2).className).toContain("inside");
    expect(await broken(container)).toEqual([]);
  });

  it("removes what is chosen, and chooses what stood before it", async () => {
    open(look(exposure("a"), exposure("b"), exposure("c")));
    await userEvent.click(row(1));
    expect(useBench.getState().chosen).toEqual(new Set(["b"]));
    await userEvent.keyboard("{Delete}");
    expect(ids()).toEqual(["a", "c"]);
    expect(useBench.getState().chosen).toEqual(new Set(["a"]));
    undo();
    expect(ids()).toEqual(["a", "b", "c"]);
  });

  it("moves and eases the chosen step by keys", async () => {
    open(look(exposure("a"), exposure("b")));
    await userEvent.click(row(0));
    await userEvent.keyboard("{Alt>}{ArrowDown}{/Alt}");
    expect(ids()).toEqual(["b", "a"]);
    await userEvent.keyboard("{Alt>}{Shift>}{ArrowLeft}{/Shift}{ArrowLeft}{/Alt}");
    expect(draft().steps[1]!.strength).toBeCloseTo(0.89);
  });

  it("switches a step off without losing it", async () => {
    open(look(exposure("a")));
    await userEvent.click(within(row(0)).getByRole("switch", { name: "Exposure on" }));
    expect(draft().steps[0]).toMatchObject({ id: "a", on: false });
  });

  it("duplicates and groups by its menu", async () => {
    open(look(exposure("a", 1), exposure("b")));
    await userEvent.click(row(0));
    const menu = async (name: RegExp) => {
      await userEvent.click(screen.getByRole("button", { name: /^(Step|\d steps) ▾/ }));
      await userEvent.click(await screen.findByRole("menuitem", { name }));
    };
    await menu(/Duplicate/);
    expect(draft().steps.map((s) => (s as { stops: number }).stops)).toEqual([1, 1, 0]);
    await menu(/Group/);
    expect(draft().steps[1]).toMatchObject({ kind: "group", steps: [{ kind: "exposure", stops: 1 }] });
    await menu(/See this step alone/);
    expect(useView.getState().only).toBe(draft().steps[1]!.id);
  });

  it("takes steps from the clipboard that the server can compute, under ids of their own", async () => {
    open(look(exposure("a")));
    fireEvent.paste(screen.getByRole("complementary", { name: "Order" }), {
      clipboardData: { getData: () => toText([exposure("a", 2)]) },
    });
    await waitFor(() => expect(draft().steps).toHaveLength(2));
    expect(draft().steps[1]).toMatchObject({ kind: "exposure", stops: 2 });
    expect(draft().steps[1]!.id).not.toBe("a");
  });

  it("says why steps cannot be put here, and changes nothing", async () => {
    open(look(exposure("a")));
    const paste = (text: string) =>
      fireEvent.paste(screen.getByRole("complementary", { name: "Order" }), {
        clipboardData: { getData: () => text },
      });
    paste("a shopping list");
    expect((await screen.findByRole("alert")).textContent).toContain("The clipboard holds no steps");
    ask({ "POST /whole": { status: 422, body: { message: "too deep" } } });
    paste(toText([exposure("x")]));
    await waitFor(() =>
      expect(screen.getByRole("alert").textContent).toBe("These steps cannot be put here. too deep"),
    );
    expect(ids()).toEqual(["a"]);
  });

  it("offers every kind by its purpose where there is no step", async () => {
    open(look());
    await userEvent.click(
      within(screen.getByRole("region", { name: "Step by step" })).getByRole("button", { name: "Exposure" }),
    );
    expect(draft().steps).toMatchObject([{ kind: "exposure", stops: 0 }]);
    expect(useBench.getState().edit).toBe("Add exposure");
  });

  it("changes nothing for somebody who only looks on", async () => {
    open(look(exposure("a"), exposure("b")), true);
    await userEvent.click(row(0));
    await userEvent.keyboard("{Delete}{Alt>}{ArrowDown}{/Alt}");
    expect(ids()).toEqual(["a", "b"]);
    expect(screen.queryByRole("button", { name: "Add a step" })).toBeNull();
    expect(within(row(0)).getByRole("switch")).toHaveProperty("disabled", true);
  });
});
