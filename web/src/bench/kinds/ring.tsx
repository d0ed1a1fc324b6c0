/** The hue circle: outside as it is, inside as the step makes it; ranges are moved on it. */
import { useRef, type KeyboardEvent, type PointerEvent } from "react";
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
  const [a, b, c, d] = [at(from, outer), at(to, outer), at(to, inner), at(from, inner)].map((point) => point.join());
  return `M${a} A${outer},${outer} 0 0 0 ${b} L${c} A${inner},${inner} 0 0 1 ${d}Z`;
};

export function Ring(props: { trace: Trace | undefined; marks: number[]; chosen: number; onMove: (mark: number, hue: number) => void }) {
  const svg = useRef<SVGSVGElement>(null);
  const [before, after] = [strings(props.trace, "before"), strings(props.trace, "after")];
  const step = before.length ? 360 / before.length : 5;
  const hueAt = (e: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    const turn = Math.atan2(box.top + box.height / 2 - e.clientY, e.clientX - box.left - box.width / 2);
    return Math.round(((turn * 180) / Math.PI + 360) % 360);
  };
  const keys = (k: number, hue: number) => (e: KeyboardEvent) => {
    const by = { ArrowRight: -1, ArrowUp: 1, ArrowLeft: 1, ArrowDown: -1 }[e.key];
    if (!by) return;
    e.preventDefault();
    props.onMove(k, (hue + by * (e.shiftKey ? 10 : 1) + 360) % 360);
  };
  return (
    <svg
      ref={svg}
      width={SIZE}
      height={SIZE}
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      role="group"
      aria-label="Hue circle, outside before, inside after"
      style={{ display: "block", margin: "0 auto", touchAction: "none" }}
    >
      {before.map((c, k) => (
        <path key={k} d={arc((k - 0.52) * step, (k + 0.52) * step, OUTER, MIDDLE + 1)} fill={c} stroke={c} />
      ))}
      {after.map((c, k) => (
        <path key={k} d={arc((k - 0.52) * step, (k + 0.52) * step, MIDDLE - 1, INNER)} fill={c} stroke={c} />
      ))}
      {props.marks.map((hue, k) => {
        const [x, y] = at(hue, (OUTER + MIDDLE) / 2);
        return (
          <circle
            key={k}
            cx={x}
            cy={y}
            r={k === props.chosen ? 8 : 6}
            fill={k === props.chosen ? "#fff" : "#161616"}
            stroke="#fff"
            strokeWidth={2}
            tabIndex={0}
            role="slider"
            aria-label={`Hue of range ${k + 1}`}
            aria-valuenow={Math.round(hue)}
            aria-valuemin={0}
            aria-valuemax={360}
            aria-valuetext={`${Math.round(hue)}°`}
            style={{ cursor: "grab" }}
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              props.onMove(k, hueAt(e));
            }}
            onPointerMove={(e) => {
              if (e.currentTarget.hasPointerCapture(e.pointerId)) props.onMove(k, hueAt(e));
            }}
            onKeyDown={keys(k, hue)}
          />
        );
      })}
    </svg>
  );
}
