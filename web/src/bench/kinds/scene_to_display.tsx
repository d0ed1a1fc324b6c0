/** Scene to display: for which display, and the anchors of the tone scale. */
import type { EncodingKey } from "../../api/types";
import { Choice } from "../../kit/choice";
import { Gap } from "../../kit/layout";
import type { EditorProps, StepView } from "./kind";
import { Whole } from "./numbers";
import { RampPlot } from "./plot";

function SceneToDisplayEditor(props: EditorProps<"scene_to_display">) {
  const displays = props.encodings.filter((e) => e.referred === "display");
  return (
    <>
      <RampPlot trace={props.trace} label={`Grey ramp after ${props.kind.title}`} />
      <Choice
        label="To"
        options={displays.map((e) => ({ key: e.key, label: e.label }))}
        chosen={props.step.to}
        onChange={(to: EncodingKey) => props.change("to", (s) => ({ ...s, to }))}
      />
      <Gap />
      <Whole {...props} />
    </>
  );
}

export const scene_to_display: StepView<"scene_to_display"> = {
  Editor: SceneToDisplayEditor,
  summary: (step, label) => `to ${label(step.to)}`,
};
