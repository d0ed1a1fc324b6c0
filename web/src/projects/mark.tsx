/** What a shot shows of a figure, against its scene. */

import type { OnWall, Wall as Walled } from "../api/types";

import { standing, type Figure } from "./plot";

export const FIGURES: readonly Figure[] = ["skin", "grey", "tone"];

/**
 * Where a shot stands in its scene by one figure: a dot on a line, the band marked; a dash where there is
 * nothing to measure.
 */
export function Mark(props: { on: OnWall; scene: Walled; what: Figure }) {
  const at = standing(props.on, props.scene, props.what);
  const out = props.on.apart.some((a) => a.what === props.what);
  const x = at === null ? 0 : 12 + Math.max(-2, Math.min(2, at)) * 4.6;
  return (
    <svg width="24" height="9" aria-hidden>
      {at === null ? (
        <line x1="9" x2="15" y1="4.5" y2="4.5" stroke="var(--t4)" />
      ) : (
        <>
          <line x1="1" x2="23" y1="4.5" y2="4.5" stroke="var(--g4)" />
          <line
            x1="7.4"
            x2="16.6"
            y1="4.5"
            y2="4.5"
            stroke="var(--t4)"
            strokeWidth="3"
            strokeLinecap="round"
          />
          <circle cx={x} cy="4.5" r={out ? 3.6 : 2.8} fill={out ? "var(--warn)" : "var(--t1)"} />
        </>
      )}
    </svg>
  );
}
