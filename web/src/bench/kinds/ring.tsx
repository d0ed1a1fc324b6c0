/** The hue circle: outside as it is, inside as the step makes it; ranges are moved on it. */
import { useRef, type RefObject } from "react";
import styled from "styled-components";
import { useDrag } from "../../kit/drag";
import type { Trace } from "../../viewer/table";
import { strings } from "../trace";

const SIZE = 220;
const C = SIZE / 2;
const [OUTER, MIDDLE, INNER] = [104, 86, 66];

const at = (hue: number, radius: number) => {
  const turn = (hue * Math.PI) / 180;
  return [C + Math.cos(turn) * radius, C - Math.sin(turn) * radius] as const;
};
const arc = (from: number, to: number, outer: number, inner: number) => {
  const [a, b, c, d] = [at(from, outer), at(to, outer), at(to, inner), at(from, inner)].map((point) =>
    point.join(),
  );
  return `M${a} A${outer},${outer} 0 0 0 ${b} L${c} A${inner},${inner} 0 0 1 ${d}Z`;
};

const Circle = styled.svg`
  display: block;
  margin: 0 auto;
  touch-action: none;
  circle {
    cursor: grab;
  }
`;

export function Ring(props: {
  trace: Trace | undefined;
  marks: number[];
  chosen: number;
  onMove: (mark: number, hue: number) => void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const [before, after] = [strings(props.trace, "before"), strings(props.trace, "after")];
  const step = before.length ? 360 / before.length : 5;
  return (
    <Circle
      ref={svg}
      width={SIZE}
      height={SIZE}
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      role="group"
      aria-label="Hue circle, outside before, inside after"
    >
      {before.map((c, k) => (
        <path key={k} d={arc((k - 0.52) * step, (k + 0.52) * step, OUTER, MIDDLE + 1)} fill={c} stroke={c} />
      ))}
      {after.map((c, k) => (
        <path key={k} d={arc((k - 0.52) * step, (k + 0.52) * step, MIDDLE - 1, INNER)} fill={c} stroke={c} />
      ))}
      {props.marks.map((hue, k) => (
        <Mark
          key={k}
          circle={svg}
          hue={hue}
          number={k + 1}
          chosen={k === props.chosen}
          onMove={(to) => props.onMove(k, to)}
        />
      ))}
    </Circle>
  );
}

function Mark(props: {
  circle: RefObject<SVGSVGElement | null>;
  hue: number;
  number: number;
  chosen: boolean;
  onMove: (hue: number) => void;
}) {
  const { hue, chosen } = props;
  const [x, y] = at(hue, (OUTER + MIDDLE) / 2);
  const drag = useDrag(props.circle, {
    to: ([right, up]) =>
      props.onMove(Math.round(((Math.atan2(up - 0.5, right - 0.5) * 180) / Math.PI + 360) % 360)),
    arrow: (right, up, { shiftKey }) => props.onMove((hue + (up - right) * (shiftKey ? 10 : 1) + 360) % 360),
  });
  return (
    <circle
      cx={x}
      cy={y}
      r={chosen ? 8 : 6}
      fill={chosen ? "var(--white)" : "var(--g0)"}
      stroke="var(--white)"
      strokeWidth={2}
      tabIndex={0}
      role="slider"
      aria-label={`Hue of range ${props.number}`}
      aria-valuenow={Math.round(hue)}
      aria-valuemin={0}
      aria-valuemax={360}
      aria-valuetext={`${Math.round(hue)}°`}
      {...drag}
    />
  );
}
