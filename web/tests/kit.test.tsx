import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { describe, expect, it, vi } from "vitest";
import { Problem } from "../src/api/client";
import type { Parameter } from "../src/api/types";
import { Amount, digitsFor } from "../src/kit/amount";
import { Button } from "../src/kit/button";
import { Choice } from "../src/kit/choice";
import { Segments } from "../src/kit/segments";
import { Switch } from "../src/kit/switch";
import { Text } from "../src/kit/text";
import { Empty } from "../src/kit/empty";
import { Notice } from "../src/kit/notice";
import { Sheet } from "../src/kit/sheet";
import { Trouble } from "../src/kit/trouble";
import { Waiting } from "../src/kit/waiting";
import { signed } from "../src/kit/signed";
import { broken, shown } from "./shown";

const STRENGTH: Parameter = {
  title: "Strength",
  label: "Strength",
  default: 1,
  minimum: 0,
  maximum: 1,
  unit: "%",
  fine: 0.01,
  coarse: 0.1,
  scale: 100,
  help: "",
};
const STOPS: Parameter = {
  ...STRENGTH,
  title: "Exposure",
  label: "Exposure",
  default: 0,
  minimum: -8,
  maximum: 8,
  unit: "stops",
  fine: 0.05,
  coarse: 0.5,
  scale: 1,
};

function Held({
  parameter,
  start,
  heard,
}: {
  parameter: Parameter;
  start: number;
  heard: (v: number) => void;
}) {
  const [value, setValue] = useState(start);
  return (
    <Amount
      parameter={parameter}
      value={value}
      onChange={(v) => {
        heard(v);
        setValue(v);
      }}
    />
  );
}

describe("a number with a line", () => {
  it("is shown in the unit of the screen and kept in that of the core", async () => {
    const heard = vi.fn();
    const { container } = shown(<Held parameter={STRENGTH} start={0.5} heard={heard} />);
    const box = screen.getByRole<HTMLInputElement>("textbox", { name: "Strength" });
    expect(box.value).toBe("50");
    expect(screen.getByText("%")).toBeTruthy();
    await userEvent.clear(box);
    await userEvent.type(box, "72.4{Enter}");
    expect(heard).toHaveBeenLastCalledWith(0.72);
    expect(await broken(container)).toEqual([]);
  });

  it("is held to what the core allows, and moves by fine steps with the arrows", async () => {
    const heard = vi.fn();
    shown(<Held parameter={STOPS} start={0} heard={heard} />);
    const box = screen.getByRole("textbox", { name: "Exposure" });
    await userEvent.clear(box);
    await userEvent.type(box, "99{Enter}");
    expect(heard).toHaveBeenLastCalledWith(8);
    const line = screen.getByRole("slider", { name: "Exposure, slider" });
    line.focus();
    await userEvent.keyboard("{ArrowLeft}");
    expect(heard).toHaveBeenLastCalledWith(7.95);
  });

  it("shows as many digits as its finest step has", () => {
    expect([0.05, 0.002, 1, 10, 0.5].map(digitsFor)).toEqual([2, 3, 0, 0, 1]);
  });

  it("may not be changed where it is switched off", async () => {
    const heard = vi.fn();
    shown(<Amount parameter={STOPS} value={1} onChange={heard} disabled />);
    expect(screen.getByRole<HTMLInputElement>("textbox").disabled).toBe(true);
    expect(screen.getByRole<HTMLInputElement>("slider").disabled).toBe(true);
  });
});

