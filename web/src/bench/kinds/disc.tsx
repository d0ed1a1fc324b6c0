/** A disc of hues to set a colour's direction and amount on: by pointer, or with the arrow keys. */
import { useRef } from "react";
import styled from "styled-components";
import { useDrag } from "../../kit/drag";

/** Where the saucer's disc ends, as a part of half its width. */
const EDGE = 0.775;

const Round = styled.div`
  position: relative;
  touch-action: none;
  cursor: crosshair;
  flex: none;
  img {
    width: 100%;
    height: 100%;
    display: block;
    opacity: 0.9;
    pointer-events: none;
  }
  svg {
    position: absolute;
    inset: 0;
    pointer-events: none;
  }
  .knob {
    position: absolute;
    width: 16px;
    height: 16px;
    margin: -8px;
    border-radius: 50%;
    border: 2px solid var(--white);
    box-shadow: 0 0 0 1.5px var(--g0);
  }
`;

export interface Turned {
  /** Degrees of the hue circle. */
  hue: number;
  /** 0 in the middle, 1 at the edge. */
  amount: number;
}

export function Disc(props: {
  label: string;
  value: Turned;
  size: number;
  swatch?: string;
  onChange: (next: Partial<Turned>) => void;
  onReset?: () => void;
}) {
  const { value, size } = props;
  const disc = useRef<HTMLDivElement>(null);
  const turn = (value.hue * Math.PI) / 180;
  const reach = Math.min(value.amount, 1) * EDGE * 50;
  const [x, y] = [50 + Math.cos(turn) * reach, 50 - Math.sin(turn) * reach];
  const drag = useDrag(disc, {
    // Alt turns without changing the amount, Shift changes the amount without turning.
    to: (at, held) => {
      const [px, py] = [at[0] * 2 - 1, at[1] * 2 - 1];
      const hue = ((Math.atan2(py, px) * 180) / Math.PI + 360) % 360;
      props.onChange({
        ...(held.shiftKey ? {} : { hue: Number(hue.toFixed(1)) }),
        ...(held.altKey ? {} : { amount: Number(Math.min(Math.hypot(px, py) / EDGE, 1).toFixed(3)) }),
      });
    },
    arrow: (right, up, held) => {
      const big = held.shiftKey ? 10 : 1;
      if (up)
        props.onChange({
          amount: Number(Math.min(Math.max(value.amount + up * 0.01 * big, 0), 1).toFixed(3)),
        });
      else props.onChange({ hue: (value.hue - right * big + 360) % 360 });
    },
  });
  return (
    <Round
      ref={disc}
      style={{ width: size, height: size }}
      title="Alt: turn only. Shift: amount only."
      {...drag}
      onDoubleClick={props.onReset}
    >
      <img src="/api/saucer/neutral?size=336" alt="" />
      <svg viewBox="0 0 100 100" aria-hidden>
        <line x1={50} y1={50} x2={x} y2={y} stroke="var(--g0)" strokeWidth={0.8} />
      </svg>
      <span
        className="knob"
        role="slider"
        tabIndex={0}
        aria-label={props.label}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(value.amount * 100)}
        aria-valuetext={`hue ${Math.round(value.hue)}°, ${Math.round(value.amount * 100)} %`}
        style={{ left: `${x}%`, top: `${y}%`, background: props.swatch }}
      />
    </Round>
  );
}
