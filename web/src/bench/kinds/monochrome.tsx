/** Monochrome: hues over what becomes of them, the tones below, and how much of each channel goes in. */
import styled from "styled-components";
import type { Trace } from "../../viewer/table";
import { percent } from "../percent";
import { numbers, strings } from "../trace";
import type { EditorProps, StepView } from "./kind";
import { Whole } from "./numbers";
import { HuesThumb } from "./thumbs";

function MonochromeEditor(props: EditorProps<"monochrome">) {
  return (
    <>
      <Drained trace={props.trace} />
      <Whole {...props} />
    </>
  );
}

const Bands = styled.div`
  margin-bottom: 12px;
  div {
    display: flex;
    height: 26px;
  }
  div.tones {
    height: 14px;
    margin-top: 6px;
  }
  span {
    flex: 1;
  }
  p {
    color: var(--t2);
    font-size: 11.5px;
    margin-top: 4px;
  }
`;

function Band({ colours, label, className }: { colours: string[]; label: string; className?: string }) {
  return (
    <div role="img" aria-label={label} className={className}>
      {colours.map((c, k) => (
        <span key={k} style={{ background: c }} />
      ))}
    </div>
  );
}

function Drained({ trace }: { trace: Trace | undefined }) {
  const names = ["red", "green", "blue"];
  const weights = numbers(trace, "weights")
    .map((w, k) => `${Math.round(w * 100)} % ${names[k]!}`)
    .join(", ");
  return (
    <Bands>
      <Band label="Hues before" colours={strings(trace, "before")} />
      <Band label="Hues after" colours={strings(trace, "after")} />
      <Band label="Black to white after" colours={strings(trace, "tones")} className="tones" />
      <p>grey of {weights || "…"}</p>
    </Bands>
  );
}

export const monochrome: StepView<"monochrome"> = {
  Editor: MonochromeEditor,
  summary: (step) => (step.toning ? `${percent(step.amount)}, toned` : percent(step.amount)),
  Thumb: HuesThumb,
};
