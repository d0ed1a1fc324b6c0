/** Group. */
import type { StepView } from "./kind";

function GroupEditor() {
  return <p style={{ color: "var(--t2)" }}>Everything in this group is eased, blended and switched together.</p>;
}

export const group: StepView<"group"> = {
  Editor: GroupEditor,
  summary: ({ steps }) => `${steps.length} ${steps.length === 1 ? "step" : "steps"}`,
  Thumb: () => null,
};
