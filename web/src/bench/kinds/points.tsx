/** A plot with points that are set, moved and taken away by pointer and keys; its lines are the core's. */
import { useRef, type KeyboardEvent, type ReactNode, type RefObject } from "react";
import { mergeProps } from "react-aria";
import styled from "styled-components";
import { useDrag, type Place } from "../../kit/drag";

/** Both from 0 to 1, to the right and upwards. */
export type Point = Place;

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

interface Plotted {
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
}

export function PointPlot(props: Plotted) {
  const { width, height, points } = props;
  const plot = useRef<SVGSVGElement>(null);
  const fresh = useRef<number | null>(null);
  const drag = useDrag(plot, {
    from: (at) => {
      fresh.current = props.onAdd(at);
    },
    // What was just put can be dragged on in the same movement.
    to: (at) => {
      if (fresh.current !== null) props.onMove(fresh.current, at);
    },
  });
  return (
    <Svg
      ref={plot}
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="group"
      aria-label={props.label}
      {...drag}
    >
      {[0.25, 0.5, 0.75].map((v) => (
        <g key={v} stroke="var(--g3)" strokeWidth={1}>
          <line x1={v * width} x2={v * width} y1={0} y2={height} />
          <line y1={v * height} y2={v * height} x1={0} x2={width} />
        </g>
      ))}
      {props.children}
      {points.map((_, k) => (
        <Dot key={k} k={k} plot={plot} {...props} />
      ))}
    </Svg>
  );
}

function Dot(props: Plotted & { k: number; plot: RefObject<SVGSVGElement | null> }) {
  const { k, fine } = props;
  const [x, y] = props.points[k]!;
  const dot = useRef<SVGCircleElement>(null);
  const chosen = k === props.chosen;
  const drag = useDrag(props.plot, {
    from: () => {
      dot.current!.focus();
      props.onChoose(k);
    },
    to: (at) => props.onMove(k, at),
    arrow: (right, up, { shiftKey }) => {
      const by = shiftKey ? 10 : 1;
      props.onMove(k, [x + right * by * fine[0], y + up * by * fine[1]]);
    },
  });
  const keys = (e: KeyboardEvent) => {
    if (e.key !== "Delete" && e.key !== "Backspace") return;
    props.onRemove(k);
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <circle
      ref={dot}
      cx={x * props.width}
      cy={props.height - y * props.height}
      r={chosen ? 6 : 4.5}
      fill={chosen ? "var(--white)" : "var(--g0)"}
      stroke="var(--white)"
      strokeWidth={1.6}
      tabIndex={0}
      role="slider"
      aria-label={props.name(k)}
      aria-valuenow={props.value(k)}
      aria-valuetext={props.said(k)}
      onFocus={() => props.onChoose(k)}
      onDoubleClick={() => props.onRemove(k)}
      {...mergeProps(drag, { onKeyDown: keys })}
    />
  );
}
