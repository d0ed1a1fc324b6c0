/** Slope, offset, power. */
import { ChannelsEditor } from "./channels";
import type { StepView } from "./kind";

const ROWS = [
  ["red", "Red"],
  ["green", "Green"],
  ["blue", "Blue"],
] as const;

export const slope_offset_power: StepView<"slope_offset_power"> = {
  Editor: (props) => <ChannelsEditor<"slope_offset_power"> {...props} part="SopRow" rows={ROWS} />,
  summary: (step) => {
    const set = (["slope", "offset", "power"] as const).filter((n) =>
      [step.red, step.green, step.blue].some((row) => row[n] !== (n === "offset" ? 0 : 1)),
    );
    return (
      [...set, ...(step.saturation === 1 ? [] : [`saturation ${step.saturation.toFixed(2)}`])].join(", ") ||
      "nothing set"
    );
  },
};
