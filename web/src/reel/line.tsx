/** How evenly the shots of a scene follow one another: a line through them, and where a cut jumps. */
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import type { SceneOnReel } from "../api/types";
import { standingOf, type Figure } from "../projects/plot";
import type { Take } from "./takes";

const HIGH = 36;
/** Beyond this the line is drawn at its edge; up to 1 it lies in the band. */
const REACH = 2.4;

const Box = styled.div`
  position: relative;
  height: ${HIGH}px;
  svg {
    display: block;
    width: 100%;
    height: 100%;
    overflow: visible;
  }
`;
const Jump = styled(AriaButton)`
  position: absolute;
  width: 16px;
  height: 16px;
  margin: -8px;
  padding: 0;
  border: 0;
  border-radius: 50%;
  background: none;
  cursor: pointer;
  &::before {
    content: "";
    position: absolute;
    inset: 4px;
    border-radius: 50%;
    background: var(--warn);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--accent);
  }
`;

const y = (at: number) => HIGH / 2 - (Math.max(-REACH, Math.min(REACH, at)) / REACH) * (HIGH / 2 - 2);

export function EvenLine(props: {
  scene: SceneOnReel;
  takes: readonly Take[];
  what: Figure;
  onGo: (shot: number) => void;
}) {
  const { scene, takes, what } = props;
  const whole = takes.reduce((sum, t) => sum + t.seconds, 0);
  const start = takes[0]?.begin ?? 0;
  const x = (seconds: number) => ((seconds - start) / whole) * 100;
  const by = new Map(scene.shots.map((one) => [one.shot, one]));
  const pieces = takes.flatMap((take) => {
    const on = by.get(take.shot.id);
    const [from, to] = on
      ? [standingOf(on.begins, scene.usual, what), standingOf(on.ends, scene.usual, what)]
      : [];
    if (!on || from == null || to == null) return [];
    const jumps = on.jumps.filter((j) => j.what === what);
    return [{ take, jumps, from: [x(take.begin), y(from)], to: [x(take.begin + take.seconds), y(to)] }];
  });
  const points = pieces.flatMap((p) => [p.from, p.to]).map((p) => p.join(","));
  return (
    <Box>
      <svg viewBox={`0 0 100 ${HIGH}`} preserveAspectRatio="none" aria-hidden>
        <rect width="100" y={y(1)} height={y(-1) - y(1)} fill="var(--accent)" opacity="0.14" />
        <polyline
          points={points.join(" ")}
          fill="none"
          stroke="var(--t1)"
          strokeWidth="1.4"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      {pieces
        .filter((p) => p.jumps.length)
        .map((p) => (
          <Jump
            key={p.take.shot.id}
            aria-label={`Jump at the cut to ${p.take.shot.number} ${p.take.shot.name}: ${p.jumps.map((j) => j.text).join(", ")}`}
            style={{ left: `${p.from[0]}%`, top: p.from[1] }}
            onPress={() => props.onGo(p.take.shot.id)}
          />
        ))}
    </Box>
  );
}
