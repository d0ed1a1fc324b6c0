/** A step in a few words, for its row. */
import type { Kind, Step } from "../api/types";

const signed = (v: number, digits = 2) => `${v > 0 ? "+" : v < 0 ? "−" : ""}${Math.abs(v).toFixed(digits).replace(/\.?0+$/, "")}`;
const percent = (v: number) => `${Math.round(v * 100)} %`;

export function summary(step: Step, label: (encoding: string) => string): string {
  switch (step.kind) {
    case "exposure":
      return `${signed(step.stops)} stops`;
    case "contrast":
      return `× ${step.amount.toFixed(2)} around ${percent(step.pivot)}`;
    case "saturation":
      return percent(step.amount);
    case "balance":
      return `${signed(step.temperature, 0)} warm, ${signed(step.tint, 0)} tint`;
    case "curves": {
      const set = (["all", "red", "green", "blue", "luma"] as const).filter((c) => JSON.stringify(step[c]) !== "[[0,0],[1,1]]");
      return set.length ? set.join(", ") : "straight";
    }
    case "levels":
      return `${percent(step.all.in_black)} – ${percent(step.all.in_white)} in`;
    case "zone_tint": {
      const set = (["shadows", "midtones", "highlights", "overall"] as const).filter((z) => step[z].amount > 0);
      return set.length ? set.join(", ") : "no tint";
    }
    case "channel_mix":
      return step.keep_white ? "white kept" : "free";
    case "encode":
    case "scene_to_display":
      return `to ${label(step.to)}`;
    case "lut":
      return step.name || "none chosen";
    case "group":
      return `${step.steps.length} ${step.steps.length === 1 ? "step" : "steps"}`;
  }
}

export const titleOf = (step: Step, kinds: Kind[]): string =>
  step.label || kinds.find((k) => k.kind === step.kind)?.title || step.kind;
