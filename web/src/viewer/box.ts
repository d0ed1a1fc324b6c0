/** Where the picture lies in its place: as large as fits, on whole pixels of the screen. */
import { useLayoutEffect, useState, type RefObject } from "react";

/** Sizes are cut to steps, so that a picture is asked for in few sizes and drawn pixel for pixel. */
const STEP = 16;
export const WIDEST = 4096;

/**
 * The widest of those sizes that fits, with an even height where there is one near: a canvas of odd height is
 * composed blurred.
 */
function fitting(wide: number, aspect: number): number {
  const most = Math.max(STEP, Math.floor(wide / STEP) * STEP);
  for (let width = most; width > Math.max(STEP, most - 4 * STEP); width -= STEP) {
    if (Math.round(width / aspect) % 2 === 0) return width;
  }
  return most;
}

export interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** aspect: width over height; `null` where there is no picture yet. */
export function useBox(place: RefObject<HTMLElement | null>, aspect: number | null): Box {
  const [box, setBox] = useState<Box>({ left: 0, top: 0, width: 0, height: 0 });
  const ratio = window.devicePixelRatio || 1;
  useLayoutEffect(() => {
    const around = place.current;
    if (!around) return;
    const measure = () => {
      const { left, top, width: w, height: h } = around.getBoundingClientRect();
      const shape = aspect ?? 16 / 9;
      const wide = Math.min(w, h * shape, aspect ? WIDEST / ratio : w);
      const wanted = fitting(wide, shape);
      const height = Math.round(wanted / shape);
      // On whole pixels of the screen: what the core computed is shown as it is, never resampled.
      const whole = (from: number, room: number, own: number) =>
        Math.round((from + (room - own) / 2) * ratio) / ratio - from;
      setBox({ left: whole(left, w, wanted), top: whole(top, h, height), width: wanted, height });
    };
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(around);
    return () => watch.disconnect();
  }, [place, aspect, ratio]);
  return box;
}
