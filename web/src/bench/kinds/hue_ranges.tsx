/** Hue ranges: the ring before and after, then a range at a time. */
import { useState } from "react";
import type { StepOf } from "../../api/types";
import { partNumbers } from "../parameters";
import { Pick } from "../pick";
import type { EditorProps, StepView } from "./kind";
import { Listed } from "./listed";
import { Part } from "./numbers";
import { Ring } from "./ring";
import { HuesThumb } from "./thumbs";

function HueRangesEditor({ step, kind, trace, change }: EditorProps<"hue_ranges">) {
  const [chosen, setAt] = useState(0);
  const at = chosen < step.ranges.length ? chosen : -1;
  const range = at >= 0 ? step.ranges[at] : undefined;
  const fresh = Object.fromEntries(
    partNumbers(kind, "HueRange").map(([n, p]) => [n, p.default]),
  ) as unknown as StepOf<"hue_ranges">["ranges"][number];
  const put = (what: string, ranges: StepOf<"hue_ranges">["ranges"]) =>
    change(what, (s) => ({ ...s, ranges }));
  /** The range nearest to a hue is chosen; a new one is made where none is near. */
  const picked = (hue: number) => {
    const off = step.ranges.map((r) => Math.abs(((hue - (r.hue ?? 0) + 540) % 360) - 180));
    const near = off.indexOf(Math.min(...off));
    if (step.ranges.length && (off[near]! < 12 || step.ranges.length >= 12)) setAt(near);
    else {
      put("add range", [...step.ranges, { ...fresh, name: "", hue: Number(hue.toFixed(1)) }]);
      setAt(step.ranges.length);
    }
  };
  return (
    <>
      <Ring
        trace={trace}
        marks={step.ranges.map((r) => r.hue ?? 30)}
        chosen={at}
        onMove={(k, hue) => {
          setAt(k);
          put(
            `hue ${k}`,
            step.ranges.map((r, i) => (i === k ? { ...r, hue } : r)),
          );
        }}
      />
      <Listed
        name="Range"
        count={step.ranges.length}
        at={at}
        onAt={setAt}
        least={0}
        most={12}
        extra={["rest", "everything else"]}
        onAdd={() => {
          put("add range", [
            ...step.ranges,
            { ...fresh, name: "", hue: ((step.ranges.at(-1)?.hue ?? 0) + 90) % 360 },
          ]);
          setAt(step.ranges.length);
        }}
        onRemove={() => {
          put(
            "remove range",
            step.ranges.filter((_, k) => k !== at),
          );
          setAt(0);
        }}
        more={
          <Pick step={step.id} what="Pick a hue" take={(found) => found.given && picked(found.given.hue)} />
        }
      >
        {range ? (
          <Part
            kind={kind}
            part="HueRange"
            value={range}
            onChange={(name, v) =>
              put(
                `range ${at} ${name}`,
                step.ranges.map((r, k) => (k === at ? { ...r, [name]: v } : r)),
              )
            }
          />
        ) : (
          <Part
            kind={kind}
            part="HueChange"
            value={step.rest}
            onChange={(name, v) => change(`rest ${name}`, (s) => ({ ...s, rest: { ...s.rest, [name]: v } }))}
          />
        )}
      </Listed>
    </>
  );
}

export const hue_ranges: StepView<"hue_ranges"> = {
  Editor: HueRangesEditor,
  summary: ({ ranges }) => `${ranges.length} ${ranges.length === 1 ? "range" : "ranges"}`,
  Thumb: HuesThumb,
};
