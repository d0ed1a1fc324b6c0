/** The histogram of the chosen frame under the look; counts come from the core. */
import styled from "styled-components";
import type { Scale } from "./density";

/** Where curves lie over one another, their colours add up as lights do. */
const Light = styled.g`
  mix-blend-mode: screen;
`;
const Box = styled.div`
  svg {
    display: block;
    width: 100%;
    background: var(--g0);
    border-radius: 3px;
    box-shadow: inset 0 0 0 1px var(--g3);
  }
  p {
    display: flex;
    justify-content: space-between;
    color: var(--t2);
    font-size: 11.5px;
    margin-top: 2px;
    white-space: nowrap;
    overflow: hidden;
  }
`;
const INK = ["var(--red)", "var(--green)", "var(--blue)"];

/**
 * Evens out the picket fence that whole code values make, and keeps one tall bin from flattening the rest.
 */
function outline(counts: number[], top: number, scale: Scale): string {
  const share = (n: number) => (scale === "log" ? Math.sqrt(n / top) : n / top);
  return counts.map((n, k) => `L${k},${(100 - Math.min(share(n), 1) * 96).toFixed(1)}`).join(" ");
}

/** `under`: another histogram as an outline, of the picture before the look or of a reference. */
export function Histogram(props: {
  counts: number[][];
  under: number[][] | null;
  height: number;
  scale: Scale;
}) {
  const { counts, under, scale } = props;
  const total = counts[3]?.reduce((a, b) => a + b, 0) ?? 0;
  const most = (of: number[][]) => Math.max(...of.slice(0, 3).flatMap((c) => c.slice(1, 255)), 1);
  const end = (at: number) =>
    total ? (Math.max(...counts.slice(0, 3).map((c) => c[at] ?? 0)) / total) * 100 : 0;
  return (
    <Box>
      <svg
        viewBox="0 0 255 100"
        preserveAspectRatio="none"
        style={{ height: props.height }}
        role="img"
        aria-label="Histogram of the picture under the look"
      >
        {[64, 128, 191].map((x) => (
          <line key={x} x1={x} x2={x} y1={0} y2={100} stroke="var(--g3)" vectorEffect="non-scaling-stroke" />
        ))}
        <Light>
          {counts.slice(0, 3).map((c, k) => (
            <path
              key={k}
              d={`M0,100 ${outline(c, most(counts), scale)} L255,100Z`}
              fill={INK[k]}
              fillOpacity={0.42}
              stroke={INK[k]}
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
            />
          ))}
        </Light>
        {under ? (
          <path
            d={`M0,100 ${outline(under[3] ?? [], Math.max(...(under[3] ?? [1]).slice(1, 255), 1), scale)}`}
            fill="none"
            stroke="var(--t1)"
            strokeDasharray="3 3"
            vectorEffect="non-scaling-stroke"
          />
        ) : null}
      </svg>
      <p>
        <span>0{end(0) >= 0.1 ? ` · ${end(0).toFixed(1)} %` : ""}</span>
        <span>{end(255) >= 0.1 ? `${end(255).toFixed(1)} % · ` : ""}255</span>
      </p>
    </Box>
  );
}
