/** A look on your frame, with its saucer and a strength to try. */
import { useState } from "react";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import type { Card, Frame } from "../api/types";
import { Line } from "../kit/amount";
import { Saucer, saucerOf } from "../kit/saucer";
import { SliderThumb, SliderTrack } from "react-aria-components";

const Box = styled.article`
  position: relative;
  min-width: 0;
  .open {
    display: block;
    width: 100%;
    padding: 0;
    border: 0;
    background: var(--g2);
    border-radius: 4px;
    overflow: hidden;
    cursor: pointer;
    aspect-ratio: 16 / 9;
  }
  .open img {
    width: 100%;
    height: 100%;
    object-fit: cover;
    display: block;
  }
  &:hover .open,
  &:focus-within .open {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
  .portrait {
    position: absolute;
    left: 10px;
    bottom: 26px;
    pointer-events: none;
    border-radius: 50%;
    background: var(--g0);
    padding: 2px;
  }
  .about {
    padding: 5px 0 0 74px;
    min-height: 44px;
  }
  .about b {
    font-weight: 560;
    display: flex;
    justify-content: space-between;
    gap: 8px;
  }
  .about b > span:first-child {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
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
    display: block;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    font-size: 12px;
  }
  .strength {
    position: absolute;
    right: 10px;
    bottom: 58px;
    width: 58%;
    height: 24px;
    border-radius: 12px;
    background: #161616d8;
    padding: 0 12px;
    display: none;
    align-items: center;
    gap: 9px;
    font-size: 12px;
  }
  &:hover .strength,
  &:focus-within .strength {
    display: flex;
  }
  .strength > :nth-child(2) {
    flex: 1;
  }
  .strength output {
    min-width: 38px;
    text-align: right;
  }
`;

export function LookCard(props: { card: Card; frame: Frame | null; onTry: (strength: number) => void }) {
  const { card, frame } = props;
  const [strength, setStrength] = useState(1);
  const [settled, setSettled] = useState(1);
  const src = frame
    ? `/api/revisions/${card.revision.id}/still?frame=${frame.id}&width=480&strength=${settled}&v=${card.revision.digest.slice(0, 8)}${frame.version}`
    : undefined;
  return (
    <Box aria-label={card.name}>
      <AriaButton className="open" aria-label={`Try ${card.name}`} onPress={() => props.onTry(settled)}>
        {src ? <img src={src} alt={`${frame?.name} under ${card.name}`} loading="lazy" /> : null}
      </AriaButton>
      {frame ? (
        <div className="strength">
          <span>strength</span>
          <Line
            aria-label={`Strength of ${card.name}`}
            minValue={0}
            maxValue={1}
            step={0.05}
            value={strength}
            onChange={(v) => setStrength(v as number)}
            onChangeEnd={(v) => setSettled(v as number)}
          >
            <SliderTrack className="track">
              <div className="fill" style={{ left: 0, width: `${strength * 100}%` }} />
              <SliderThumb className="thumb" />
            </SliderTrack>
          </Line>
          <output>{Math.round(strength * 100)} %</output>
        </div>
      ) : null}
      <span className="portrait">
        <Saucer src={saucerOf(card.revision)} size={54} />
      </span>
      <div className="about">
        <b>
          <span>{card.name}</span>
          <span className={`status ${card.revision.status}`}>{card.revision.status}</span>
        </b>
        <small>{card.tags.join(", ") || card.maker}</small>
      </div>
    </Box>
  );
}
