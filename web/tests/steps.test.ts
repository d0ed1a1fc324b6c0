import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Look } from "../src/api/types";
import {
  copy,
  find,
  flatten,
  group as together,
  insert,
  move,
  remove,
  replace,
  shift,
  ungroup,
} from "../src/bench/steps";
import { anyLook, exposure, group, look } from "./looks";

const ids = (l: Look) => flatten(l.steps).map((p) => p.step.id);
const leaves = (l: Look) =>
  flatten(l.steps)
    .filter((p) => p.step.kind !== "group")
    .map((p) => p.step.id);
const sorted = (names: string[]) => [...names].sort();
/** A look and one of its steps. */
const withOne = anyLook.chain((l) => fc.record({ l: fc.constant(l), id: fc.constantFrom(...ids(l)) }));
const withTwo = anyLook.chain((l) =>
  fc.record({ l: fc.constant(l), id: fc.constantFrom(...ids(l)), target: fc.constantFrom(...ids(l)) }),
);

describe("moving", () => {
  it("loses no step and doubles none", () => {
    fc.assert(
      fc.property(
        withTwo,
        fc.constantFrom("before" as const, "after" as const),
        ({ l, id, target }, where) => {
          expect(sorted(ids(move(l, new Set([id]), target, where)))).toEqual(sorted(ids(l)));
        },
      ),
    );
  });

  it("puts a step right beside its target, at the target's depth", () => {
    fc.assert(
      fc.property(withTwo, ({ l, id, target }) => {
        const inside = flatten([find(l, id)!]).some((p) => p.step.id === target);
        const rows = flatten(move(l, new Set([id]), target, "before").steps);
        const at = rows.findIndex((p) => p.step.id === id);
        if (inside) expect(rows).toEqual(flatten(l.steps));
        else {
          const own = flatten([rows[at]!.step]).length;
          expect(rows[at + own]!.step.id).toBe(target);
          expect(rows[at + own]!.parent).toBe(rows[at]!.parent);
        }
      }),
    );
  });

  it("keeps the order of several that move together", () => {
    const l = look(exposure("a"), exposure("b"), exposure("c"), exposure("d"));
    expect(ids(move(l, new Set(["d", "a"]), "c", "before"))).toEqual(["b", "a", "d", "c"]);
  });

  it("takes a group with what is in it once, also where both are chosen", () => {
    const l = look(group("g", exposure("a"), exposure("b")), exposure("c"));
    const moved = move(l, new Set(["g", "a"]), "c", "after");
    expect(moved.steps.map((s) => s.id)).toEqual(["c", "g"]);
    expect(ids(moved)).toEqual(["c", "g", "a", "b"]);
  });
});

describe("one place up or down", () => {
  it("comes to the top in the end, and to the bottom", () => {
    fc.assert(
      fc.property(withOne, ({ l, id }) => {
        let [up, down] = [l, l];
        for (let k = 0; k < ids(l).length * 2; k++) {
          up = shift(up, id, -1);
          down = shift(down, id, 1);
        }
        expect(up.steps[0]!.id).toBe(id);
        expect(down.steps.at(-1)!.id).toBe(id);
        expect(sorted(ids(up))).toEqual(sorted(ids(l)));
        expect(sorted(ids(down))).toEqual(sorted(ids(l)));
      }),
    );
  });

  it("leaves all else in its order", () => {
    fc.assert(
      fc.property(withOne, fc.constantFrom(-1 as const, 1 as const), ({ l, id }, by) => {
        const own = new Set(flatten([find(l, id)!]).map((p) => p.step.id));
        const others = (x: Look) => ids(x).filter((k) => !own.has(k));
        expect(others(shift(l, id, by))).toEqual(others(l));
      }),
    );
  });

  it("goes through a group's door, not over it", () => {
    const l = look(exposure("a"), group("g", exposure("b")));
    expect(ids(shift(l, "a", 1))).toEqual(["g", "a", "b"]);
    expect(flatten(shift(l, "a", 1).steps)[1]!.parent).toBe("g");
    expect(flatten(shift(l, "b", 1).steps).map((p) => p.parent)).toEqual([null, null, null]);
  });
});

describe("groups", () => {
  it("hold what was chosen, where the first of it stood, and give it back", () => {
    const l = look(exposure("a"), exposure("b"), exposure("c"));
    const made = together(l, new Set(["c", "a"]));
    expect(made.look.steps.map((s) => s.id)).toEqual([made.id, "b"]);
    expect(
      flatten(made.look.steps)
        .filter((p) => p.parent === made.id)
        .map((p) => p.step.id),
    ).toEqual(["a", "c"]);
    expect(ids(ungroup(made.look, made.id))).toEqual(["a", "c", "b"]);
  });

  it("taken apart leave the same steps in the same order", () => {
    fc.assert(
      fc.property(anyLook, (l) => {
        const flat = ids(l)
          .filter((k) => find(l, k)!.kind === "group")
          .reduce(ungroup, l);
        expect(leaves(flat)).toEqual(leaves(l));
        expect(flat.steps.every((s) => s.kind !== "group")).toBe(true);
      }),
    );
  });

  it("are made of steps of other groups too", () => {
    fc.assert(
      fc.property(withTwo, ({ l, id, target }) => {
        const made = together(l, new Set([id, target]));
        expect(sorted(leaves(made.look))).toEqual(sorted(leaves(l)));
        expect(find(made.look, made.id)!.kind).toBe("group");
      }),
    );
  });
});

describe("changing", () => {
  it("gives new objects and leaves the old look as it was", () => {
    fc.assert(
      fc.property(withOne, ({ l, id }) => {
        const before = JSON.stringify(l);
        const changed = replace(l, id, (s) => ({ ...s, label: "new" }));
        remove(l, new Set([id]));
        insert(l, [exposure("x")], id, "after");
        shift(l, id, 1);
        expect(JSON.stringify(l)).toBe(before);
        expect(find(changed, id)!.label).toBe("new");
        expect(flatten(changed.steps).filter((p) => p.step.label === "new")).toHaveLength(1);
      }),
    );
  });

  it("removes a group with what is in it", () => {
    expect(ids(remove(look(group("g", exposure("a")), exposure("b")), new Set(["g"])))).toEqual(["b"]);
  });

  it("inserts at the end where the place has gone", () => {
    expect(ids(insert(look(exposure("a")), [exposure("b")], "gone", "before"))).toEqual(["a", "b"]);
  });

  it("copies with ids of its own all the way down", () => {
    fc.assert(
      fc.property(withOne, ({ l, id }) => {
        const step = find(l, id)!;
        const made = copy(step);
        const own = new Set(flatten([step]).map((p) => p.step.id));
        const seen = flatten([made]).map((p) => p.step.id);
        expect(new Set(seen).size).toBe(seen.length);
        expect(seen.some((k) => own.has(k))).toBe(false);
        expect(seen).toHaveLength(own.size);
      }),
    );
  });
});
