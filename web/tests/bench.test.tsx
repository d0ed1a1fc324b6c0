/** On the bench: what the checks find and mend, and what the draft is held against. */
import { act, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it } from "vitest";
import type { Check, LookRecord, StepOf } from "../src/api/types";
import { Checks } from "../src/bench/checks";
import { RivalMenu } from "../src/bench/rivals";
import { openStates } from "../src/bench/states";
import { useBench } from "../src/bench/store";
import { resetView, RIVALS, useView } from "../src/bench/view";
import { exposure, look, record } from "./looks";
import { broken, server, shown } from "./shown";
import { card, frame, revision } from "./things";

const DRAFT = look(exposure("a", 3));
const FRAMES = [frame(1), frame(2), frame(3, { chart: true })];
const check = (more: Partial<Check> = {}): Check => ({
  kind: "clipping",
  text: "4 % of Kiln mouth has no light left",
  amount: 0.04,
  step: "a",
  frame: 2,
  mask: "white",
  action: "Ease it",
  note: false,
  ...more,
});
const NOTE = check({
  kind: "finish",
  text: "The finish is not baked",
  step: "",
  frame: null,
  mask: "",
  action: "",
  note: true,
});
const ASKED = { look: DRAFT, frames: [1, 2] };

beforeEach(() => {
  resetView();
  sessionStorage.clear();
  openStates(7);
  useBench.getState().open(record(7, DRAFT));
});

describe("Checks", () => {
  const open = (found: Check[], more: Parameters<typeof server>[0] = {}, readOnly = false) => {
    const asked = server({ "POST /checks": { body: found }, ...more });
    const gone: number[] = [];
    const { container } = shown(
      <Checks draft={DRAFT} frames={FRAMES} readOnly={readOnly} onFrame={(id) => gone.push(id)} />,
    );
    return { asked, gone, container };
  };

  it("say in one line what is worst, of pictures and not of charts", async () => {
    const { asked, container } = open([check(), check({ kind: "skin", text: "Skin turns green" }), NOTE]);
    expect(screen.getByRole("status").textContent).toBe("Checking …");
    await screen.findByText("2 things to look at: 4 % of Kiln mouth has no light left");
    expect(asked).toEqual([{ what: "POST /checks", body: ASKED }]);
    await userEvent.click(screen.getByRole("button", { name: /things to look at/ }));
    expect(screen.getAllByRole("listitem").map((li) => li.querySelector("p")?.textContent)).toEqual([
      "4 % of Kiln mouth has no light left",
      "Skin turns green",
      "The finish is not baked",
    ]);
    expect(await broken(container)).toEqual([]);
  });

  it("say so where nothing is to be looked at, and have nothing to open", async () => {
    open([]);
    await screen.findByText("Checks: nothing to look at");
    expect(screen.getByRole<HTMLButtonElement>("button").disabled).toBe(true);
  });

  it("lead to the step, the frame and the place", async () => {
    const { gone } = open([check()]);
    await userEvent.click(await screen.findByRole("button", { name: /1 thing to look at/ }));
    await userEvent.click(screen.getByRole("button", { name: "Its step" }));
    expect([...useBench.getState().chosen]).toEqual(["a"]);
    await userEvent.click(screen.getByRole("button", { name: "Show where" }));
    expect(gone).toEqual([2]);
    expect(useView.getState()).toMatchObject({ mask: "white", show: "look" });
  });

  it("mend with one press, as one change that is taken back", async () => {
    const mended = look(exposure("a", 1));
    const { asked } = open([check()], { "POST /mend": { body: mended } });
    await userEvent.click(await screen.findByRole("button", { name: "Ease it" }));
    await waitFor(() => expect((useBench.getState().draft.steps[0] as StepOf<"exposure">).stops).toBe(1));
    expect(asked.at(-1)).toEqual({ what: "POST /mend", body: { ...ASKED, kind: "clipping", step: "a" } });
    expect(useBench.getState().edit).toBe("Ease it");
    useBench.temporal.getState().undo();
    expect(useBench.getState().draft).toEqual(DRAFT);
  });

  it("change nothing where the draft went on while the remedy was worked out", async () => {
    open([check()], {
      "POST /mend": () => {
        act(() => useBench.getState().change("Exposure", (d) => ({ ...d, steps: [exposure("a", 2)] })));
        return { body: look() };
      },
    });
    await userEvent.click(await screen.findByRole("button", { name: "Ease it" }));
    await screen.findByText("The draft changed while this was worked out. Press once more.");
    expect(useBench.getState().draft.steps).toHaveLength(1);
  });

  it("offer no remedy to whoever may not change the look", async () => {
    open([check()], {}, true);
    await screen.findByText(/1 thing to look at/);
    expect(screen.queryByRole("button", { name: "Ease it" })).toBeNull();
  });
});

