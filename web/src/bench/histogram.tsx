/** The histogram of the chosen frame under the look; counts come from the core. */
import styled from "styled-components";

const Box = styled.figure`
  h2 { margin-bottom: 4px; }
  svg { display: block; width: 100%; height: 82px; background: var(--g0); border-radius: 3px; }
  figcaption { display: flex; justify-content: space-between; color: var(--t2); font-size: 11.5px; margin-top: 3px; }
`;
const INK = ["#e08a7d", "#86c08a", "#86a5ee"];

/** Evens out the picket fence that whole code values make, and keeps one tall bin from flattening the rest. */
function outline(counts: number[], top: number): string {
  return counts.map((n, k) => `L${k},${(100 - Math.min(Math.sqrt(n / top), 1) * 96).toFixed(1)}`).join(" ");
}

export function Histogram({ counts }: { counts: number[][] | null }) {
  const total = counts?.[3]?.reduce((a, b) => a + b, 0) ?? 0;
  const top = counts ? Math.max(...counts.slice(0, 3).flatMap((c) => c.slice(1, 255)), 1) : 1;
  const end = (at: number) => (counts && total ? (Math.max(...counts.slice(0, 3).map((c) => c[at] ?? 0)) / total) * 100 : 0);
  return (
    <Box aria-label="Histogram">
      <h2>Histogram</h2>
      <svg viewBox="0 0 255 100" preserveAspectRatio="none" role="img" aria-label="Histogram of the picture under the look">
        {[64, 128, 191].map((x) => <line key={x} x1={x} x2={x} y1={0} y2={100} stroke="var(--g3)" vectorEffect="non-scaling-stroke" />)}
        <g style={{ mixBlendMode: "screen" }}>
          {counts?.slice(0, 3).map((c, k) => (
            <path key={k} d={`M0,100 ${outline(c, top)} L255,100Z`} fill={INK[k]} fillOpacity={0.42} stroke={INK[k]} strokeWidth={1} vectorEffect="non-scaling-stroke" />
          ))}
        </g>
      </svg>
      <figcaption>
        <span>0{end(0) >= 0.1 ? ` · ${end(0).toFixed(1)} % at black` : ""}</span>
        <span>code value</span>
        <span>{end(255) >= 0.1 ? `${end(255).toFixed(1)} % at white · ` : ""}255</span>
      </figcaption>
    </Box>
  );
}
