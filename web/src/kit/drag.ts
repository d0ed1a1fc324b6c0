/** Dragging on something drawn, by pointer or with the arrow keys: discs, curves, rings and bars. */
import { useRef, type DOMAttributes, type PointerEvent, type RefObject } from "react";
import { mergeProps, useMove } from "react-aria";

/** Both from 0 to 1 across the area, to the right and upwards; beyond where the pointer is outside. */
export type Place = [number, number];
interface Held {
  shiftKey: boolean;
  altKey: boolean;
}

/** What happens on the way. */
export interface Dragging {
  /** The pointer went down; where this is missing, `to` is told. */
  from?: (at: Place) => void;
  /** The pointer came to a place. */
  to: (at: Place, held: Held) => void;
  /** An arrow key: −1 or 1 to the right or upwards. */
  arrow?: (right: number, up: number, held: Held) => void;
}

/** Props for what is taken hold of; places are told within `area`. */
export function useDrag(area: RefObject<Element | null>, on: Dragging): DOMAttributes<Element> {
  const pointer = useRef({ x: 0, y: 0 });
  const place = (): Place => {
    const box = area.current!.getBoundingClientRect();
    return [(pointer.current.x - box.left) / box.width, 1 - (pointer.current.y - box.top) / box.height];
  };
  const { moveProps } = useMove({
    onMove: (e) => {
      if (e.pointerType === "keyboard") {
        on.arrow?.(e.deltaX, -e.deltaY, e);
        return;
      }
      pointer.current = { x: pointer.current.x + e.deltaX, y: pointer.current.y + e.deltaY };
      on.to(place(), e);
    },
  });
  const down = (e: PointerEvent) => {
    if (e.button !== 0) return;
    pointer.current = { x: e.clientX, y: e.clientY };
    if (on.from) on.from(place());
    else on.to(place(), e);
  };
  return mergeProps(moveProps, { onPointerDown: down });
}
