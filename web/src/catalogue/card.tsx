/** A look on your frame, with its saucer, what it does in words, and a strength to try. */
import { memo, useState, type PointerEvent } from "react";
import { Button as AriaButton, GridListItem } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import type { Card, Frame } from "../api/types";
import { Button } from "../kit/button";
import { Saucer, saucerOf } from "../kit/saucer";
import { ShareLine } from "../kit/shareline";
import { around } from "../kit/partshown";

const Box = styled(GridListItem)`
  position: relative;
  min-width: 0;
  height: 100%;
  outline: none;
  --saucer: 54px;
  &.small {
    --saucer: 38px;
  }
  .picture {
    position: relative;
    background: var(--g2);
    border-radius: 4px;
    aspect-ratio: 16 / 9;
  }
  .open {
    display: block;
    width: 100%;
    height: 100%;
    padding: 0;
    border: 0;
    background: none;
    border-radius: 4px;
    overflow: hidden;
    cursor: pointer;
  }
  .open img {
    width: 100%;
    height: 100%;
    object-fit: cover;
    display: block;
  }
  &[data-hovered] .picture,
  &[data-focus-visible] .picture,
  &:focus-within .picture {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
  .portrait {
    position: absolute;
    left: 10px;
    bottom: calc(-0.37 * var(--saucer));
    pointer-events: none;
    border-radius: 50%;
    background: var(--g0);
    padding: 2px;
  }
  .portrait img {
    width: var(--saucer) !important;
    height: var(--saucer) !important;
  }
  .about {
    padding: 5px 0 0 calc(var(--saucer) + 20px);
    min-height: 40px;
  }
  .title {
    font-weight: 560;
    display: flex;
    gap: 8px;
    align-items: baseline;
  }
  .title a {
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    text-decoration: none;
  }
  .title a:hover {
    text-decoration: underline;
  }
  .status {
    font-weight: 400;
    font-size: 12px;
    color: var(--t2);
    white-space: nowrap;
  }
  .status.approved {
    color: var(--accent);
  }
  small {
    color: var(--t2);
    display: flex;
    gap: 8px;
    font-size: 12px;
  }
  small span:first-child {
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .strength,
  .marks,
  .sweep {
    position: absolute;
    display: none;
  }
  .strength {
    right: 8px;
    bottom: 8px;
    width: calc(100% - var(--saucer) - 34px);
    height: 24px;
    border-radius: 12px;
    background: var(--over);
    padding: 0 10px;
    align-items: center;
    gap: 8px;
    font-size: 12px;
  }
  &.small .strength > span {
    display: none;
  }
  .strength > :nth-child(2) {
    flex: 1;
  }
  .strength output {
    min-width: 38px;
    text-align: right;
  }
  .marks {
    top: 6px;
    right: 6px;
    gap: 4px;
  }
  .marks button {
    background: var(--over);
    color: var(--t1);
    height: 24px;
    padding: 0 9px;
    font-size: 12px;
  }
  .sweep {
    left: 8px;
    top: 0;
    height: 26px;
    right: 132px;
    align-items: flex-start;
    gap: 2px;
    padding-top: 7px;
    cursor: ew-resize;
  }
  &.movable .sweep {
    right: 176px;
  }
  .sweep i {
    flex: 1;
    height: 3px;
    border-radius: 2px;
    background: var(--glow);
    box-shadow: 0 0 2px var(--black);
  }
  .sweep i.on {
    background: var(--white);
  }
  &[data-hovered] :is(.strength, .marks, .sweep),
  &:focus-within :is(.strength, .marks),
  &[data-focus-visible] :is(.strength, .marks) {
    display: flex;
  }
  .liked {
    position: absolute;
    top: 8px;
    right: 8px;
    width: 10px;
    height: 10px;
    border-radius: 50%;
    background: var(--accent);
    box-shadow: 0 0 0 2px var(--over);
  }
  &[data-hovered] .liked,
  &:focus-within .liked {
    display: none;
  }
`;

