/**
 * The large picture of a look: a frame under a revision, beside another one, their difference; with notes
 * pinned to it.
 */
import { useQuery } from "@tanstack/react-query";
import { useMemo, useRef, useState, type MouseEvent } from "react";
import { Button as AriaButton, Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import { asked } from "../api/queries";
import type { Frame, Note, Revision } from "../api/types";
import { stillOf } from "../catalogue/card";
import { FreshPin, pin, usePinning, type Spot } from "../kit/pinning";
import type { Moving } from "../player/use";
import { useFeed, type Wish } from "../viewer/live";
import { Stage } from "../viewer/stage";

const Pin = styled(AriaButton)`
  ${pin}
`;
/** Over the picture while a spot is looked for: it takes the keys, and lets the pointer through. */
const Spotting = styled.div`
  position: absolute;
  inset: 0;
  pointer-events: none;
`;

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
    left: 8px;
    padding: 2px 9px;
    border-radius: 10px;
    background: var(--over);
    font-size: 12px;
    pointer-events: none;
  }
  .says.right {
    left: auto;
    right: 8px;
  }
`;

interface Props {
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
  /** The clip that plays in place of the frame. */
  moving: Moving | null;
}

/** The notes that are pinned to the frame. */
function Pins(props: Pick<Props, "notes" | "numbers" | "frame" | "chosen" | "onChoose">) {
  const on = props.notes.filter((n) => n.frame === props.frame.id && n.x !== null && n.y !== null);
  return on.map((n) => (
    <Pin
      key={n.id}
      data-settled={n.settled_by ? true : undefined}
      data-chosen={props.chosen === n.id || undefined}
      aria-label={`Note ${props.numbers.get(n.id)} by ${n.by}: ${n.text}`}
      style={{ left: `${n.x! * 100}%`, top: `${n.y! * 100}%` }}
      onPress={() => props.onChoose(n.id)}
    >
      {props.numbers.get(n.id)}
    </Pin>
  ));
}

export const Seen = (props: Props) =>
  props.moving ? <SeenMoving {...props} moving={props.moving} /> : <SeenStill {...props} />;

/** ΔE that a difference in motion shows as white. */
const FULL = 10;

/** The clip under the revision, as the still is seen. */
function SeenMoving(props: Props & { moving: Moving }) {
  const { frame, revision, against, mode, moving, strength } = props;
  const look = useQuery(asked.recipe(revision.id)).data;
  const before = useQuery({ ...asked.recipe(against?.id ?? 0), enabled: against !== null }).data;
  const { fresh, attributes } = usePinning(props.pinning, props.onSpot);
  const { at, trim } = moving;
  const plain = useMemo<Wish | null>(
    () => (look ? { look, strength, trim, frame: frame.id, at, traces: false } : null),
    [look, strength, trim, frame.id, at],
  );
  const wish = useMemo<Wish | null>(
    () =>
      plain && mode === "difference"
        ? { ...plain, show: "difference", against: before ?? null, full: FULL }
        : plain,
    [plain, mode, before],
  );
  const otherWish = useMemo<Wish | null>(
    () => (before ? { look: before, trim, frame: frame.id, at, traces: false } : null),
    [before, trim, frame.id, at],
  );
  const feed = useFeed(wish);
  const otherFeed = useFeed(otherWish);
  const other =
    against && otherWish && mode === "split"
      ? { feed: otherFeed, wish: otherWish, input: frame.encoding, name: `r${against.number}` }
      : null;
  return (
    <Stage
      frame={frame}
      input={frame.encoding}
      feed={feed}
      mode={mode === "original" || mode === "split" ? mode : "look"}
      wish={wish}
      trimmed={false}
      name={`r${revision.number}`}
      tag={mode === "difference" ? `white is ΔE ${FULL}` : undefined}
      other={other}
      moving={moving}
      picking={props.pinning}
      onPoint={(point, pressed) => {
        if (props.pinning && pressed && point) props.onSpot(point);
      }}
    >
      <Pins {...props} />
      {props.pinning ? (
        <Spotting {...attributes}>
          <FreshPin style={{ left: `${fresh.x * 100}%`, top: `${fresh.y * 100}%` }} aria-hidden />
        </Spotting>
      ) : null}
    </Stage>
  );
}

function SeenStill(props: Props) {
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
            <span className="says">{against ? `r${against.number}` : "original"}</span>
            <span className="says right">r{revision.number}</span>
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
        <Pins {...props} />
        {props.pinning ? (
          <FreshPin style={{ left: `${fresh.x * 100}%`, top: `${fresh.y * 100}%` }} aria-hidden />
        ) : null}
      </div>
    </Place>
  );
}
