/**
 * The map: every look where two of its traits put it. Marks become saucers when few are in sight, and
 * pictures when fewer are.
 */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState, type RefObject } from "react";
import styled from "styled-components";
import type { Card, Frame } from "../api/types";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Grow, Quiet } from "../kit/layout";
import { Saucer, saucerOf } from "../kit/saucer";
import { Segments } from "../kit/segments";
import { Waiting } from "../kit/waiting";
import { around } from "../kit/partshown";
import { askedOf, usePlaces, useScales } from "./asked";
import { drawnAt, marksOf, type Mark, type Room, type Sight } from "./atlas";
import { stillOf } from "./card";
import type { Filters } from "./filters";
import { About } from "./mapabout";
import { outline, paint } from "./mapdrawing";
import { Drawn } from "./mapdrawn";
import { useHand } from "./maphand";
import { useTray } from "./tray";

const Box = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding-bottom: 12px;
`;
const Axes = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  color: var(--t2);
  font-size: 12px;
  flex: none;
`;
const Field = styled.div`
  position: relative;
  flex: 1;
  min-height: 0;
  overflow: hidden;
  border-radius: 6px;
  background: var(--field);
  touch-action: none;
  cursor: grab;
  &[data-drawing="true"] {
    cursor: crosshair;
  }
  &:focus-visible {
    outline: 2px solid var(--accent);
    outline-offset: -2px;
  }
  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }
`;
const Edge = styled.span`
  position: absolute;
  color: var(--t2);
  font-size: 12px;
  pointer-events: none;
  text-shadow: 0 0 4px var(--black);
  z-index: 1;
  &[data-side="left"] {
    left: 8px;
    top: 50%;
  }
  &[data-side="right"] {
    right: 8px;
    top: 50%;
  }
  &[data-side="bottom"] {
    left: 50%;
    bottom: 6px;
    transform: translateX(-50%);
  }
  &[data-side="top"] {
    left: 50%;
    top: 6px;
    transform: translateX(-50%);
  }
`;
const SIDES = ["left", "right", "bottom", "top"] as const;
const Near = styled.div`
  position: absolute;
  transform: translate(-50%, -50%);
  pointer-events: none;
  text-align: center;
  font-size: 12px;
  text-shadow: 0 0 4px var(--black);
  > img {
    display: block;
    width: 150px;
    height: 84px;
    object-fit: cover;
    border-radius: 4px;
    margin-bottom: 3px;
  }
  > span {
    display: block;
    max-width: 150px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;

/** How many marks in sight are drawn as saucers, and as pictures. */
const SAUCERS = 90;
const PICTURES = 14;
/** So many saucers in sight are drawn small. */
const MANY = 40;
const HOW = [
  ["move", "drag moves"],
  ["draw", "drag draws around"],
] as const;

/** Whether pictures at these marks would not lie over one another. */
function clear(marks: readonly Mark[], sight: Sight, room: Room): boolean {
  const at = marks.map((m) => drawnAt(m, sight, room));
  return at.every(([x, y], k) =>
    at.slice(k + 1).every(([a, b]) => Math.abs(a - x) > 120 || Math.abs(b - y) > 84),
  );
}

function useRoom(): [RefObject<HTMLDivElement | null>, Room] {
  const ref = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState<Room>({ width: 800, height: 500 });
  useEffect(() => {
    if (!ref.current || typeof ResizeObserver === "undefined") return;
    const watch = new ResizeObserver(([entry]) => {
      if (entry) setRoom({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    watch.observe(ref.current);
    return () => watch.disconnect();
  }, []);
  return [ref, room];
}

/** The marks in sight where they are few enough to be drawn as saucers. */
function useVisible(marks: readonly Mark[], sight: Sight, room: Room): Mark[] {
  return useMemo(() => {
    const found: Mark[] = [];
    for (const mark of marks) {
      const [x, y] = drawnAt(mark, sight, room);
      if (mark.found && x > 0 && y > 0 && x < room.width && y < room.height) found.push(mark);
      if (found.length > SAUCERS) return [];
    }
    return found;
  }, [marks, sight, room]);
}

/** The cards of the marks in sight, and of the one that is meant. */
function useCards(visible: Mark[], at: number | null): Map<number, Card> {
  const wanted = useMemo(
    () => [...new Set([...visible.map((m) => m.id), ...(at === null ? [] : [at])])].sort((a, b) => a - b),
    [visible, at],
  );
  const { data: cards = [] } = useQuery({
    ...askedOf.cards(wanted),
    placeholderData: (previous: Card[] | undefined) => previous,
  });
  return useMemo(() => new Map(cards.map((c) => [c.id, c])), [cards]);
}

/** What is across, what is up, and what dragging does. */
function AxisBar(props: {
  by: Filters;
  across: string;
  up: string;
  drawing: boolean;
  onDraw: (drawing: boolean) => void;
  dots: boolean;
  whole: boolean;
  onWhole: () => void;
}) {
  const { by, across, up, drawing } = props;
  const { data: scales = [] } = useScales();
  const traits = scales.map((s) => ({ key: s.key, label: s.label.toLowerCase() }));
  return (
    <Axes>
      across
      <Choice
        look="bare"
        hidden
        label="Across"
        options={traits.filter((t) => t.key !== up)}
        chosen={across}
        onChange={(k) => by.put("across", k)}
      />
      up
      <Choice
        look="bare"
        hidden
        label="Up"
        options={traits.filter((t) => t.key !== across)}
        chosen={up}
        onChange={(k) => by.put("up", k)}
      />
      <Segments
        label="Dragging"
        options={HOW}
        chosen={drawing ? "draw" : "move"}
        onChange={(how) => props.onDraw(how === "draw")}
      />
      <Grow />
      <Quiet>{props.dots ? "the others are dots" : ""}</Quiet>
      <Button look="quiet" isDisabled={props.whole} onPress={props.onWhole}>
        Whole map
      </Button>
    </Axes>
  );
}

/** Saucers, or pictures, at the marks. */
function Saucers(props: {
  marks: Mark[];
  cards: Map<number, Card>;
  frame: Frame | null;
  sight: Sight;
  room: Room;
}) {
  const { marks, cards, sight, room } = props;
  const pictured = useMemo(() => marks.length <= PICTURES && clear(marks, sight, room), [marks, sight, room]);
  const frame = pictured ? props.frame : null;
  return marks.map((mark) => {
    const card = cards.get(mark.id);
    if (!card) return null;
    const [left, top] = drawnAt(mark, sight, room);
    return (
      <Near key={mark.id} style={{ left, top }} aria-hidden>
        {frame ? (
          <>
            <img src={stillOf(card.revision, frame, 320)} alt="" style={around(frame.part)} />
            <span>{card.name}</span>
          </>
        ) : (
          <Saucer src={saucerOf(card.revision, 96)} size={marks.length > MANY ? 30 : 44} />
        )}
      </Near>
    );
  });
}

export function LookMap(props: { by: Filters; frame: Frame | null }) {
  const { by, frame } = props;
  const across = by.get("across") || "warmth";
  const up = by.get("up") || "contrast";
  const places = usePlaces(by.query, across, up);
  const marks = useMemo(() => (places.data ? marksOf(places.data) : []), [places.data]);
  const tray = useTray();
  const [field, room] = useRoom();
  const canvas = useRef<HTMLCanvasElement>(null);
  const hand = useHand(field, room, marks);
  const { sight, line, at, here, gathered } = hand;
  const visible = useVisible(marks, sight, room);
  const cards = useCards(visible, at);
  const bare = useMemo(
    () => new Set(visible.filter((m) => cards.has(m.id)).map((m) => m.id)),
    [visible, cards],
  );
  useEffect(() => {
    const surface = canvas.current;
    if (!surface) return;
    const next = requestAnimationFrame(() => {
      const ringed = new Set([...tray.looks, ...gathered, ...(at === null ? [] : [at])]);
      paint(surface, marks, sight, room, bare, ringed);
      outline(surface, line, sight, room);
    });
    return () => cancelAnimationFrame(next);
  }, [marks, sight, room, bare, tray.looks, gathered, line, at]);
  const told = here ? cards.get(here.id) : undefined;
  if (!places.data) return <Waiting query={places} what="map" />;
  const { ids, found, edges } = places.data;
  return (
    <Box>
      <AxisBar
        by={by}
        across={across}
        up={up}
        drawing={hand.drawing}
        onDraw={hand.draw}
        dots={(found ?? ids).length < ids.length}
        whole={sight.zoom === 1}
        onWhole={hand.whole}
      />
      <Field
        ref={field}
        data-drawing={hand.drawing}
        role="application"
        tabIndex={0}
        aria-label="Map of looks. Arrows go to the next look, with Shift they gather, Enter opens it, T puts it into the tray, plus and minus zoom."
        {...hand.handlers}
      >
        <canvas ref={canvas} aria-hidden />
        <Saucers marks={visible} cards={cards} frame={frame} sight={sight} room={room} />
        {SIDES.map((side, k) => (
          <Edge key={side} data-side={side}>
            {edges[k]}
          </Edge>
        ))}
        {here && told ? (
          <About card={told} mark={here} frame={frame} sight={sight} room={room} by={[across, up]} />
        ) : null}
        {hand.chosen.length ? (
          <Drawn chosen={hand.chosen} by={by} axes={[across, up]} onClear={hand.letGo} />
        ) : null}
      </Field>
      <output className="unseen" role="status">
        {told ? `${told.name}, ${told.revision.status}, ${told.words.join(", ")}` : ""}
      </output>
    </Box>
  );
}
