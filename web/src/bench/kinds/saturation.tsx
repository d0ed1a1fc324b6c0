/** Saturation: its gain around the hue circle. */
import { percent } from "../percent";
import { numbers, path } from "../trace";
import type { EditorProps, StepView } from "./kind";
import { Whole } from "./numbers";
import { Line } from "./thumbs";
import styled from "styled-components";
import { Apart, Gap } from "../../kit/layout";
import { Ground } from "./plot";

/** Hues below their places: the number, and what it is called. */
const Hues = styled(Apart)`
  align-items: start;
  color: var(--t2);
  font-size: 12px;
`;

function SaturationEditor(props: EditorProps<"saturation">) {
  return (
    <>
      <Gain hue={numbers(props.trace, "hue")} gain={numbers(props.trace, "gain")} />
      <Whole {...props} />
    </>
  );
}

/** Saturation's gain around the hue circle. */
function Gain({ hue, gain }: { hue: number[]; gain: number[] }) {
  const [W, H] = [268, 90];
  if (!hue.length) return null;
  return (
    <div>
      <Ground width={W} height={H} viewBox={`0 0 ${W} ${H}`} role="img" aria-label="Gain of chroma over hue">
        <line x1={0} x2={W} y1={H / 2} y2={H / 2} stroke="var(--g4)" strokeDasharray="2 4" />
        <polyline
          points={path(
            hue.map((h) => h / 360),
            gain.map((g) => g / 2),
            W,
            H,
          )}
          fill="none"
          stroke="var(--t1)"
          strokeWidth={1.6}
        />
      </Ground>
      <Hues>
        <span>0° red</span>
        <span>90° yellow</span>
        <span>180° green</span>
        <span>270° blue</span>
        <span>360°</span>
      </Hues>
      <Gap />
    </div>
  );
}

const of = (values: number[], most: number) => values.map((v) => v / most);

export const saturation: StepView<"saturation"> = {
  Editor: SaturationEditor,
  summary: (step) => percent(step.amount),
  Thumb: ({ trace, high }) => (
    <Line high={high} x={of(numbers(trace, "hue"), 360)} y={of(numbers(trace, "gain"), 2)} />
  ),
};
