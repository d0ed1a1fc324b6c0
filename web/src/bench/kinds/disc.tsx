/** A disc of hues to set a colour's direction and amount on: by pointer, or with the arrow keys. */
import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import styled from "styled-components";

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
    border: 2px solid #fff;
    box-shadow: 0 0 0 1.5px #161616;
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
  const aim = (e: PointerEvent) => {
    if (e.type === "pointermove" && !disc.current!.hasPointerCapture(e.pointerId)) return;
    const box = disc.current!.getBoundingClientRect();
    const px = ((e.clientX - box.left) / box.width) * 2 - 1;
    const py = 1 - ((e.clientY - box.top) / box.height) * 2;
    const hue = ((Math.atan2(py, px) * 180) / Math.PI + 360) % 360;
    // Alt turns without changing the amount, Shift changes the amount without turning.
    props.onChange({
      ...(e.shiftKey ? {} : { hue: Number(hue.toFixed(1)) }),
      ...(e.altKey ? {} : { amount: Number(Math.min(Math.hypot(px, py) / EDGE, 1).toFixed(3)) }),
    });
  };
  const keys = (e: KeyboardEvent) => {
    const big = e.shiftKey ? 10 : 1;
    const amount = { ArrowUp: 0.01, ArrowDown: -0.01 }[e.key];
    const hue = { ArrowLeft: 1, ArrowRight: -1 }[e.key];
    if (amount) props.onChange({ amount: Number(Math.min(Math.max(value.amount + amount * big, 0), 1).toFixed(3)) });
    else if (hue) props.onChange({ hue: (value.hue + hue * big + 360) % 360 });
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <Round
      ref={disc}
      style={{ width: size, height: size }}
      title="Alt: turn only. Shift: amount only."
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        aim(e);
      }}
      onPointerMove={aim}
      onDoubleClick={props.onReset}
    >
      <img src="/api/saucer/neutral?size=336" alt="" />
      <svg viewBox="0 0 100 100" aria-hidden>
        <line x1={50} y1={50} x2={x} y2={y} stroke="#161616" strokeWidth={0.8} />
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
        onKeyDown={keys}
        style={{ left: `${x}%`, top: `${y}%`, background: props.swatch }}
      />
    </Round>
  );
}
