/** Exposure. */
import { signed } from "../../kit/signed";
import type { StepView } from "./kind";
import { PlainEditor } from "./numbers";

export const exposure: StepView<"exposure"> = {
  Editor: PlainEditor,
  summary: (step) => `${signed(step.stops)} stops`,
};
