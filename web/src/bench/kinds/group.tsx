/** Group. */
import type { StepView } from "./kind";
import { Said } from "../../kit/layout";

function GroupEditor() {
  return <Said>Everything in this group is eased, blended and switched together.</Said>;
}

export const group: StepView<"group"> = {
  Editor: GroupEditor,
  summary: ({ steps }) => `${steps.length} ${steps.length === 1 ? "step" : "steps"}`,
  Thumb: () => null,
};
