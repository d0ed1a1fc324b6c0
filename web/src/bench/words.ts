/** A step in a few words, for its row. */
import type { Kind, Step } from "../api/types";
import { signed } from "../kit/signed";

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
    case "look":
      return step.name || "none chosen";
    case "roll_off":
      return (
        [step.lights ? `knee ${percent(step.lights)}` : "", step.darks ? `toe ${percent(step.darks)}` : ""].filter(Boolean).join(", ") ||
        "off"
      );
    case "hue_ranges":
      return `${step.ranges.length} ${step.ranges.length === 1 ? "range" : "ranges"}`;
    case "hue_curves": {
      const names = {
        hue_hue: "hue",
        hue_saturation: "saturation",
        hue_lightness: "lightness",
        lightness_saturation: "by lightness",
        saturation_saturation: "by saturation",
      } as const;
      const set = (Object.keys(names) as (keyof typeof names)[]).filter((n) => step[n].length).map((n) => names[n]);
      return set.length ? set.join(", ") : "flat";
    }
    case "monochrome":
      return step.toning ? `${percent(step.amount)}, toned` : percent(step.amount);
    case "slope_offset_power":
      return (
        [
          ...(["slope", "offset", "power"] as const).filter((n) =>
            [step.red, step.green, step.blue].some((row) => row[n] !== (n === "offset" ? 0 : 1)),
          ),
          ...(step.saturation === 1 ? [] : [`saturation ${step.saturation.toFixed(2)}`]),
        ].join(", ") || "nothing set"
      );
    case "lift_gamma_gain":
      return `${signed(step.master.lift, 3)} · ${step.master.gamma.toFixed(2)} · ${step.master.gain.toFixed(2)}`;
    case "colour_wash":
      return `hue ${Math.round(step.colour.hue ?? 0)}°, chroma ${(step.colour.chroma ?? 0).toFixed(2)}`;
    case "tone_ramp":
      return `${step.stops.length} stops, ${percent(step.amount)}`;
    case "group":
      return `${step.steps.length} ${step.steps.length === 1 ? "step" : "steps"}`;
  }
}

export const titleOf = (step: Step, kinds: Kind[]): string => step.label || kinds.find((k) => k.kind === step.kind)?.title || step.kind;
