/** Balance: temperature and tint, or a grey that is picked in the picture. */
import { signed } from "../../kit/signed";
import { Pick } from "../pick";
import type { EditorProps, StepView } from "./kind";
import { Whole } from "./numbers";
import { RampPlot } from "./plot";
import { Dot } from "./thumbs";
import { Grow, Level } from "../../kit/layout";
import styled from "styled-components";

const Neutral = styled.span`
  width: 44px;
  height: 26px;
  border-radius: 3px;
`;

function BalanceEditor(props: EditorProps<"balance">) {
  const { step, trace, change } = props;
  return (
    <>
      <RampPlot trace={trace} label={`Grey ramp after ${props.kind.title}`} />
      {typeof trace?.neutral === "string" ? (
        <Level>
          <Neutral style={{ background: trace.neutral }} /> what a grey becomes
          <Grow />
          <Pick
            step={step.id}
            what="Pick a neutral"
            take={({ neutral }) =>
              neutral && change("neutral", (s) => ({ ...s, temperature: neutral[0], tint: neutral[1] }))
            }
          />
        </Level>
      ) : null}
      <Whole {...props} />
    </>
  );
}

export const balance: StepView<"balance"> = {
  Editor: BalanceEditor,
  summary: (step) => `${signed(step.temperature, 0)} warm, ${signed(step.tint, 0)} tint`,
  Thumb: ({ trace, high }) => <Dot colour={trace?.neutral} high={high} />,
};
