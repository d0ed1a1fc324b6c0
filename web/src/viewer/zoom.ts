/** How much of a picture is seen, and which part of it; shared by all pictures that are zoomed together. */
export interface Zoom {
  /** 1: the whole picture. */
  scale: number;
  /** The place in the middle, as shares of width and height. */
  x: number;
  y: number;
}

export const WHOLE: Zoom = { scale: 1, x: 0.5, y: 0.5 };
export const MOST = 24;

/** Kept inside the picture. */
export function held(zoom: Zoom): Zoom {
  const scale = Math.min(Math.max(zoom.scale, 1), MOST);
  const half = 0.5 / scale;
  const inside = (v: number) => Math.min(Math.max(v, half), 1 - half);
  return { scale, x: inside(zoom.x), y: inside(zoom.y) };
}

/** Larger or smaller around a place of the view that stays where it is; `at` in shares of the view. */
export function zoomed(zoom: Zoom, by: number, at: { x: number; y: number } = { x: 0.5, y: 0.5 }): Zoom {
  const scale = Math.min(Math.max(zoom.scale * by, 1), MOST);
  const keep = (c: number, v: number) => c + (v - 0.5) / zoom.scale - (v - 0.5) / scale;
  return held({ scale, x: keep(zoom.x, at.x), y: keep(zoom.y, at.y) });
}

/** The place of the picture under a place of the view. */
export const through = (zoom: Zoom, at: { x: number; y: number }) => ({
  x: zoom.x + (at.x - 0.5) / zoom.scale,
  y: zoom.y + (at.y - 0.5) / zoom.scale,
});

/** Where the whole picture lies when the view is `width` × `height`. */
export const laid = (zoom: Zoom, width: number, height: number) => ({
  x: width / 2 - zoom.x * width * zoom.scale,
  y: height / 2 - zoom.y * height * zoom.scale,
  width: width * zoom.scale,
  height: height * zoom.scale,
});
