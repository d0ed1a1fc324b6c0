/** The look under the pointer or the keys, on the map. */
import styled from "styled-components";
import type { Card, Frame } from "../api/types";
import { Saucer, saucerOf } from "../kit/saucer";
import { around } from "../kit/partshown";
import { useScales } from "./asked";
import { drawnAt, type Mark, type Room, type Sight } from "./atlas";
import { stillOf } from "./card";
import { inWords } from "./spread";

const Told = styled.div`
  position: absolute;
  width: 232px;
  background: var(--g2);
  border: 1px solid var(--g4);
  border-radius: 6px;
  overflow: hidden;
  pointer-events: none;
  box-shadow: 0 8px 26px var(--shade);
  > img {
    display: block;
    width: 100%;
    height: 130px;
    object-fit: cover;
  }
  .about {
    display: grid;
    grid-template-columns: 44px 1fr auto;
    gap: 2px 10px;
    padding: 8px 10px;
    align-items: center;
  }
  .about > :first-child {
    grid-row: span 2;
  }
  strong {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  small {
    color: var(--t2);
    font-size: 12px;
    grid-column: span 2;
  }
  small.status {
    grid-column: auto;
  }
  small.by {
    grid-column: 1 / -1;
  }
`;

export function About(props: {
  card: Card;
  mark: Mark;
  frame: Frame | null;
  sight: Sight;
  room: Room;
  by: [string, string];
}) {
  const { card, mark, frame, room } = props;
  const { data: scales = [] } = useScales();
  const [x, y] = drawnAt(mark, props.sight, room);
  const left = x + 260 > room.width ? x - 250 : x + 18;
  const top = Math.min(Math.max(8, y - 100), Math.max(8, room.height - 215));
  return (
    <Told style={{ left: Math.max(4, left), top }}>
      {frame ? <img src={stillOf(card.revision, frame, 480)} alt="" style={around(frame.part)} /> : null}
      <div className="about">
        <Saucer src={saucerOf(card.revision)} size={44} />
        <strong>{card.name}</strong>
        <small className="status">{card.revision.status}</small>
        <small>{card.words.slice(0, 3).join(", ")}</small>
        <small className="by">
          {props.by
            .map((key, k) => {
              const scale = scales.find((s) => s.key === key);
              return scale ? `${scale.label.toLowerCase()} ${inWords(scale, mark.values[k]!)}` : "";
            })
            .join(" · ")}
        </small>
      </div>
    </Told>
  );
}
