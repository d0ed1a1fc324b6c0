/**
 * How the shots of a project sit beside each other in one figure: a dot a shot, the band that is usual, those
 * that stand out in ochre.
 */
import styled from "styled-components";
import type { OnWall, Reading, Wall } from "../api/types";

export type Figure = "skin" | "grey" | "tone";

/** A figure against what is usual, as a share of what is still even: −1 to 1 lies in the band. */
export function standingOf(own: Reading, usual: Reading, what: Figure): number | null {
  if (what === "tone") return (own.tone - usual.tone) / 12;
  if (what === "grey") return own.grey && usual.grey ? (own.grey.yellow - usual.grey.yellow) / 2 : null;
  if (own.skin === null || usual.skin === null) return null;
  return (((own.skin - usual.skin + 540) % 360) - 180) / 7;
}

/** The figure of a shot against its scene. */
export const standing = (on: OnWall, scene: Wall, what: Figure) => standingOf(on.reading, scene.usual, what);

/** Beyond this the plot ends; what lies farther out is drawn at its edge. */
const REACH = 2.4;

const Box = styled.svg`
  display: block;
  width: 100%;
  height: 108px;
  background: var(--field);
  border-radius: 3px;
`;

export function Evenness(props: {
  wall: Wall[];
  what: Figure;
  name: (shot: number) => string;
  onOpen: (shot: number) => void;
}) {
  const dots = props.wall.flatMap((scene) =>
    scene.shots.flatMap((on) => {
      const at = standing(on, scene, props.what);
      return at === null ? [] : [{ shot: on.shot, at, out: on.apart.some((a) => a.what === props.what) }];
    }),
  );
  const y = (at: number) => 54 - (Math.max(-REACH, Math.min(REACH, at)) / REACH) * 46;
  const words = dots.filter((d) => d.out).map((d) => props.name(d.shot));
  return (
    <Box
      viewBox="0 0 260 108"
      preserveAspectRatio="none"
      role="img"
      aria-label={`${props.what} of ${dots.length} shots; ${words.length ? `apart: ${words.join(", ")}` : "none stands apart"}`}
    >
      <rect x="0" width="260" y={y(1)} height={y(-1) - y(1)} fill="var(--accent)" opacity="0.16" />
      {dots.map((d, k) => (
        <circle
          key={d.shot}
          cx={12 + (k * 236) / Math.max(dots.length - 1, 1)}
          cy={y(d.at)}
          r={d.out ? 4.5 : 3.2}
          fill={d.out ? "var(--warn)" : "var(--t2)"}
          onClick={() => props.onOpen(d.shot)}
        >
          <title>{props.name(d.shot)}</title>
        </circle>
      ))}
    </Box>
  );
}