describe("controls", () => {
  it("have names, are reached by keyboard, and say what was chosen", async () => {
    const heard = vi.fn();
    const { container } = shown(
      <main>
        <Switch label="Keep white" on={false} onChange={heard} />
        <Segments
          label="Zone"
          options={
            [
              ["a", "Shadows"],
              ["b", "Lights"],
            ] as const
          }
          chosen="a"
          onChange={heard}
        />
        <Choice
          label="Blend"
          options={[
            { key: "normal", label: "normal" },
            { key: "multiply", label: "multiply", note: "darker" },
          ]}
          chosen="normal"
          onChange={heard}
        />
        <Text label="Title" value="" onChange={heard} maxLength={10} />
        <Button onPress={() => void heard("pressed")}>Keep</Button>
      </main>,
    );
    await userEvent.click(screen.getByRole("switch", { name: "Keep white" }));
    expect(heard).toHaveBeenLastCalledWith(true);
    await userEvent.click(screen.getByRole("radio", { name: "Lights" }));
    expect(heard).toHaveBeenLastCalledWith("b");
    screen.getByRole("button", { name: "Keep" }).focus();
    await userEvent.keyboard("{Enter}");
    expect(heard).toHaveBeenLastCalledWith("pressed");
    await userEvent.click(screen.getByRole("button", { name: /Blend/ }));
    await userEvent.click(within(screen.getByRole("listbox")).getByRole("option", { name: /multiply/ }));
    expect(heard).toHaveBeenLastCalledWith("multiply");
    await userEvent.type(screen.getByRole("textbox", { name: "Title" }), "x");
    expect(heard).toHaveBeenLastCalledWith("x");
    expect(await broken(container)).toEqual([]);
  });

  it("a segment that is chosen stays chosen when it is pressed again", async () => {
    const heard = vi.fn();
    shown(
      <Segments
        label="Zone"
        options={
          [
            ["a", "Shadows"],
            ["b", "Lights"],
          ] as const
        }
        chosen="a"
        onChange={heard}
      />,
    );
    await userEvent.click(screen.getByRole("radio", { name: "Shadows" }));
    expect(heard.mock.calls.every(([key]) => key === "a")).toBe(true);
    expect(screen.getByRole("radio", { name: "Shadows" }).getAttribute("aria-checked")).toBe("true");
  });
});

describe("sheets and states", () => {
  it("a sheet has its title as its name and is closed by Escape and by its button", async () => {
    const close = vi.fn();
    shown(
      <Sheet title="Bake" note="film log" width={400} onClose={close}>
        inside
      </Sheet>,
    );
    const dialog = screen.getByRole("dialog", { name: "Bake" });
    expect(within(dialog).getByText("inside")).toBeTruthy();
    expect(await broken(dialog)).toEqual([]);
    await userEvent.click(within(dialog).getByRole("button", { name: "Close" }));
    await userEvent.keyboard("{Escape}");
    expect(close).toHaveBeenCalledTimes(2);
  });

  it("what is wrong is said as an alert, in the server's words", () => {
    shown(
      <>
        <Trouble error={new Problem(409, "Somebody saved since.")} />
        <Trouble error={null} />
        <Notice actions={<button>Go on</button>}>Look</Notice>
      </>,
    );
    expect(screen.getAllByRole("alert").map((a) => a.textContent)).toEqual([
      "Somebody saved since.",
      "LookGo on",
    ]);
  });

  it("a page that waits says so; one that failed offers to try again, but not where that is no use", async () => {
    const again = vi.fn();
    const at = (error: unknown) => (
      <Waiting query={{ isPending: !error, error, refetch: again }} what="catalogue" />
    );
    const { rerender } = shown(at(null));
    expect(screen.getByRole("status", { name: "Loading catalogue" })).toBeTruthy();
    rerender(at(new Problem(503, "busy")));
    expect(screen.getByRole("heading", { name: "The catalogue did not arrive" })).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Try again" }));
    expect(again).toHaveBeenCalledOnce();
    rerender(at(new Problem(403, "Leads run projects.")));
    expect(screen.getByRole("heading", { name: "Not for your role" })).toBeTruthy();
    expect(screen.queryByRole("button")).toBeNull();
    rerender(at(new Problem(404, "gone")));
    expect(screen.getByRole("heading", { name: "Not here" })).toBeTruthy();
    rerender(
      <Empty title="Nothing yet" action={<button>Begin</button>}>
        Bring a frame.
      </Empty>,
    );
    expect(screen.getByText("Bring a frame.")).toBeTruthy();
  });

  it("numbers carry their sign, and what rounds to nothing has none", () => {
    expect([signed(2), signed(-2.346), signed(0.001), signed(-0.4, 0)]).toEqual(["+2", "−2.35", "0", "0"]);
  });
});
