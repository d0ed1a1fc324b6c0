/**
 * A number with a line to drag: type it, drag it, use the arrow keys, or double-click back to the default.
 */
import { memo, useCallback, useLayoutEffect, useRef } from "react";
import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import type { Parameter } from "../api/types";
import { NumberBox } from "./numberbox";

const Box = styled.div`
  display: grid;
  grid-template-columns: 1fr auto auto;
  align-items: baseline;
  column-gap: 5px;
  padding: 3px 0;
  .name {
    color: var(--t2);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .name.set {
    color: var(--t1);
  }
  .unit {
    color: var(--t3);
    font-size: 12px;
    min-width: 14px;
  }
  .line {
    grid-column: 1 / -1;
  }
`;

export const Line = styled(Slider)`
  display: block;
  .track {
    height: 18px;
    position: relative;
    cursor: pointer;
    touch-action: none;
  }
  .track:before {
    content: "";
    position: absolute;
    left: 0;
    right: 0;
    top: 8.5px;
    height: 1px;
    background: var(--g4);
  }
  .fill {
    position: absolute;
    top: 8px;
    height: 2px;
    background: var(--t2);
  }
  .stop {
    position: absolute;
    top: 5px;
    width: 8px;
    height: 8px;
    margin-left: -4px;
    border-radius: 2px;
    border: 1px solid var(--g1);
  }
  .thumb {
    width: 12px;
    height: 12px;
    border-radius: 50%;
    background: var(--g1);
    border: 2px solid var(--t1);
    top: 9px;
  }
  .thumb[data-dragging] {
    background: var(--t1);
  }
  .thumb[data-focus-visible] {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
  &[data-disabled] .thumb {
    border-color: var(--g4);
  }
`;

/** Digits that show the finest step. */
export function digitsFor(fine: number): number {
  return Math.max(0, Math.ceil(-Math.log10(fine) - 1e-9));
}

interface AmountProps {
  parameter: Parameter;
  value: number;
  onChange: (value: number) => void;
  label?: string;
  disabled?: boolean;
  /** Colours, separated by spaces, that stand at even places along the line. */
  stops?: string;
}

export function Amount(props: AmountProps) {
  const latest = useRef(props.onChange);
  useLayoutEffect(() => {
    latest.current = props.onChange;
  });
  const stable = useCallback((value: number) => latest.current(value), []);
  return <Drawn {...props} onChange={stable} />;
}

/** Drawn anew only when its own number changed: a control holds many. */
const Drawn = memo(function Drawn(props: AmountProps) {
  const { parameter: p, value } = props;
  const label = props.label ?? p.label;
  const shown = value * p.scale;
  const fine = p.fine * p.scale;
  const low = p.minimum * p.scale;
  const high = p.maximum * p.scale;
  const share = (v: number) => ((v - low) / (high - low)) * 100;
  const stops = props.stops?.split(" ") ?? [];
  const rest = share(Math.min(Math.max(p.default * p.scale, low), high));
  const set = (v: number) => props.onChange(Number((v / p.scale).toFixed(6)));
  // A decimal point must always be taken: were it refused, 72.4 would be read as 724.
  const digits = Math.max(1, digitsFor(fine));
  return (
    <Box title={p.help || undefined}>
      <span className={value === p.default ? "name" : "name set"}>{label}</span>
      <NumberBox
        label={label}
        value={Number(shown.toFixed(4))}
        low={low}
        high={high}
        fine={fine}
        digits={digits}
        onChange={set}
        disabled={props.disabled}
      />
      <span className="unit">{p.unit}</span>
      <Line
        className="line"
        aria-label={`${label}, slider`}
        value={shown}
        minValue={low}
        maxValue={high}
        step={fine}
        isDisabled={props.disabled}
        onChange={(v) => set(v as number)}
      >
        <SliderTrack className="track" onDoubleClick={() => set(p.default * p.scale)}>
          <div
            className="fill"
            style={{ left: `${Math.min(rest, share(shown))}%`, width: `${Math.abs(share(shown) - rest)}%` }}
          />
          {stops.map((colour, k) => (
            <i
              key={k}
              className="stop"
              style={{ left: `${(k * 100) / (stops.length - 1)}%`, background: colour }}
            />
          ))}
          <SliderThumb className="thumb" />
        </SliderTrack>
      </Line>
    </Box>
  );
});
