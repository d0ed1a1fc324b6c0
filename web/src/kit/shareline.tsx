/** A share of one on a short line, with its per cent beside it. */
import { SliderThumb, SliderTrack } from "react-aria-components";
import { Line } from "./amount";

export function ShareLine(props: {
  label: string;
  value: number;
  onChange: (value: number) => void;
  /** Called once the hand lets go. */
  onSettle: (value: number) => void;
}) {
  return (
    <>
      <Line
        className="line"
        aria-label={props.label}
        minValue={0}
        maxValue={1}
        step={0.05}
        value={props.value}
        onChange={(v) => props.onChange(v as number)}
        onChangeEnd={(v) => props.onSettle(v as number)}
      >
        <SliderTrack className="track">
          <div className="fill" style={{ left: 0, width: `${props.value * 100}%` }} />
          <SliderThumb className="thumb" />
        </SliderTrack>
      </Line>
      <output>{Math.round(props.value * 100)} %</output>
    </>
  );
}
