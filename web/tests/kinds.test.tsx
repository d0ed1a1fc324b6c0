/**
 * Every kind of step: its editor, its thumbnail and its row, with the parameters that the OpenAPI document
 * declares.
 */
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeAll, describe, expect, it, vi } from "vitest";
import document_ from "../openapi.json";
import type { Encoding, Kind, Step } from "../src/api/types";
import { Editor, summary, TinyTrace } from "../src/bench/kinds/registry";
import { numbersOf } from "../src/bench/parameters";
import { broken, server, shown } from "./shown";

interface Schema {
  $ref?: string;
  default?: unknown;
  type?: string;
  enum?: unknown[];
  const?: unknown;
  minItems?: number;
  anyOf?: Schema[];
  allOf?: Schema[];
  properties?: Record<string, Schema>;
}
const SCHEMAS = document_.components.schemas as unknown as Record<string, Schema>;
const named = (ref: string) => SCHEMAS[ref.split("/").at(-1)!]!;

/** What the server fills in where nothing is said. */
function filled(schema: Schema): unknown {
  if (schema.$ref) return filled(named(schema.$ref));
  if (schema.allOf) return filled(schema.allOf[0]!);
  if (schema.default !== undefined) return schema.default;
  if (schema.const !== undefined) return schema.const;
  if (schema.enum) return schema.enum[0];
  if (schema.anyOf) return null;
  if (schema.properties)
    return Object.fromEntries(Object.entries(schema.properties).map(([name, p]) => [name, filled(p)]));
  return { array: [], string: "", number: 0, integer: 0, boolean: false, object: {} }[
    schema.type ?? "string"
  ];
}

/** The names of the kinds, as the union of steps has them. */
const NAMES = Object.entries(SCHEMAS)
  .filter(([, s]) => s.properties?.kind && s.properties.strength && s.properties.blend)
  .map(([name]) => name);
const LINE = [
  [0, 0],
  [1, 1],
];
/** What a fresh step of these kinds begins with beside its defaults. */
const BEGINS: Record<string, object> = {
  curves: { all: LINE, red: LINE, green: LINE, blue: LINE, luma: LINE },
  tone_ramp: { stops: [0, 1].map((at) => ({ at, colour: { lightness: at, chroma: 0, hue: 60 } })) },
  hue_ranges: { ranges: [filled({ $ref: "HueRange" })] },
};

const kindOf = (name: string): Kind => {
  const schema = SCHEMAS[name]!;
  const kind = (filled(schema) as Step).kind;
  return {
    kind,
    title: name,
    purpose: "tone",
    summary: "",
    defaults: {},
    parameters: { ...schema, $defs: SCHEMAS },
  };
};
const stepOf = (name: string): Step => {
  const made = filled(SCHEMAS[name]!) as Step;
  return { ...made, id: "s", ...BEGINS[made.kind] };
};
const ENCODINGS = [
  { key: "bt709_display", label: "BT.709 display", referred: "display" },
  { key: "film_log", label: "film log", referred: "scene" },
] as Encoding[];

beforeAll(() => {
  server({
    "GET /luts": { body: [] },
    "GET /catalogue?limit=200": { body: { cards: [], total: 0, found: 0 } },
  });
});

it("knows every kind that the document has", () => {
  expect(NAMES.length).toBeGreaterThan(18);
});

describe.each(NAMES)("%s", (name) => {
  const kind = kindOf(name);
  const step = stepOf(name);
  const edit = (change = vi.fn()) => ({
    change,
    ...shown(<Editor step={step} kind={kind} trace={undefined} encodings={ENCODINGS} change={change} />),
  });

  it("says in its row what it does", () => {
    const said = summary(step, (key) => `«${key}»`);
    expect(said).not.toBe("");
    expect(said).not.toMatch(/undefined|NaN|object/);
  });

  it("is drawn small with and without a trace", () => {
    const traces = [
      undefined,
      {
        x: [0, 1],
        all: [0, 1],
        red: [0, 1],
        green: [0, 1],
        blue: [0, 1],
        before: ["#000", "#fff"],
        after: ["#111", "#eee"],
        hue: [0, 360],
        gain: [1, 1],
      },
    ];
    for (const trace of traces) {
      const { container, unmount } = shown(<TinyTrace kind={step.kind} trace={trace} />);
      const svg = container.querySelector("svg")!;
      expect(svg.getAttribute("aria-hidden")).toBe("true");
      expect(svg.innerHTML).not.toMatch(/NaN|undefined/);
      unmount();
    }
  });

  it("has an editor in which everything has a name", async () => {
    const { container } = edit();
    expect(await broken(container)).toEqual([]);
    expect(container.innerHTML).not.toMatch(/NaN|undefined/);
  });

  it.runIf(numbersOf(kind).length && step.kind !== "zone_tint")(
    "changes its own numbers, one fine step at a key",
    async () => {
      const [first, declared] = numbersOf(kind)[0]!;
      const { change } = edit();
      const slider = screen.getByRole("slider", { name: `${declared.label}, slider` });
      slider.focus();
      await userEvent.keyboard(declared.default >= declared.maximum ? "{ArrowLeft}" : "{ArrowRight}");
      const calls = change.mock.calls as [string, (s: Step) => Step][];
      const [what, next] = calls.find(([w]) => w === first)!;
      expect(what).toBe(first);
      const changed = next(step) as unknown as Record<string, number>;
      expect(Math.abs(changed[first]! - declared.default)).toBeCloseTo(declared.fine, 6);
      expect({ ...changed, [first]: declared.default }).toEqual({ ...step, [first]: declared.default });
    },
  );
});
