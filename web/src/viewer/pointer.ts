/** What a pointer does on the picture: the wheel enlarges, a drag moves what is enlarged, a press points. */
import { useEffect, useRef, type PointerEvent, type RefObject } from "react";
import type { Place as Point } from "../api/types";
import type { Box } from "./box";
import { held, through, zoomed, type Zoom } from "./zoom";

/** Pixels that a pointer may move between down and up and still press. */
const STILL = 3;
/** How far a wheel must turn to enlarge by e. */
const WHEEL = 400;

/** A wheel that enlarges must not scroll the page: React's own handler cannot say so. */
export function useWheel(
  inside: RefObject<HTMLElement | null>,
  zoom: Zoom,
  onZoom: ((zoom: Zoom) => void) | undefined,
): void {
  useEffect(() => {
    const on = inside.current;
    if (!on || !onZoom) return;
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const { left, top, width, height } = on.getBoundingClientRect();
      const at = { x: (e.clientX - left) / width, y: (e.clientY - top) / height };
      onZoom(zoomed(zoom, Math.exp(-e.deltaY / WHEEL), at));
    };
    on.addEventListener("wheel", wheel, { passive: false });
    return () => on.removeEventListener("wheel", wheel);
  }, [inside, zoom, onZoom]);
}

/** Handlers of the element that the picture fills. */
export function usePointer(props: {
  inside: RefObject<HTMLElement | null>;
  box: Box;
  zoom: Zoom;
  /** Something else takes the pointer, such as a line between two pictures. */
  taken: boolean;
  picking: boolean;
  onZoom: ((zoom: Zoom) => void) | undefined;
  onPoint: ((at: Point | null, pressed: boolean) => void) | undefined;
}) {
  const { inside, box, zoom, taken, picking, onZoom, onPoint } = props;
  const drag = useRef<{ x: number; y: number; zoom: Zoom; moved: boolean } | null>(null);
  if (!onPoint && !onZoom) return {};
  const at = (e: PointerEvent): Point => {
    const { left, top, width, height } = inside.current!.getBoundingClientRect();
    const found = through(zoom, { x: (e.clientX - left) / width, y: (e.clientY - top) / height });
    return { x: Math.min(Math.max(found.x, 0), 1), y: Math.min(Math.max(found.y, 0), 1) };
  };
  return {
    onPointerDown: (e: PointerEvent<HTMLDivElement>) => {
      if (taken || e.button !== 0) return;
      e.currentTarget.setPointerCapture(e.pointerId);
      drag.current = { x: e.clientX, y: e.clientY, zoom, moved: false };
    },
    onPointerMove: (e: PointerEvent<HTMLDivElement>) => {
      const from = drag.current;
      if (from && zoom.scale > 1 && onZoom && !picking) {
        const [dx, dy] = [e.clientX - from.x, e.clientY - from.y];
        if (Math.hypot(dx, dy) > STILL) from.moved = true;
        if (from.moved) {
          const x = from.zoom.x - dx / (box.width * zoom.scale);
          const y = from.zoom.y - dy / (box.height * zoom.scale);
          onZoom(held({ ...from.zoom, x, y }));
          return;
        }
      }
      onPoint?.(at(e), false);
    },
    onPointerUp: (e: PointerEvent<HTMLDivElement>) => {
      const from = drag.current;
      drag.current = null;
      if (from && !from.moved) onPoint?.(at(e), true);
    },
    onPointerLeave: () => onPoint?.(null, false),
  };
}
