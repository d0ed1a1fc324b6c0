/** The notes that stand on a spot of what is shown, and the spot of one that is being placed. */
import { useEffect, useRef } from "react";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import { useStore } from "zustand";
import type { ReelNote } from "../api/types";
import { FreshPin, pin, usePinning, type Spot } from "../kit/pinning";
import type { Reel } from "./reeling";

/** Frames around a note at which its pin is seen. */
const AROUND = 12;

const Over = styled.div`
  position: absolute;
  inset: 0;
  pointer-events: none;
  outline: none;
  &[role="application"] {
    outline: 2px solid var(--accent);
    outline-offset: -2px;
  }
  button {
    pointer-events: auto;
  }
`;
const Pin = styled(AriaButton)`
  ${pin}
`;
const placed = (spot: Spot) => ({ left: `${spot.x * 100}%`, top: `${spot.y * 100}%` });

export function Pins(props: {
  reel: Reel;
  shot: number;
  notes: readonly ReelNote[];
  chosen: number | null;
  picking: boolean;
  onChoose: (note: ReelNote) => void;
  onSpot: (spot: Spot) => void;
}) {
  const { picking } = props;
  const number = useStore(props.reel.state, (s) => s.number);
  const over = useRef<HTMLDivElement>(null);
  const { fresh, attributes } = usePinning(picking, props.onSpot);
  useEffect(() => {
    if (picking) over.current?.focus();
  }, [picking]);
  return (
    <Over ref={over} {...attributes}>
      {props.notes.map((note, k) =>
        note.shot === props.shot &&
        note.x !== null &&
        note.y !== null &&
        number >= note.first - AROUND &&
        number <= note.last + AROUND ? (
          <Pin
            key={note.id}
            data-chosen={props.chosen === note.id || undefined}
            data-settled={note.settled_by ? true : undefined}
            aria-label={`Note ${k + 1} by ${note.by}: ${note.text}`}
            style={placed({ x: note.x, y: note.y })}
            onPress={() => props.onChoose(note)}
          >
            {k + 1}
          </Pin>
        ) : null,
      )}
      {picking ? <FreshPin style={placed(fresh)} aria-hidden /> : null}
    </Over>
  );
}
