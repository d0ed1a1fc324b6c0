/** Encode: to which encoding, and how white is adapted. */
import { Choice } from "../../kit/choice";
import { EncodingChoice } from "../../kit/encodingchoice";
import { Gap } from "../../kit/layout";
import type { EditorProps, StepView } from "./kind";
import { Whole } from "./numbers";
import { RampPlot } from "./plot";

const SDR_WHITES = [
  { key: "203", label: "203 cd/m² (ITU-R BT.2408)" },
  { key: "100", label: "100 cd/m²" },
] as const;
const WHITES = [
  { key: "cat16", label: "CAT16" },
  { key: "bradford", label: "Bradford" },
] as const;

function EncodeEditor(props: EditorProps<"encode">) {
  const { step, change } = props;
  return (
    <>
      <RampPlot trace={props.trace} label={`Grey ramp after ${props.kind.title}`} />
      <EncodingChoice label="To" chosen={step.to} onChange={(to) => change("to", (s) => ({ ...s, to }))} />
      <Gap />
      <Whole {...props} />
      <Choice
        label="White adaptation"
        options={WHITES}
        chosen={step.adaptation}
        onChange={(adaptation) => change("adaptation", (s) => ({ ...s, adaptation }))}
      />
      <Choice
        label="White of a standard display, in PQ and HLG"
        options={SDR_WHITES}
        chosen={String(step.sdr_white ?? 203) as "203" | "100"}
        onChange={(key) => change("sdr_white", (s) => ({ ...s, sdr_white: key === "100" ? 100 : 203 }))}
      />
    </>
  );
}

export const encode: StepView<"encode"> = {
  Editor: EncodeEditor,
  summary: (step, label) => `to ${label(step.to)}`,
};
