/** Traces drawn as large as a row. */
import type { Trace } from "../../viewer/table";
import { numbers, path, strings } from "../trace";

/** How wide a thumbnail is, in pixels. */
export const WIDE = 36;

export function Line({ x, y, high, dim }: { x: number[]; y: number[]; high: number; dim?: boolean }) {
  return (
    <polyline
      points={path(x, y, WIDE, high)}
      fill="none"
      stroke={dim ? "var(--t3)" : "var(--t1)"}
      strokeWidth={dim ? 0.9 : 1.3}
    />
  );
}

export function Band({ colours, top, high }: { colours: string[]; top: number; high: number }) {
  const few = colours.filter((_, k) => k % 2 === 0);
  return few.map((c, k) => (
    <rect
      key={k}
      x={(k * WIDE) / few.length}
      y={top}
      width={WIDE / few.length + 0.3}
      height={high}
      fill={c}
    />
  ));
}

export function Dot({ colour, high }: { colour: unknown; high: number }) {
  return typeof colour === "string" ? <circle cx={WIDE / 2} cy={high / 2} r={6} fill={colour} /> : null;
}

interface Drawn {
  trace: Trace | undefined;
  high: number;
}

/** What becomes of a grey ramp; one line where the channels go together. */
export function LinesThumb({ trace, high }: Drawn) {
  const x = numbers(trace, "x");
  const names = trace?.all ? ["all"] : ["red", "green", "blue"];
  return names.map((n) => (
    <Line key={n} high={high} x={x} y={numbers(trace, n)} dim={n !== "all" && n !== "green"} />
  ));
}

/** Hues, and what becomes of them. */
export function HuesThumb({ trace, high }: Drawn) {
  const half = (high - 4) / 2;
  return (
    <>
      <Band colours={strings(trace, "before")} top={2} high={half} />
      <Band colours={strings(trace, "after")} top={2 + half} high={half} />
    </>
  );
}
