/** Two cuts as bands, with threads between what is in both. The rows below say the same in words. */
import { useLayoutEffect, useRef, useState } from "react";
import styled from "styled-components";
import type { Cut, CutStretch, Recutting } from "../api/types";
import { Quiet } from "../kit/layout";
import { around } from "../kit/partshown";
import { keyOf, longOf, pictureOf, spanOf } from "./judging";

/** Pixels: the height of a band, of the room for threads, and the narrowest event that shows its picture. */
const BAND = 38;
const THREADS = 74;
const PICTURED = 20;
/** Pixels by which an event that is in one cut alone reaches towards the other. */
const REACH = 30;

const Box = styled.section`
  display: grid;
  grid-template-columns: 62px minmax(0, 1fr);
  gap: 0 12px;
  padding: 4px 18px 10px;
  border-bottom: 1px solid var(--line);
  font-size: 12px;
`;
const Label = styled.div`
  height: ${BAND}px;
  line-height: 17px;
  strong {
    font-weight: 600;
  }
`;
const Ticks = styled.div`
  grid-column: 2;
  position: relative;
  height: 20px;
  color: var(--t2);
  font-variant-numeric: tabular-nums;
  span {
    position: absolute;
    white-space: nowrap;
  }
`;
const Band = styled.div`
  position: relative;
  height: ${BAND}px;
`;
const Cell = styled.div`
  position: absolute;
  top: 0;
  height: ${BAND}px;
  overflow: hidden;
  border-radius: 2px;
  background: var(--g3);
  box-shadow: inset -1px 0 var(--g0);
  cursor: pointer;
  &[data-waits] {
    background: none;
    box-shadow: none;
    border: 1px dashed var(--warn);
  }
  &[data-gone] {
    opacity: 0.45;
  }
  &[data-chosen]::after {
    content: "";
    position: absolute;
    inset: 0;
    border: 2px solid var(--accent);
    border-radius: 2px;
  }
  img {
    display: block;
    width: 100%;
    height: 100%;
    object-fit: cover;
  }
`;
const Drawn = styled.svg`
  grid-column: 2;
  display: block;
  width: 100%;
  height: ${THREADS}px;
  path {
    fill: var(--g2);
    stroke: var(--g4);
    vector-effect: non-scaling-stroke;
    cursor: pointer;
  }
  .moved {
    stroke: var(--t3);
  }
  .alone {
    fill: none;
    stroke: var(--t2);
    stroke-dasharray: 3 3;
  }
  .waits {
    stroke: var(--warn);
  }
  .chosen {
    fill: color-mix(in srgb, var(--accent) 22%, transparent);
    stroke: var(--accent);
  }
`;
const Scenes = styled.div`
  grid-column: 2;
  position: relative;
  height: 18px;
  margin-top: 5px;
  font-weight: 600;
  span {
    position: absolute;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

interface Edges {
  left: number;
  right: number;
}

/** Where events stand, in pixels: both bands have one scale, and begin at the left. */
function edgesIn(stretches: readonly CutStretch[], scale: number): Edges[] {
  const { begin } = spanOf(stretches);
  return stretches.map((s) => ({
    left: (s.at - begin) * scale,
    right: (s.at - begin + s.lasts) * scale,
  }));
}

/** The thread of an event that is in both cuts, or the tip of one that is in one of them alone. */
function threadOf(row: Recutting, before: Edges[], after: Edges[]): string {
  const up = row.old === null ? undefined : before[row.old];
  const down = row.new === null ? undefined : after[row.new];
  const half = THREADS / 2;
  if (up && down)
    return (
      `M${up.left} 0 C${up.left} ${half} ${down.left} ${half} ${down.left} ${THREADS} L${down.right} ${THREADS} ` +
      `C${down.right} ${half} ${up.right} ${half} ${up.right} 0 Z`
    );
  const one = up ?? down;
  if (!one) return "";
  const [from, to] = up ? [0, REACH] : [THREADS, THREADS - REACH];
  const middle = (one.left + one.right) / 2;
  return `M${one.left} ${from} Q${middle} ${from} ${middle} ${to} Q${middle} ${from} ${one.right} ${from}`;
}

function classOf(row: Recutting, chosen: boolean): string {
  const alone = row.old === null || row.new === null;
  return [alone ? "alone" : row.kinds[0], row.waits ? "waits" : "", chosen ? "chosen" : ""].join(" ");
}

/** The width of an element, as it changes. */
function useWidth() {
  const ref = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const watch = new ResizeObserver(() => setWidth(element.clientWidth));
    watch.observe(element);
    setWidth(element.clientWidth);
    return () => watch.disconnect();
  }, []);
  return { ref, width };
}

interface Props {
  project: number;
  cut: Cut;
  chosen: string;
  onChoose: (key: string) => void;
}

export function Bands(props: Props) {
  const { cut, chosen, onChoose } = props;
  const { ref, width } = useWidth();
  const was = spanOf(cut.before);
  const now = spanOf(cut.after);
  const scale = width / Math.max(was.frames, now.frames, 1);
  const before = edgesIn(cut.before, scale);
  const after = edgesIn(cut.after, scale);
  // The chosen thread is drawn last: over the others.
  const rows = [...cut.changed].sort((a, b) => Number(keyOf(a) === chosen) - Number(keyOf(b) === chosen));
  const taken = cut.number !== null;
  return (
    <Box aria-label="The cut in time">
      <Ticks ref={ref} aria-hidden>
        {cut.ticks.map((tick) => (
          <span key={tick.at} style={{ left: (tick.at - now.begin) * scale }}>
            {tick.label}
          </span>
        ))}
      </Ticks>
      {cut.before.length ? (
        <>
          <Label>
            <strong>Now</strong> <Quiet>{cut.before.length}</Quiet>
            <br />
            <Quiet>{longOf(was.frames, cut.unit)}</Quiet>
          </Label>
          <Cells {...props} side="old" stretches={cut.before} edges={before} />
          <Drawn viewBox={`0 0 ${Math.max(width, 1)} ${THREADS}`} preserveAspectRatio="none" aria-hidden>
            {rows.map((row) => (
              <path
                key={keyOf(row)}
                className={classOf(row, keyOf(row) === chosen)}
                d={threadOf(row, before, after)}
                onClick={() => onChoose(keyOf(row))}
              />
            ))}
          </Drawn>
        </>
      ) : null}
      <Label>
        <strong>{taken ? `Cut ${cut.number}` : "New"}</strong> <Quiet>{cut.after.length}</Quiet>
        <br />
        <Quiet>{longOf(now.frames, cut.unit)}</Quiet>
      </Label>
      <Cells {...props} side="new" stretches={cut.after} edges={after} />
      <SceneNames stretches={cut.after} edges={after} />
    </Box>
  );
}

function Cells(props: Props & { side: "old" | "new"; stretches: CutStretch[]; edges: Edges[] }) {
  const { cut, side, edges } = props;
  const rows = new Map(
    cut.changed.filter((row) => side === "old" || !goes(row)).map((row) => [row[side], row]),
  );
  return (
    <Band aria-hidden>
      {props.stretches.map((s, k) => {
        const row = rows.get(k);
        const { left, right } = edges[k]!;
        const picture = right - left >= PICTURED ? pictureOf(props.project, s, 160) : null;
        return (
          <Cell
            key={k}
            title={`${s.number} ${s.name}`}
            style={{ left, width: Math.max(right - left, 1) }}
            data-waits={s.clip === null || undefined}
            data-gone={(side === "old" && row && goes(row)) || undefined}
            data-chosen={(row && keyOf(row) === props.chosen) || undefined}
            onClick={() => row && props.onChoose(keyOf(row))}
          >
            {picture ? (
              <img src={picture} alt="" loading="lazy" draggable={false} style={around(s.part)} />
            ) : null}
          </Cell>
        );
      })}
    </Band>
  );
}

const goes = (row: Recutting) => row.kinds[0] === "gone" || row.kinds[0] === "joined";

/** The scenes under a band, each where it begins. */
function SceneNames({ stretches, edges }: { stretches: CutStretch[]; edges: Edges[] }) {
  const begins = stretches.flatMap((s, k) => (k === 0 || s.scene !== stretches[k - 1]!.scene ? [k] : []));
  if (begins.every((k) => !stretches[k]!.scene)) return null;
  return (
    <Scenes aria-hidden>
      {begins.map((k, n) => {
        const left = edges[k]!.left;
        const end = edges[(begins[n + 1] ?? edges.length) - 1]!.right;
        return (
          <span key={k} style={{ left, maxWidth: Math.max(end - left - 8, 0) }}>
            {stretches[k]!.scene}
          </span>
        );
      })}
    </Scenes>
  );
}
