/** A picture with the middle of the part that small cards show, which is dragged or moved by the arrow keys. */
import { useRef, type MouseEvent } from "react";
import styled from "styled-components";
import { useDrag, type Place } from "./drag";
import { around, type Part } from "./partshown";

const Whole = styled.div`
  position: relative;
  line-height: 0;
  background: var(--field);
  border-radius: 4px;
  display: grid;
  justify-content: center;
`;
const Inside = styled.div`
  position: relative;
  touch-action: none;
`;
const Picture = styled.img`
  display: block;
`;
const Ring = styled.button`
  position: absolute;
  width: 22px;
  height: 22px;
  margin: -11px;
  padding: 0;
  border: 2px solid var(--white);
  border-radius: 50%;
  background: var(--shade);
  cursor: grab;
`;
const Cards = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 104fr) 58px minmax(0, 104fr);
  gap: 10px;
  align-items: end;
  margin-top: 10px;
`;
const Card = styled.img`
  width: 100%;
  height: 58px;
  border-radius: 3px;
  object-fit: cover;
  display: block;
`;
const Round = styled(Card)`
  width: 58px;
  border-radius: 50%;
`;
const Wide = styled(Card)`
  height: 44px;
`;
/** By how much an arrow key moves it. */
const STEP = 0.02;

const inside = (value: number) => Math.min(Math.max(value, 0), 1);

/** The place of a pointer in what it is over: 0–1 from the left and from the top. */
function placeOf(e: MouseEvent<Element>): Part {
  const box = e.currentTarget.getBoundingClientRect();
  return { x: inside((e.clientX - box.left) / box.width), y: inside((e.clientY - box.top) / box.height) };
}

export function PartChoice(props: {
  name: string;
  /** The picture, at least that wide. */
  source: (width: number) => string;
  /** Of the picture; and the room that it has on the screen. */
  size: { width: number; height: number };
  room: { width: number; height: number };
  part: Part;
  /** Moved, and let go of. */
  onMove: (part: Part) => void;
  onPart: (part: Part) => void;
  /** A place in the picture is asked for instead. */
  onPlace?: (place: Part) => void;
}) {
  const { part, size, room } = props;
  const area = useRef<HTMLDivElement>(null);
  const fits = Math.min(room.width / Math.max(size.width, 1), room.height / Math.max(size.height, 1));
  const box = { width: size.width * fits, height: size.height * fits };
  const drag = useDrag(area, {
    to: ([x, up]: Place) => props.onMove({ x: inside(x), y: inside(1 - up) }),
    arrow: (right, up) => props.onPart({ x: inside(part.x + STEP * right), y: inside(part.y - STEP * up) }),
  });
  const small = { src: props.source(240), style: around(part), alt: "" };
  return (
    <div>
      <Whole>
        <Inside
          ref={area}
          style={{ ...box, cursor: props.onPlace ? "crosshair" : undefined }}
          onClick={(e) => props.onPlace?.(placeOf(e))}
        >
          <Picture src={props.source(640)} alt={props.name} {...box} />
          {props.onPlace ? null : (
            <Ring
              {...drag}
              aria-label="The part that small cards show; arrow keys move it"
              onPointerUp={() => props.onPart(part)}
              style={{ left: `${100 * part.x}%`, top: `${100 * part.y}%` }}
            />
          )}
        </Inside>
      </Whole>
      <Cards aria-hidden>
        <Card {...small} />
        <Round {...small} />
        <Wide {...small} />
      </Cards>
    </div>
  );
}
