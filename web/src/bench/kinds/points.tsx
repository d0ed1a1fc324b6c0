/** A plot with points that are set, moved and taken away by pointer and keys; its lines are the core's. */
import { useRef, type KeyboardEvent, type PointerEvent, type ReactNode } from "react";
import styled from "styled-components";

/** Both from 0 to 1, up and to the right. */
export type Point = [number, number];

const Svg = styled.svg`
  display: block;
  background: var(--g0);
  touch-action: none;
  cursor: crosshair;
  overflow: visible;
  circle {
    cursor: grab;
    outline: none;
  }
  circle:focus-visible {
    stroke: var(--accent);
    stroke-width: 3;
  }
`;

export function PointPlot(props: {
  label: string;
  width: number;
  height: number;
  points: Point[];
  chosen: number;
  onChoose: (k: number) => void;
  onMove: (k: number, to: Point) => void;
  /** Puts a point there and says which one it is; null where none can be. */
  onAdd: (at: Point) => number | null;
  onRemove: (k: number) => void;
  /** What a point is called, and what is said of where it stands. */
  name: (k: number) => string;
  said: (k: number) => string;
  value: (k: number) => number;
  /** One step of the arrow keys across and up; Shift takes ten. */
  fine: Point;
  children: ReactNode;
}) {
  const { width, height, points, fine } = props;
  const plot = useRef<SVGSVGElement>(null);
  const fresh = useRef<number | null>(null);
  const place = (e: PointerEvent): Point => {
    const box = plot.current!.getBoundingClientRect();
    return [(e.clientX - box.left) / box.width, 1 - (e.clientY - box.top) / box.height];
  };
  const grab = (k: number) => (e: PointerEvent<SVGElement>) => {
    e.stopPropagation();
    e.currentTarget.setPointerCapture(e.pointerId);
    e.currentTarget.focus();
    props.onChoose(k);
  };
  const keys = (k: number) => (e: KeyboardEvent) => {
    const [x, y] = points[k]!;
    const by = e.shiftKey ? 10 : 1;
    const move = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key];
    if (move) props.onMove(k, [x + move[0]! * by * fine[0], y + move[1]! * by * fine[1]]);
    else if (e.key === "Delete" || e.key === "Backspace") props.onRemove(k);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <Svg
      ref={plot}
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="group"
      aria-label={props.label}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        fresh.current = props.onAdd(place(e));
        // What was just put can be dragged on in the same movement.
        if (fresh.current !== null) e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={(e) => {
        if (fresh.current !== null && e.currentTarget.hasPointerCapture(e.pointerId)) props.onMove(fresh.current, place(e));
      }}
      onPointerUp={() => {
        fresh.current = null;
      }}
    >
      {[0.25, 0.5, 0.75].map((v) => (
        <g key={v} stroke="var(--g3)" strokeWidth={1}>
          <line x1={v * width} x2={v * width} y1={0} y2={height} />
          <line y1={v * height} y2={v * height} x1={0} x2={width} />
        </g>
      ))}
      {props.children}
      {points.map((p, k) => (
        <circle
          key={k}
          cx={p[0] * width}
          cy={height - p[1] * height}
          r={k === props.chosen ? 6 : 4.5}
          fill={k === props.chosen ? "#fff" : "var(--g0)"}
          stroke="#fff"
          strokeWidth={1.6}
          tabIndex={0}
          role="slider"
          aria-label={props.name(k)}
          aria-valuenow={props.value(k)}
          aria-valuetext={props.said(k)}
          onPointerDown={grab(k)}
          onPointerMove={(e) => {
            if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
            e.stopPropagation();
            props.onMove(k, place(e));
          }}
          onKeyDown={keys(k)}
          onFocus={() => props.onChoose(k)}
          onDoubleClick={() => props.onRemove(k)}
        />
      ))}
    </Svg>
  );
}
