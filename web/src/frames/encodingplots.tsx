/**
 * What a camera encoding does, drawn: its curve over stops, its codes, and its primaries. All numbers come
 * from the core.
 */
import styled from "styled-components";
import type { CameraNumbers, Measured } from "../api/types";

const W = 520;
const H = 230;
const STOPS = 10;
const PAD = { left: 40, bottom: 22, top: 8, right: 8 };
const inner = { w: W - PAD.left - PAD.right, h: H - PAD.top - PAD.bottom };
const x = (stops: number) => PAD.left + ((stops + STOPS) / (2 * STOPS)) * inner.w;
const y = (code: number) => PAD.top + (1 - code) * inner.h;

const Drawn = styled.svg`
  display: block;
  width: 100%;
  height: auto;
  background: var(--g0);
  border-radius: 4px;
  text {
    fill: var(--t3);
    font-size: 11px;
  }
  .grid {
    stroke: var(--g3);
  }
  .curve {
    fill: none;
    stroke: var(--t1);
    stroke-width: 1.8;
  }
  .known {
    fill: none;
    stroke: var(--t3);
    stroke-dasharray: 3 3;
  }
  .mark {
    fill: var(--accent);
  }
`;

/** Ten-bit codes against stops from mid grey. */
export function CurvePlot({ measured }: { measured: Measured }) {
  const grey = measured.checks.find((c) => c.name === "mid grey");
  return (
    <Drawn viewBox={`0 0 ${W} ${H}`} role="img" aria-label="Code over stops from mid grey">
      <clipPath id="codes">
        <rect x={PAD.left} y={PAD.top} width={inner.w} height={inner.h} />
      </clipPath>
      {[0, 256, 512, 768, 1023].map((code) => (
        <g key={code}>
          <line className="grid" x1={PAD.left} x2={W - PAD.right} y1={y(code / 1023)} y2={y(code / 1023)} />
          <text x={PAD.left - 6} y={y(code / 1023) + 4} textAnchor="end">
            {code}
          </text>
        </g>
      ))}
      {[-8, -4, 0, 4, 8].map((stops) => (
        <g key={stops}>
          <line className="grid" x1={x(stops)} x2={x(stops)} y1={PAD.top} y2={H - PAD.bottom} />
          <text x={x(stops)} y={H - 6} textAnchor="middle">
            {stops === 0 ? "mid grey" : `${stops > 0 ? "+" : "−"}${Math.abs(stops)} stops`}
          </text>
        </g>
      ))}
      <polyline
        className="curve"
        clipPath="url(#codes)"
        points={measured.curve.map(([s, c]) => `${x(s)},${y(c)}`).join(" ")}
      />
      {grey ? <circle className="mark" cx={x(0)} cy={y(grey.code)} r={4} clipPath="url(#codes)" /> : null}
    </Drawn>
  );
}

type Corner = [number, number];
type Triangle = Record<"red" | "green" | "blue" | "white", Corner>;
const SIDE = 230;
/** The part of the chromaticity plane that cameras use. */
const LOW = -0.1;
const SPAN = 1.15;
const px = (v: number) => ((v - LOW) / SPAN) * SIDE;
const at = ([u, v]: Corner) => `${px(u)},${SIDE - px(v)}`;
const outline = (t: Triangle) => [t.red, t.green, t.blue].map(at).join(" ");

/** The triangle of the primaries in the CIE 1931 xy plane, beside that of BT.709. */
export function PrimariesPlot({ numbers, known }: { numbers: CameraNumbers; known: Triangle | undefined }) {
  return (
    <Drawn
      viewBox={`0 0 ${SIDE} ${SIDE}`}
      role="img"
      aria-label="Primaries and white in the xy plane, beside BT.709"
    >
      {[0, 0.2, 0.4, 0.6, 0.8].map((v) => (
        <g key={v}>
          <line className="grid" x1={px(v)} x2={px(v)} y1={0} y2={SIDE} />
          <line className="grid" y1={SIDE - px(v)} y2={SIDE - px(v)} x1={0} x2={SIDE} />
        </g>
      ))}
      <text x={px(0.8) + 4} y={SIDE - px(0) - 4}>
        x
      </text>
      <text x={px(0) + 4} y={SIDE - px(0.8) - 4}>
        y
      </text>
      {known ? <polygon className="known" points={outline(known)} /> : null}
      <polygon className="curve" points={outline(numbers)} />
      <circle className="mark" cx={px(numbers.white[0])} cy={SIDE - px(numbers.white[1])} r={3.5} />
    </Drawn>
  );
}

const Table = styled.table`
  border-collapse: collapse;
  width: 100%;
  th {
    color: var(--t2);
    font-weight: 400;
    font-size: 12px;
  }
  th,
  td {
    padding: 4px 0 4px 14px;
    text-align: right;
  }
  th:first-child,
  td:first-child {
    padding-left: 0;
    text-align: left;
  }
  tbody tr {
    border-top: 1px solid var(--line);
  }
`;

/** The codes that makers publish to check by. */
export function CheckValues({ measured }: { measured: Measured }) {
  return (
    <Table aria-label="Check values">
      <thead>
        <tr>
          <th>light</th>
          <th>code 0–1</th>
          <th>10 bit</th>
          <th>video level</th>
        </tr>
      </thead>
      <tbody>
        {measured.checks.map((c) => (
          <tr key={c.name}>
            <td>
              {c.name}, {c.light}
            </td>
            <td>{c.code.toFixed(4)}</td>
            <td>{c.ten_bit.toFixed(1)}</td>
            <td>{c.video_percent.toFixed(1)} %</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
