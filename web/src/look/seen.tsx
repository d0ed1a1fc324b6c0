/**
 * The large picture of a look: a frame under a revision, beside another one, their difference; with notes
 * pinned to it.
 */
import { useRef, useState, type MouseEvent } from "react";
import { Button as AriaButton, Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import type { Frame, Note, Revision } from "../api/types";
import { stillOf } from "../catalogue/card";
import { FreshPin, pin, usePinning, type Spot } from "../kit/pinning";

export const MODES = ["original", "look", "split", "difference"] as const;
export type SeenMode = (typeof MODES)[number];

const WIDTH = 1280;

const Place = styled.div`
  flex: 1;
  min-height: 0;
  container-type: size;
  display: grid;
  place-items: center;
  background: var(--surround);
  border-radius: 4px;
  overflow: hidden;
  .box {
    position: relative;
    width: min(100%, calc(100cqh * var(--ratio)));
    aspect-ratio: var(--ratio);
  }
  .box.pinning {
    cursor: crosshair;
  }
  .box:focus-visible {
    outline: 2px solid var(--accent);
    outline-offset: -2px;
  }
  img {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    display: block;
  }
  .pin {
    ${pin}
  }
  .line {
    position: absolute;
    inset: 0;
  }
  .line .track {
    width: 100%;
    height: 100%;
    cursor: ew-resize;
    touch-action: none;
  }
  .line .thumb {
    top: 50%;
    width: 18px;
    height: 18px;
    border-radius: 50%;
    border: 2px solid var(--t1);
    background: var(--over);
  }
  .line .thumb:before {
    content: "";
    position: absolute;
    left: 6px;
    top: -2000px;
    width: 2px;
    height: 4000px;
    background: var(--glow);
  }
  .says {
    position: absolute;
    top: 8px;
    padding: 2px 9px;
    border-radius: 10px;
    background: var(--over);
    font-size: 12px;
    pointer-events: none;
  }
`;

export function Seen(props: {
  frame: Frame;
  revision: Revision;
  against: Revision | null;
  mode: SeenMode;
  strength: number;
  notes: Note[];
  /** Numbers that the notes go by. */
  numbers: Map<number, number>;
  chosen: number | null;
  onChoose: (note: number) => void;
  /** Whether a spot for a note is wanted. */
  pinning: boolean;
  onSpot: (spot: Spot) => void;
}) {
  const { frame, revision, against, mode } = props;
  const box = useRef<HTMLDivElement>(null);
  const [line, setLine] = useState(0.5);
  const { fresh, attributes } = usePinning(props.pinning, props.onSpot);
  const ratio = frame.width / frame.height;
  const plain = `/api/frames/${frame.id}/still?width=${WIDTH}&v=${frame.version}`;
  const under = stillOf(revision, frame, WIDTH, props.strength);
  const before = against ? stillOf(against, frame, WIDTH) : plain;
  const difference = against
    ? `/api/revisions/${revision.id}/against/${against.id}?frame=${frame.id}&width=${WIDTH}&v=${revision.digest.slice(0, 8)}${frame.version}`
    : under;
  const src = mode === "original" ? plain : mode === "difference" ? difference : under;
  const alt =
    mode === "original"
      ? `${frame.name}, original`
      : mode === "difference"
        ? `What differs on ${frame.name} between revision ${against?.number} and ${revision.number}`
        : `${frame.name} under revision ${revision.number}`;
  const click = (e: MouseEvent) => {
    if (!props.pinning || !box.current) return;
    const at = box.current.getBoundingClientRect();
    props.onSpot({ x: (e.clientX - at.left) / at.width, y: (e.clientY - at.top) / at.height });
  };
  return (
    <Place style={{ "--ratio": ratio }}>
      <div ref={box} className={props.pinning ? "box pinning" : "box"} onClick={click} {...attributes}>
        <img src={src} alt={alt} />
        {mode === "split" ? (
          <>
            <img
              src={before}
              alt={against ? `the same under revision ${against.number}` : "the original"}
              style={{ clipPath: `inset(0 ${100 - line * 100}% 0 0)` }}
            />
            <span className="says" style={{ left: 8 }}>
              {against ? `r${against.number}` : "original"}
            </span>
            <span className="says" style={{ right: 8 }}>
              r{revision.number}
            </span>
            {props.pinning ? null : (
              <Slider
                className="line"
                aria-label="Where the picture is split"
                minValue={0}
                maxValue={1}
                step={0.005}
                value={line}
                onChange={(v) => setLine(v)}
              >
                <SliderTrack className="track">
                  <SliderThumb className="thumb" />
                </SliderTrack>
              </Slider>
            )}
          </>
        ) : null}
        {props.notes
          .filter((n) => n.frame === frame.id && n.x !== null && n.y !== null)
          .map((n) => (
            <AriaButton
              key={n.id}
              className="pin"
              data-settled={n.settled_by ? true : undefined}
              data-chosen={props.chosen === n.id || undefined}
              aria-label={`Note ${props.numbers.get(n.id)} by ${n.by}: ${n.text}`}
              style={{ left: `${n.x! * 100}%`, top: `${n.y! * 100}%` }}
              onPress={() => props.onChoose(n.id)}
            >
              {props.numbers.get(n.id)}
            </AriaButton>
          ))}
        {props.pinning ? (
          <FreshPin style={{ left: `${fresh.x * 100}%`, top: `${fresh.y * 100}%` }} aria-hidden />
        ) : null}
      </div>
    </Place>
  );
}