export const stillOf = (
  revision: { id: number; digest: string },
  frame: Frame,
  width: number,
  strength = 1,
): string =>
  `/api/revisions/${revision.id}/still?frame=${frame.id}&width=${width}&strength=${strength}&v=${revision.digest.slice(0, 8)}${frame.version}`;

export interface Doing {
  onTry: (card: Card, strength: number) => void;
  onLike: (card: Card) => void;
  onTray: (card: Card) => void;
}

export const LookCard = memo(function LookCard(
  props: {
    card: Card;
    frame: Frame | null;
    frames: Frame[];
    /** Whether the frame is to be seen without the look. */
    original: boolean;
    small: boolean;
    /** The width its picture is drawn at. */
    pixels: number;
    inTray: boolean;
    movable: boolean;
  } & Doing,
) {
  const { card } = props;
  const [strength, setStrength] = useState(1);
  const [settled, setSettled] = useState(1);
  const [swept, setSwept] = useState<Frame | null>(null);
  const frame = swept ?? props.frame;
  const src = frame
    ? props.original
      ? `/api/frames/${frame.id}/still?width=${props.pixels}&v=${frame.version}`
      : stillOf(card.revision, frame, props.pixels, settled)
    : undefined;
  const sweep = (e: PointerEvent<HTMLElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const at = Math.floor(((e.clientX - box.left) / box.width) * props.frames.length);
    setSwept(props.frames[Math.min(Math.max(at, 0), props.frames.length - 1)] ?? null);
  };
  return (
    <Box
      id={card.id}
      textValue={card.name}
      className={`${props.small ? "small" : ""} ${props.movable ? "movable" : ""}`}
      onAction={() => props.onTry(card, settled)}
      onPointerLeave={() => setSwept(null)}
    >
      <div className="picture">
        <AriaButton
          className="open"
          aria-label={`Try ${card.name}`}
          onPress={() => props.onTry(card, settled)}
        >
          {src ? (
            <img
              src={src}
              alt={props.original ? `${frame?.name}, original` : `${frame?.name} under ${card.name}`}
              loading="lazy"
              style={frame ? around(frame.part) : undefined}
            />
          ) : null}
        </AriaButton>
        {card.favourite ? <span className="liked" title="a favourite of yours" /> : null}
        {props.frames.length > 1 ? (
          <div className="sweep" onPointerMove={sweep} title={frame?.name} aria-hidden>
            {props.frames.map((f) => (
              <i key={f.id} className={f.id === frame?.id ? "on" : ""} />
            ))}
          </div>
        ) : null}
        <div className="marks">
          {props.movable ? (
            <Button look="quiet" slot="drag" aria-label={`Move ${card.name}`}>
              move
            </Button>
          ) : null}
          <Button look="quiet" aria-pressed={card.favourite} onPress={() => props.onLike(card)}>
            {card.favourite ? "liked" : "like"}
          </Button>
          <Button look="quiet" aria-pressed={props.inTray} onPress={() => props.onTray(card)}>
            {props.inTray ? "in tray" : "to tray"}
          </Button>
        </div>
        {frame ? (
          <div className="strength">
            <span>strength</span>
            <ShareLine
              label={`Strength of ${card.name}`}
              value={strength}
              onChange={setStrength}
              onSettle={setSettled}
            />
          </div>
        ) : null}
        <span className="portrait">
          <Saucer src={saucerOf(card.revision)} size={54} />
        </span>
      </div>
      <div className="about">
        <div className="title">
          <Link to={`/catalogue/look/${card.id}`} title={card.name}>
            {card.name}
          </Link>
          <span className={`status ${card.revision.status}`}>{card.revision.status}</span>
        </div>
        <small>
          <span title={card.words.join(", ")}>
            {card.words.slice(0, 3).join(", ") || card.tags.join(", ")}
          </span>
          {card.uses ? <span>{`${card.uses} ${card.uses === 1 ? "shot" : "shots"}`}</span> : null}
        </small>
      </div>
    </Box>
  );
});
