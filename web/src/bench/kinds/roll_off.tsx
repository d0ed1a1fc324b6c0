/** Roll-off. */
import { percent } from "../percent";
import type { StepView } from "./kind";
import { PlainEditor } from "./numbers";

export const roll_off: StepView<"roll_off"> = {
  Editor: PlainEditor,
  summary: ({ lights, darks }) =>
    [lights ? `knee ${percent(lights)}` : "", darks ? `toe ${percent(darks)}` : ""]
      .filter(Boolean)
      .join(", ") || "off",
};