describe("Held against", () => {
  const kin = { id: 3, name: "Slip, cooler" };
  const RECORD: LookRecord = {
    ...record(7, DRAFT),
    revisions: [
      revision(21, "Slip", { number: 2, look_id: 7, note: "tinted" }),
      revision(20, "Slip", { number: 1, look_id: 7 }),
    ],
    variations: [kin],
  };
  const BEFORE = look(exposure("a", 1));
  const open = (single = false, more: Parameters<typeof server>[0] = {}) => {
    server({
      "GET /catalogue?limit=200": {
        body: { cards: [card(7, "Slip", { revision: RECORD.revisions[0]! }), card(9, "Oxide")], total: 2 },
      },
      "GET /revisions/20/recipe": { body: BEFORE },
      "GET /looks/3": { body: { ...record(3, look()), name: kin.name } },
      ...more,
    });
    shown(<RivalMenu record={RECORD} frames={[frame(1, { name: "Wheel" })]} single={single} />);
  };
  const menu = async () => {
    await userEvent.click(screen.getByRole("button", { name: /^Held against/ }));
    return screen.findByRole("menu");
  };
  const names = () => useView.getState().rivals.map((r) => r.name);

  it("offers states, revisions, kin, other looks and reference pictures", async () => {
    open();
    const found = within(await menu());
    await found.findByRole("menuitem", { name: /Oxide/ });
    expect(found.getAllByRole("menuitem").map((m) => m.textContent)).toEqual([
      "Set the draft aside as a state",
      "r2tinted",
      "r1",
      "Slip, coolervariation",
      expect.stringContaining("Oxide"),
      "Wheel",
    ]);
  });

  it("holds as many as there is room for, the longest there making place, and takes all away", async () => {
    open();
    for (const name of ["r1", "Wheel", /Slip, cooler/]) {
      await userEvent.click(within(await menu()).getByRole("menuitem", { name }));
    }
    await waitFor(() => expect(names()).toEqual(["r1", "Wheel", "Slip, cooler"]));
    expect(useView.getState().rivals[0]?.look).toEqual(BEFORE);
    expect(useView.getState().rivals[1]).toMatchObject({ look: null, frame: 1 });
    expect(useView.getState().show).toBe("beside");
    screen.getByRole("button", { name: `Held against: 3 of ${RIVALS}` });
    await userEvent.click(
      within(await menu()).getByRole("menuitem", { name: "Set the draft aside as a state" }),
    );
    await userEvent.click(within(await menu()).getByRole("menuitem", { name: "State 1" }));
    await waitFor(() => expect(names()).toEqual(["Wheel", "Slip, cooler", "State 1"]));
    await userEvent.click(within(await menu()).getByRole("menuitem", { name: "Take all away" }));
    expect(names()).toEqual([]);
  });

  it("splits against one at a time, and no picture", async () => {
    open(true);
    const found = within(await menu());
    expect(found.queryByRole("menuitem", { name: "Wheel" })).toBeNull();
    await userEvent.click(found.getByRole("menuitem", { name: "r1" }));
    await screen.findByRole("button", { name: "Held against: against r1" });
    await userEvent.click(within(await menu()).getByRole("menuitem", { name: /Slip, cooler/ }));
    await waitFor(() => expect(names()).toEqual(["Slip, cooler"]));
    await userEvent.click(within(await menu()).getByRole("menuitem", { name: "Against the original" }));
    screen.getByRole("button", { name: "Held against: against the original" });
  });

  it("says why a revision cannot be had, and holds what it held", async () => {
    open(false, {
      "GET /revisions/20/recipe": { status: 404, body: { message: "There is nothing at this address." } },
    });
    await userEvent.click(within(await menu()).getByRole("menuitem", { name: "r1" }));
    await screen.findByText("There is nothing at this address.");
    expect(names()).toEqual([]);
  });
});
