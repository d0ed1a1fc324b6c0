/** Contrast. */
import { percent } from "../percent";
import type { StepView } from "./kind";
import { PlainEditor } from "./numbers";

export const contrast: StepView<"contrast"> = {
  Editor: PlainEditor,
  summary: (step) => `× ${step.amount.toFixed(2)} around ${percent(step.pivot)}`,
};
