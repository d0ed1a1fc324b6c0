/**
 * The map: every look where two of its traits put it. Marks become saucers when few are in sight, and
 * pictures when fewer are.
 */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState, type PointerEvent } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useMe } from "../api/queries";
import type { Card, Frame } from "../api/types";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Fields, Grow, Quiet } from "../kit/layout";
import { Segments } from "../kit/segments";
import { Sheet } from "../kit/sheet";
import { Saucer, saucerOf } from "../kit/saucer";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { askedOf, catalogueChanged, usePlaces, useScales } from "./asked";
import {
  drawnAt,
  held,
  inside,
  markAt,
  marksOf,
  nextFrom,
  placeAt,
  WHOLE,
  zoomedAt,
  type Mark,
  type Room,
  type Sight,
} from "./atlas";
import { stillOf } from "./card";
import type { Filters } from "./filters";
import { inWords } from "./spread";
import { ROOM, useTray } from "./tray";

const Box = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding-bottom: 12px;
  .axes {
    display: flex;
    align-items: center;
    gap: 10px;
    color: var(--t2);
    font-size: 12px;
    flex: none;
  }
  .field {
    position: relative;
    flex: 1;
    min-height: 0;
    overflow: hidden;
    border-radius: 6px;
    background: #131313;
    touch-action: none;
    cursor: grab;
  }
  .field.drawing {
    cursor: crosshair;
  }
  .field:focus-visible {
    outline: 2px solid var(--accent);
    outline-offset: -2px;
  }
  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }
  .edge {
    position: absolute;
    color: var(--t2);
    font-size: 12px;
    pointer-events: none;
    text-shadow: 0 0 4px #000;
    z-index: 1;
  }
  .near {
    position: absolute;
    transform: translate(-50%, -50%);
    pointer-events: none;
    text-align: center;
    font-size: 12px;
    text-shadow: 0 0 4px #000;
  }
  .near img.still {
    display: block;
    width: 150px;
    height: 84px;
    object-fit: cover;
    border-radius: 4px;
    margin-bottom: 3px;
  }
  .near span {
    display: block;
    max-width: 150px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .drawn {
    position: absolute;
    right: 12px;
    bottom: 12px;
    display: flex;
    align-items: center;
    gap: 8px;
    background: var(--g2);
    border: 1px solid var(--g4);
    border-radius: 18px;
    padding: 4px 6px 4px 14px;
    cursor: default;
  }
`;

const Told = styled.div`
  position: absolute;
  width: 232px;
  background: var(--g2);
  border: 1px solid var(--g4);
  border-radius: 6px;
  overflow: hidden;
  pointer-events: none;
  box-shadow: 0 8px 26px #000a;
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
`;

/** How many marks in sight are drawn as saucers, and as pictures. */
const SAUCERS = 90;
const PICTURES = 14;
const REACH = 16;

/** Whether pictures at these marks would not lie over one another. */
function clear(marks: readonly Mark[], sight: Sight, room: Room): boolean {
  const at = marks.map((m) => drawnAt(m, sight, room));
  return at.every(([x, y], k) =>
    at.slice(k + 1).every(([a, b]) => Math.abs(a - x) > 120 || Math.abs(b - y) > 84),
  );
}

function useRoom(): [React.RefObject<HTMLDivElement | null>, Room] {
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

/**
 * Draws all marks: squares of two tones where thousands are in sight, discs where fewer are, grey dots for
 * what does not fit.
 */
function paint(
  canvas: HTMLCanvasElement,
  marks: readonly Mark[],
  sight: Sight,
  room: Room,
  bare: ReadonlySet<number>,
  ringed: ReadonlySet<number>,
) {
  const ratio = window.devicePixelRatio || 1;
  const [wide, high] = [Math.round(room.width * ratio), Math.round(room.height * ratio)];
  if (canvas.width !== wide || canvas.height !== high) [canvas.width, canvas.height] = [wide, high];
  const pen = canvas.getContext("2d");
  if (!pen) return;
  pen.setTransform(ratio, 0, 0, ratio, 0, 0);
  pen.clearRect(0, 0, room.width, room.height);
  const radius = Math.min(
    11,
    Math.max(1.6, (9 * Math.sqrt(sight.zoom) * Math.sqrt(160)) / Math.sqrt(Math.max(160, marks.length))),
  );
  for (const fits of [false, true]) {
    for (const mark of marks) {
      if (mark.found !== fits || bare.has(mark.id)) continue;
      const [x, y] = drawnAt(mark, sight, room);
      if (x < -radius || y < -radius || x > room.width + radius || y > room.height + radius) continue;
      if (!fits) {
        pen.fillStyle = "#5a5a5a";
        pen.fillRect(x - 1, y - 1, 2, 2);
      } else if (radius < 4) {
        pen.fillStyle = mark.blue;
        pen.fillRect(x - radius, y, 2 * radius, radius);
        pen.fillStyle = mark.clay;
        pen.fillRect(x - radius, y - radius, 2 * radius, radius);
      } else {
        pen.fillStyle = mark.blue;
        pen.beginPath();
        pen.arc(x, y, radius, 0, Math.PI);
        pen.fill();
        pen.fillStyle = mark.clay;
        pen.beginPath();
        pen.arc(x, y, radius, Math.PI, 2 * Math.PI);
        pen.fill();
      }
    }
  }
  pen.strokeStyle = "#f0f0f0";
  pen.lineWidth = 1.5;
  for (const mark of marks) {
    if (!ringed.has(mark.id)) continue;
    const [x, y] = drawnAt(mark, sight, room);
    pen.beginPath();
    pen.arc(x, y, radius + 4, 0, 2 * Math.PI);
    pen.stroke();
  }
  canvas.dataset.drawn = String(performance.now());
}

function outline(
  canvas: HTMLCanvasElement,
  line: readonly { x: number; y: number }[],
  sight: Sight,
  room: Room,
) {
  const pen = canvas.getContext("2d");
  if (!pen || line.length < 2) return;
  pen.beginPath();
  line.forEach((at, k) => {
    const [x, y] = drawnAt(at, sight, room);
    if (k) pen.lineTo(x, y);
    else pen.moveTo(x, y);
  });
  pen.closePath();
  pen.fillStyle = "#a9d6c214";
  pen.fill();
  pen.strokeStyle = "#a9d6c2";
  pen.lineWidth = 1.5;
  pen.stroke();
}

export function LookMap(props: { by: Filters; frame: Frame | null }) {
  const { by, frame } = props;
  const { data: scales = [] } = useScales();
  const across = by.get("across") || "warmth";
  const up = by.get("up") || "contrast";
  const places = usePlaces(by.query, across, up);
  const marks = useMemo(() => (places.data ? marksOf(places.data) : []), [places.data]);
  const tray = useTray();
  const navigate = useNavigate();
  const [field, room] = useRoom();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [sight, setSight] = useState<Sight>(WHOLE);
  const [drawing, setDrawing] = useState(false);
  const [line, setLine] = useState<{ x: number; y: number }[]>([]);
  const [at, setAt] = useState<number | null>(null);
  const drag = useRef<{ px: number; py: number; from: Sight; moved: boolean } | null>(null);

  const visible = useMemo(() => {
    const found: Mark[] = [];
    for (const mark of marks) {
      const [x, y] = drawnAt(mark, sight, room);
      if (mark.found && x > 0 && y > 0 && x < room.width && y < room.height) found.push(mark);
      if (found.length > SAUCERS) return [];
    }
    return found;
  }, [marks, sight, room]);
  const here = marks.find((m) => m.id === at) ?? null;
  const wanted = useMemo(
    () => [...new Set([...visible.map((m) => m.id), ...(at === null ? [] : [at])])].sort((a, b) => a - b),
    [visible, at],
  );
  const { data: cards = [] } = useQuery({
    ...askedOf.cards(wanted),
    placeholderData: (previous: Card[] | undefined) => previous,
  });
  const cardOf = useMemo(() => new Map(cards.map((c) => [c.id, c])), [cards]);
  const bare = useMemo(
    () => new Set(visible.filter((m) => cardOf.has(m.id)).map((m) => m.id)),
    [visible, cardOf],
  );
  // Gathered by keys, look by look; what the pointer draws around comes to it.
  const [gathered, setGathered] = useState<ReadonlySet<number>>(new Set());
  const chosen = useMemo(() => {
    const drawn = new Set(inside(marks, line).map((m) => m.id));
    return marks.filter((m) => drawn.has(m.id) || (m.found && gathered.has(m.id)));
  }, [marks, line, gathered]);
  const letGo = useCallback(() => {
    setLine([]);
    setGathered(new Set());
  }, []);
  const done = !drawing || !drag.current;

  useEffect(() => {
    const surface = canvas.current;
    if (!surface) return;
    const next = requestAnimationFrame(() => {
      paint(
        surface,
        marks,
        sight,
        room,
        bare,
        new Set([...tray.looks, ...gathered, ...(at === null ? [] : [at])]),
      );
      outline(surface, line, sight, room);
    });
    return () => cancelAnimationFrame(next);
  }, [marks, sight, room, bare, tray.looks, gathered, line, at]);

  // React listens to the wheel passively, and the page must not scroll.
  useEffect(() => {
    const box = field.current;
    if (!box) return;
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const where = box.getBoundingClientRect();
      setSight((s) =>
        zoomedAt(s, Math.exp(-e.deltaY / 300), e.clientX - where.left, e.clientY - where.top, room),
      );
    };
    box.addEventListener("wheel", wheel, { passive: false });
    return () => box.removeEventListener("wheel", wheel);
  }, [field, room]);

  const point = (e: PointerEvent): [number, number] => {
    const box = field.current!.getBoundingClientRect();
    return [e.clientX - box.left, e.clientY - box.top];
  };
  const down = (e: PointerEvent<HTMLDivElement>) => {
    // Sheets that are opened from here stand elsewhere on the page, but React tells of what happens in them
    // too.
    const target = e.target as HTMLElement;
    if (target.closest(".drawn") || !e.currentTarget.contains(target)) return;
    const [px, py] = point(e);
    drag.current = { px, py, from: sight, moved: false };
    e.currentTarget.setPointerCapture(e.pointerId);
    if (drawing) setLine([placeAt(px, py, sight, room)]);
  };
  const move = (e: PointerEvent<HTMLDivElement>) => {
    const [px, py] = point(e);
    const begun = drag.current;
    if (!begun) {
      setAt(markAt(marks, px, py, sight, room, REACH)?.id ?? null);
      return;
    }
    if (Math.hypot(px - begun.px, py - begun.py) > 4) begun.moved = true;
    if (drawing) setLine((l) => [...l, placeAt(px, py, sight, room)]);
    else if (begun.moved) {
      const [a, b] = [placeAt(begun.px, begun.py, begun.from, room), placeAt(px, py, begun.from, room)];
      setSight(held({ ...begun.from, x: begun.from.x + a.x - b.x, y: begun.from.y + a.y - b.y }));
    }
  };
  const release = (e: PointerEvent<HTMLDivElement>) => {
    const begun = drag.current;
    drag.current = null;
    if (!begun) return;
    if (begun.moved) {
      if (drawing) setLine((l) => [...l]);
      return;
    }
    const [px, py] = point(e);
    const mark = markAt(marks, px, py, sight, room, REACH);
    if (drawing) setLine([]);
    else if (mark) void navigate(`/catalogue/look/${mark.id}`);
  };
  const centre = useCallback((mark: Mark) => {
    setAt(mark.id);
    setSight((s) => {
      const half = 0.5 / s.zoom;
      const outside = Math.abs(mark.x - s.x) > half || Math.abs(mark.y - s.y) > half;
      return outside ? held({ ...s, x: mark.x, y: mark.y }) : s;
    });
  }, []);
  const keys = (e: React.KeyboardEvent) => {
    if (e.target !== e.currentTarget || e.ctrlKey || e.metaKey || e.altKey) return;
    const ways: Record<string, [number, number]> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, 1],
      ArrowDown: [0, -1],
    };
    const way = ways[e.key];
    if (way) {
      const start =
        here ??
        marks
          .filter((m) => m.found)
          .sort(
            (a, b) => Math.hypot(a.x - sight.x, a.y - sight.y) - Math.hypot(b.x - sight.x, b.y - sight.y),
          )[0];
      const next = here && start ? nextFrom(marks, start, ...way) : start;
      if (next) centre(next);
      if (e.shiftKey && here && next) setGathered((all) => new Set([...all, here.id, next.id]));
    } else if (e.key === "+" || e.key === "-") {
      const [px, py] = here ? drawnAt(here, sight, room) : [room.width / 2, room.height / 2];
      setSight((s) => zoomedAt(s, e.key === "+" ? 1.5 : 1 / 1.5, px, py, room));
    } else if (e.key === "0") setSight(WHOLE);
    else if (e.key === "Enter" && here) void navigate(`/catalogue/look/${here.id}`);
    else if (e.key.toLowerCase() === "t" && here) tray.turn(here.id);
    else if (e.key === "Escape") letGo();
    else return;
    e.preventDefault();
  };
  const pictured = useMemo(
    () => visible.length <= PICTURES && clear(visible, sight, room),
    [visible, sight, room],
  );
  const told = here ? cardOf.get(here.id) : undefined;
  const edges = places.data?.edges;
  const traits = scales.map((s) => ({ key: s.key, label: s.label.toLowerCase() }));
  if (!places.data) return <Waiting query={places} what="map" />;
  const count = places.data.found?.length ?? places.data.ids.length;
  return (
    <Box>
      <div className="axes">
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
          options={
            [
              ["move", "drag moves"],
              ["draw", "drag draws around"],
            ] as const
          }
          chosen={drawing ? "draw" : "move"}
          onChange={(how) => setDrawing(how === "draw")}
        />
        <Grow />
        <Quiet>{count < places.data.ids.length ? "the others are dots" : ""}</Quiet>
        <Button look="quiet" isDisabled={sight.zoom === 1} onPress={() => setSight(WHOLE)}>
          Whole map
        </Button>
      </div>
      <div
        ref={field}
        className={drawing ? "field drawing" : "field"}
        role="application"
        tabIndex={0}
        aria-label="Map of looks. Arrows go to the next look, with Shift they gather, Enter opens it, T puts it into the tray, plus and minus zoom."
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={release}
        onPointerLeave={() => !drag.current && setAt(null)}
        onKeyDown={keys}
      >
        <canvas ref={canvas} aria-hidden />
        {visible.map((mark) => {
          const card = cardOf.get(mark.id);
          if (!card) return null;
          const [left, top] = drawnAt(mark, sight, room);
          const large = pictured && frame;
          return (
            <div key={mark.id} className="near" style={{ left, top }} aria-hidden>
              {large ? <img className="still" src={stillOf(card.revision, frame, 320)} alt="" /> : null}
              {large ? (
                <span>{card.name}</span>
              ) : (
                <Saucer src={saucerOf(card.revision, 96)} size={visible.length > 40 ? 30 : 44} />
              )}
            </div>
          );
        })}
        {edges ? (
          <>
            <span className="edge" style={{ left: 8, top: "50%" }}>
              {edges[0]}
            </span>
            <span className="edge" style={{ right: 8, top: "50%" }}>
              {edges[1]}
            </span>
            <span className="edge" style={{ left: "50%", bottom: 6, transform: "translateX(-50%)" }}>
              {edges[2]}
            </span>
            <span className="edge" style={{ left: "50%", top: 6, transform: "translateX(-50%)" }}>
              {edges[3]}
            </span>
          </>
        ) : null}
        {here && told ? (
          <About card={told} mark={here} frame={frame} sight={sight} room={room} by={[across, up]} />
        ) : null}
        {done && chosen.length ? <Drawn chosen={chosen} by={by} axes={[across, up]} onClear={letGo} /> : null}
      </div>
      <output className="unseen" role="status">
        {told ? `${told.name}, ${told.revision.status}, ${told.words.join(", ")}` : ""}
      </output>
    </Box>
  );
}

/** The look under the pointer or the keys. */
function About(props: {
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
      {frame ? <img src={stillOf(card.revision, frame, 480)} alt="" /> : null}
      <div className="about">
        <Saucer src={saucerOf(card.revision)} size={44} />
        <strong>{card.name}</strong>
        <small style={{ gridColumn: "auto" }}>{card.revision.status}</small>
        <small>{card.words.slice(0, 3).join(", ")}</small>
        <small style={{ gridColumn: "1 / -1" }}>
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

/** What can be done with the looks that were drawn around. */
function Drawn(props: { chosen: Mark[]; by: Filters; axes: [string, string]; onClear: () => void }) {
  const { chosen, by } = props;
  const tray = useTray();
  const { data: me } = useMe();
  const navigate = useNavigate();
  const [naming, setNaming] = useState(false);
  const only = () => {
    // To three places, as the marks have them; an end that would cut one of them off is widened.
    const ends = (k: 0 | 1): [number, number] => {
      const values = chosen.map((m) => m.values[k]!);
      return [
        Number((Math.min(...values) - 0.001).toFixed(3)),
        Number((Math.max(...values) + 0.001).toFixed(3)),
      ];
    };
    const others = by.all("range").filter((r) => !props.axes.some((key) => r.startsWith(`${key}:`)));
    by.putAll("range", [...others, ...props.axes.map((key, k) => `${key}:${ends(k as 0 | 1).join(":")}`)]);
    props.onClear();
  };
  return (
    <div className="drawn" role="group" aria-label="Drawn around">
      <strong>{chosen.length} drawn around</strong>
      {chosen.length <= ROOM ? (
        <Button onPress={() => tray.put([...tray.looks, ...chosen.map((m) => m.id)])}>To the tray</Button>
      ) : null}
      {me?.may_design ? <Button onPress={() => setNaming(true)}>To a collection</Button> : null}
      {chosen.length <= 40 ? (
        <Button
          onPress={() => void navigate(`/catalogue/sheet/new?${chosen.map((m) => `look=${m.id}`).join("&")}`)}
        >
          As a sheet
        </Button>
      ) : null}
      <Button onPress={only}>Only these</Button>
      <Button look="icon" aria-label="Let go of what was drawn around" onPress={props.onClear}>
        ✕
      </Button>
      {naming ? <IntoCollection looks={chosen.map((m) => m.id)} onClose={() => setNaming(false)} /> : null}
    </div>
  );
}

/** Looks into a collection by its name, which is made where there is none. */
export function IntoCollection(props: { looks: number[]; onClose: () => void }) {
  const [name, setName] = useState("");
  const put = useMutation({
    mutationFn: () =>
      got(
        server.POST("/api/collections/{name}/looks", {
          params: { path: { name: name.trim() } },
          body: { looks: props.looks },
        }),
      ),
    onSuccess: () => {
      void catalogueChanged();
      props.onClose();
    },
  });
  return (
    <Sheet
      title={props.looks.length === 1 ? "Into a collection" : `${props.looks.length} looks into a collection`}
      width={420}
      onClose={props.onClose}
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          put.mutate();
        }}
      >
        <Fields>
          <Text
            label="Collection"
            hint="one that is there, or a new name"
            value={name}
            onChange={setName}
            maxLength={80}
            autoFocus
            required
          />
          <Trouble error={put.error} />
        </Fields>
        <footer>
          <Button onPress={props.onClose}>Cancel</Button>
          <Button look="main" type="submit" isDisabled={!name.trim() || put.isPending}>
            Put in
          </Button>
        </footer>
      </form>
    </Sheet>
  );
}
