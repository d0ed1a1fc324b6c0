/** Keeps the canvas painted: outside React, whenever a table or a picture that was computed has come. */
import { useEffect, useRef, useState, type RefObject } from "react";
import type { Player } from "../player/player";
import type { Box } from "./box";
import type { Rest } from "./exact";
import type { Feed, Wish } from "./live";
import { Painter, type Placed } from "./painter";
import type { Live, Picture } from "./table";
import { laid, type Zoom } from "./zoom";

export type Mode = "original" | "look" | "split";

/** What is to be painted. line: where the second picture begins, 0 to 1. */
export interface Painted {
  mode: Mode;
  feed: Feed;
  wish: Wish | null;
  picture: Picture | undefined;
  /** The clip that is shown in place of the picture, as soon as it shows something. */
  player: Player | null;
  /** The look's own pixels at rest. */
  exact: Rest | null;
  /** The original: its pixels at rest, and the table that shows it before. */
  originalExact: Rest | null;
  original: Live | undefined;
  /** What the split shows instead of the original. */
  other: { feed: Feed; picture: Picture | undefined; exact: Rest | null } | null;
  line: number;
  down: boolean;
}

/** The key of the picture that a clip shows. */
const MOVING = "moving";

/** Takes what the clip shows now; gives its key, and that of the still until there is something. */
function taken(painter: Painter, { player }: Painted, still: string): string {
  const shown = player?.shown();
  if (!player || !shown) return still;
  painter.canvas.dataset.number = String(shown.number);
  if ("planes" in shown) painter.setPlanes(MOVING, shown.planes, player.index.rows);
  else painter.setVideo(MOVING, shown.video);
  return MOVING;
}

/** Whether pixels that were rendered at rest are of the frame that is shown. */
function rests({ player }: Painted, rest: Rest): boolean {
  if (!player) return true;
  const { playing, number } = player.state.getState();
  return !playing && rest.wish.at === number;
}

/** The first side of a split, or the whole of the original. */
function firstLayer(p: Painted, picture: string, otherRest: Picture | null) {
  if (p.other && p.mode === "split")
    return otherRest
      ? { picture: otherRest.key, slot: "finished" as const }
      : { picture: p.player ? picture : (p.other.picture?.key ?? ""), slot: "other" as const };
  return p.originalExact && rests(p, p.originalExact)
    ? { picture: p.originalExact.picture.key, slot: "finished" as const }
    : { picture, slot: "original" as const };
}

function paint(painter: Painter, p: Painted, picture: Picture, wide: number, high: number, zoom: Zoom) {
  const { canvas } = painter;
  if (canvas.width !== wide || canvas.height !== high) {
    canvas.width = wide;
    canvas.height = high;
  }
  const { live } = p.feed.answer.getState();
  const steady = p.exact?.wish.show !== undefined && p.exact.wish.show !== "look";
  const exact = p.exact && rests(p, p.exact) ? p.exact : null;
  const rest = exact && (steady || p.feed.current(exact.wish)) ? exact.picture : null;
  const beside = p.other?.exact && rests(p, p.other.exact) ? p.other.exact : null;
  const otherRest = beside && p.other?.feed.current(beside.wish) ? beside.picture : null;
  const there = p.other?.feed.answer.getState().live;
  const pictures = [picture, rest, p.other?.picture, otherRest, p.originalExact?.picture].filter((x) => !!x);
  painter.keepOnly(new Set([MOVING, ...pictures.map((x) => x.key)]));
  for (const one of pictures) painter.setPicture(one);
  const main = taken(painter, p, picture.key);
  if (live) painter.setTable("look", live.size, live.table);
  if (there) painter.setTable("other", there.size, there.table);
  if (p.original) painter.setTable("original", p.original.size, p.original.table);
  const whole = laid(zoom, wide, high);
  const line = p.mode === "look" ? 0 : p.mode === "original" ? 1 : p.line;
  const [from, to] = p.down ? (["top", "bottom"] as const) : (["from", "to"] as const);
  const end = p.down ? high : wide;
  const look: Pick<Placed, "picture" | "slot"> = {
    picture: rest?.key ?? main,
    slot: rest ? "finished" : "look",
  };
  painter.draw([
    { ...whole, ...firstLayer(p, main, otherRest), [from]: 0, [to]: line * end },
    { ...whole, ...look, [from]: line * end, [to]: end },
  ]);
  const settledLook = rest !== null && p.exact?.wish === p.wish;
  const originalRests = p.originalExact !== null && rests(p, p.originalExact);
  const settledFirst =
    p.mode === "look" || (p.mode === "split" && p.other ? otherRest !== null : originalRests);
  canvas.dataset.exact = settledFirst && (p.mode === "original" || settledLook) ? "yes" : "no";
  canvas.dataset.drawn = String(performance.now());
}

/** Whether the browser can paint; where it cannot, the server draws. */
export function usePainting(
  canvas: RefObject<HTMLCanvasElement | null>,
  what: Painted,
  box: Box,
  zoom: Zoom,
): boolean {
  const painter = useRef<Painter | null>(null);
  const [able, setAble] = useState(true);
  const ratio = window.devicePixelRatio || 1;
  useEffect(() => {
    if (!canvas.current) return;
    try {
      painter.current = new Painter(canvas.current);
    } catch {
      setAble(false);
    }
    return () => {
      painter.current?.close();
      painter.current = null;
    };
  }, [canvas]);
  useEffect(() => {
    const again = () => {
      const on = painter.current;
      if (on) on.canvas.dataset.exact = "no";
      if (!on || !what.picture || !box.width) return;
      paint(on, what, what.picture, Math.round(box.width * ratio), Math.round(box.height * ratio), zoom);
    };
    again();
    const stops = [
      what.feed.answer.subscribe(again),
      what.other?.feed.answer.subscribe(again),
      what.player?.painted(again),
    ];
    return () => stops.forEach((stop) => stop?.());
  }, [what, box, ratio, zoom]);
  return able;
}
