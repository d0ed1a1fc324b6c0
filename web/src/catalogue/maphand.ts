/** What pointer, wheel and keys do on the map: they move the sight, draw around looks, and go to the next. */
import {
  useCallback,
  useEffect,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
  type RefObject,
} from "react";
import { useNavigate } from "react-router";
import {
  drawnAt,
  held,
  inside,
  markAt,
  nextFrom,
  placeAt,
  WHOLE,
  zoomedAt,
  type Mark,
  type Room,
  type Sight,
} from "./atlas";
import { useTray } from "./tray";

/** Pixels within which a pointer means a mark. */
const REACH = 16;
/** Pixels that a pointer may move between down and up and still press. */
const STILL = 4;
/** How far a wheel must turn to enlarge by e; and by how much a key enlarges. */
const WHEEL = 300;
const KEY = 1.5;
const WAYS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
/** On what lies over the map and takes the pointer for itself. */
export const APART = { "data-apart": "" };

export interface Place {
  x: number;
  y: number;
}

/** The mark nearest to the middle of the sight. */
const middle = (marks: readonly Mark[], sight: Sight): Mark | undefined =>
  marks
    .filter((m) => m.found)
    .sort((a, b) => Math.hypot(a.x - sight.x, a.y - sight.y) - Math.hypot(b.x - sight.x, b.y - sight.y))[0];

/** React listens to the wheel passively, and the page must not scroll. */
function useWheel(
  field: RefObject<HTMLElement | null>,
  room: Room,
  setSight: (next: (sight: Sight) => Sight) => void,
) {
  useEffect(() => {
    const box = field.current;
    if (!box) return;
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const { left, top } = box.getBoundingClientRect();
      setSight((s) => zoomedAt(s, Math.exp(-e.deltaY / WHEEL), e.clientX - left, e.clientY - top, room));
    };
    box.addEventListener("wheel", wheel, { passive: false });
    return () => box.removeEventListener("wheel", wheel);
  }, [field, room, setSight]);
}

export function useHand(field: RefObject<HTMLElement | null>, room: Room, marks: readonly Mark[]) {
  const navigate = useNavigate();
  const tray = useTray();
  const [sight, setSight] = useState<Sight>(WHOLE);
  const [drawing, setDrawing] = useState(false);
  const [line, setLine] = useState<Place[]>([]);
  const [at, setAt] = useState<number | null>(null);
  // Gathered by keys, look by look; what the pointer draws around comes to it.
  const [gathered, setGathered] = useState<ReadonlySet<number>>(new Set());
  const [dragging, setDragging] = useState(false);
  const drag = useRef<{ px: number; py: number; from: Sight; moved: boolean } | null>(null);
  const here = marks.find((m) => m.id === at) ?? null;
  useWheel(field, room, setSight);
  const letGo = useCallback(() => {
    setLine([]);
    setGathered(new Set());
  }, []);
  const point = (e: PointerEvent): [number, number] => {
    const box = field.current!.getBoundingClientRect();
    return [e.clientX - box.left, e.clientY - box.top];
  };
  const open = (mark: Mark) => void navigate(`/catalogue/look/${mark.id}`);
  /** Makes a mark the one that is meant, and brings it into sight. */
  const meet = (mark: Mark) => {
    setAt(mark.id);
    setSight((s) => {
      const half = 0.5 / s.zoom;
      const outside = Math.abs(mark.x - s.x) > half || Math.abs(mark.y - s.y) > half;
      return outside ? held({ ...s, x: mark.x, y: mark.y }) : s;
    });
  };
  const step = (way: [number, number], gather: boolean) => {
    const start = here ?? middle(marks, sight);
    const next = here && start ? nextFrom(marks, start, ...way) : start;
    if (next) meet(next);
    if (gather && here && next) setGathered((all) => new Set([...all, here.id, next.id]));
  };
  const zoomBy = (by: number) => {
    const [px, py] = here ? drawnAt(here, sight, room) : [room.width / 2, room.height / 2];
    setSight((s) => zoomedAt(s, by, px, py, room));
  };
  const handlers = {
    onPointerDown: (e: PointerEvent<HTMLDivElement>) => {
      // Sheets that are opened from here stand elsewhere on the page, but React tells of what happens in
      // them too.
      const target = e.target as HTMLElement;
      if (target.closest("[data-apart]") || !e.currentTarget.contains(target)) return;
      const [px, py] = point(e);
      drag.current = { px, py, from: sight, moved: false };
      setDragging(true);
      e.currentTarget.setPointerCapture(e.pointerId);
      if (drawing) setLine([placeAt(px, py, sight, room)]);
    },
    onPointerMove: (e: PointerEvent<HTMLDivElement>) => {
      const [px, py] = point(e);
      const begun = drag.current;
      if (!begun) {
        setAt(markAt(marks, px, py, sight, room, REACH)?.id ?? null);
        return;
      }
      if (Math.hypot(px - begun.px, py - begun.py) > STILL) begun.moved = true;
      if (drawing) setLine((l) => [...l, placeAt(px, py, sight, room)]);
      else if (begun.moved) {
        const [a, b] = [placeAt(begun.px, begun.py, begun.from, room), placeAt(px, py, begun.from, room)];
        setSight(held({ ...begun.from, x: begun.from.x + a.x - b.x, y: begun.from.y + a.y - b.y }));
      }
    },
    onPointerUp: (e: PointerEvent<HTMLDivElement>) => {
      const begun = drag.current;
      drag.current = null;
      setDragging(false);
      if (!begun || begun.moved) return;
      const mark = markAt(marks, ...point(e), sight, room, REACH);
      if (drawing) setLine([]);
      else if (mark) open(mark);
    },
    onPointerLeave: () => !drag.current && setAt(null),
    onKeyDown: (e: KeyboardEvent) => {
      if (e.target !== e.currentTarget || e.ctrlKey || e.metaKey || e.altKey) return;
      const way = WAYS[e.key];
      if (way) step(way, e.shiftKey);
      else if (e.key === "+" || e.key === "-") zoomBy(e.key === "+" ? KEY : 1 / KEY);
      else if (e.key === "0") setSight(WHOLE);
      else if (e.key === "Enter" && here) open(here);
      else if (e.key.toLowerCase() === "t" && here) tray.turn(here.id);
      else if (e.key === "Escape") letGo();
      else return;
      e.preventDefault();
    },
  };
  const drawn = new Set(inside(marks, line).map((m) => m.id));
  return {
    ...{ sight, drawing, line, at, here, gathered, letGo, handlers },
    /** The marks that are drawn around or gathered, once the pointer is up. */
    chosen:
      drawing && dragging ? [] : marks.filter((m) => drawn.has(m.id) || (m.found && gathered.has(m.id))),
    whole: () => setSight(WHOLE),
    draw: setDrawing,
  };
}
