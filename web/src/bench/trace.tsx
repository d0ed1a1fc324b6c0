/** Small drawings of what a step does, from the core's traces. */
import { memo } from "react";
import type { Trace } from "../viewer/table";

export const numbers = (trace: Trace | undefined, name: string): number[] => {
  const found = trace?.[name];
  return Array.isArray(found) ? (found as number[]) : [];
};

/** Colours of a trace, as CSS has them. */
export const strings = (trace: Trace | undefined, name: string): string[] => {
  const found = trace?.[name];
  return Array.isArray(found) && typeof found[0] === "string" ? (found as string[]) : [];
};

/** Points of an SVG polyline in a box of 1 × 1, y up. */
export function path(x: number[], y: number[], width: number, height: number): string {
  return x.map((v, i) => `${(v * width).toFixed(2)},${(height - (y[i] ?? 0) * height).toFixed(2)}`).join(" ");
}

const W = 36;

function TinyLine({ x, y, high, dim }: { x: number[]; y: number[]; high: number; dim?: boolean }) {
  return <polyline points={path(x, y, W, high)} fill="none" stroke={dim ? "var(--t3)" : "var(--t1)"} strokeWidth={dim ? 0.9 : 1.3} />;
}

function TinyBand({ colours, top, high }: { colours: string[]; top: number; high: number }) {
  const few = colours.filter((_, k) => k % 2 === 0);
  return few.map((c, k) => <rect key={k} x={(k * W) / few.length} y={top} width={W / few.length + 0.3} height={high} fill={c} />);
}

/** A row's trace, as large as a thumbnail. */
export const TinyTrace = memo(function TinyTrace({ kind, trace, high = 16 }: { kind: string; trace: Trace | undefined; high?: number }) {
  const x = numbers(trace, "x");
  let inside = null;
  if (kind === "curves") {
    inside = ["red", "green", "blue", "all"].map((n) => <TinyLine high={high} key={n} x={x} y={numbers(trace, n)} dim={n !== "all"} />);
  } else if (kind === "zone_tint") {
    const lightness = numbers(trace, "lightness");
    const swatches = (trace?.swatches ?? {}) as Record<string, string>;
    inside = [
      <rect key="overall" x={0} width={W} y={high - 3} height={3} fill={swatches.overall ?? "none"} />,
      ...["shadows", "midtones", "highlights"].map((n) => (
        <polygon
          key={n}
          points={`0,${high - 4} ${path(lightness, numbers(trace, n), W, high - 4)} ${W},${high - 4}`}
          fill={swatches[n] ?? "none"}
          fillOpacity={0.75}
        />
      )),
    ];
  } else if (kind === "channel_mix") {
    const rows = (trace?.matrix ?? []) as number[][];
    inside = rows.flatMap((row, r) =>
      row.map((v, c) => (
        <rect
          key={`${r}${c}`}
          x={2 + r * 12 + c * 3}
          width={2}
          fill={r === c ? "var(--t1)" : "var(--t2)"}
          y={v >= 0 ? high / 2 - (Math.min(v, 1.6) * high) / 3.2 : high / 2}
          height={Math.max(0.6, (Math.min(Math.abs(v), 1.6) * high) / 3.2)}
        />
      )),
    );
  } else if (kind === "saturation") {
    const hue = numbers(trace, "hue").map((v) => v / 360);
    inside = <TinyLine high={high} x={hue} y={numbers(trace, "gain").map((v) => v / 2)} />;
  } else if (kind === "balance" && typeof trace?.neutral === "string") {
    inside = <circle cx={W / 2} cy={high / 2} r={6} fill={trace.neutral} />;
  } else if (strings(trace, "after").length) {
    const half = (high - 4) / 2;
    inside = [
      <TinyBand key="before" colours={strings(trace, "before")} top={2} high={half} />,
      <TinyBand key="after" colours={strings(trace, "after")} top={2 + half} high={half} />,
    ];
  } else if (strings(trace, "ramp").length) {
    inside = <TinyBand colours={strings(trace, "ramp")} top={3} high={high - 6} />;
  } else if (typeof trace?.colour === "string") {
    inside = <circle cx={W / 2} cy={high / 2} r={6} fill={trace.colour} />;
  } else if (x.length) {
    const names = trace?.all ? ["all"] : ["red", "green", "blue"];
    inside = names.map((n) => <TinyLine high={high} key={n} x={x} y={numbers(trace, n)} dim={n !== "all" && n !== "green"} />);
  }
  return (
    <svg width={W} height={high} viewBox={`-1 -1 ${W + 2} ${high + 2}`} aria-hidden style={{ flex: "none", overflow: "hidden" }}>
      {inside}
    </svg>
  );
});
