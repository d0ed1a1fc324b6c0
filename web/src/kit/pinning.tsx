/** Choosing a spot of a picture for a note: by a press, or by arrows and Enter. */
import { useState, type KeyboardEvent } from "react";
import styled, { css } from "styled-components";

/** From 0 to 1, from the left and the top. */
export interface Spot {
  x: number;
  y: number;
}

/** How a pin on a picture looks. */
export const pin = css`
  position: absolute;
  width: 24px;
  height: 24px;
  margin: -12px;
  border-radius: 50%;
  border: 1.5px solid var(--white);
  background: var(--over);
  color: var(--white);
  font-size: 12px;
  font-weight: 600;
  padding: 0;
  cursor: pointer;
  display: grid;
  place-items: center;
  &[data-chosen] {
    background: var(--accent);
    color: var(--on-accent);
    border-color: var(--accent);
  }
  &[data-settled] {
    opacity: 0.45;
  }
`;

export const FreshPin = styled.span`
  ${pin}
  border-color: var(--accent);
  pointer-events: none;
`;

const FINE = 0.02;
const COARSE = 0.1;
const within = (v: number) => Math.min(1, Math.max(0, v));

/** Where the note would go by the keys, and the attributes of the picture while a spot is wanted. */
export function usePinning(wanted: boolean, onSpot: (spot: Spot) => void) {
  const [fresh, setFresh] = useState<Spot>({ x: 0.5, y: 0.5 });
  const onKeyDown = (e: KeyboardEvent) => {
    if (!wanted) return;
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    const far = e.shiftKey ? COARSE : FINE;
    if (by) setFresh((f) => ({ x: within(f.x + far * by[0]!), y: within(f.y + far * by[1]!) }));
    else if (e.key === "Enter") onSpot(fresh);
    else return;
    e.preventDefault();
  };
  const attributes = wanted
    ? {
        tabIndex: 0,
        role: "application",
        "aria-label": "Where the note goes: arrows move it, Enter pins it",
      }
    : {};
  return { fresh, attributes: { ...attributes, onKeyDown } };
}
