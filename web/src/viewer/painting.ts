/** Keeps the canvas painted: outside React, whenever a table or a picture that was computed has come. */
import { useEffect, useRef, useState, type RefObject } from "react";
import type { Player } from "../player/player";
import type { Box } from "./box";
import type { Rest } from "./exact";
import type { Feed, Wish } from "./live";
import { Painter, type Placed } from "./painter";
import { LONGEST, QuickPainter } from "./quick";
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

/** Takes what the clip shows now. */
function take(painter: Painter, { player }: Painted): void {
  const shown = player?.shown();
  if (!player || !shown) return;
  if ("planes" in shown) painter.setPlanes(MOVING, shown.planes, player.index.rows);
  else painter.setVideo(MOVING, shown.video);
}

/** Whether pixels that were rendered at rest are of the frame that is shown. */
function rests({ player }: Painted, rest: Rest): boolean {
  if (!player) return true;
  const { playing, number } = player.state.getState();
  return !playing && rest.wish.at === number;
}

/** Whether all that is shown was rendered for the frame at rest. */
function steadies(p: Painted): boolean {
  const one = p.mode === "original" ? p.originalExact : p.exact;
  return one !== null && rests(p, one) && (p.mode === "original" || p.feed.current(one.wish));
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
  // The still stands until the clip shows something.
  const shown = p.player?.shown();
  const main = shown ? MOVING : picture.key;
  if (shown) canvas.dataset.number = String(shown.number);
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
  const layers: Placed[] = [
    ...(line > 0 ? [{ ...whole, ...firstLayer(p, main, otherRest), [from]: 0, [to]: line * end }] : []),
    ...(line < 1 ? [{ ...whole, ...look, [from]: line * end, [to]: end }] : []),
  ];
  // Turning its codes into colours takes time; pixels that were rendered need it not.
  if (layers.some((layer) => layer.picture === MOVING)) take(painter, p);
  painter.draw(layers);
  const settledLook = rest !== null && p.exact?.wish === p.wish;
  const originalRests = p.originalExact !== null && rests(p, p.originalExact);
  const settledFirst =
    p.mode === "look" || (p.mode === "split" && p.other ? otherRest !== null : originalRests);
  canvas.dataset.exact = settledFirst && (p.mode === "original" || settledLook) ? "yes" : "no";
  canvas.dataset.drawn = String(performance.now());
}

/**
 * Milliseconds after which a frame that stays is painted in full size, where there is no graphics card; its rendered
 * pixels are painted as soon as they come.
 */
const SETTLED = 700;

/**
 * Paints a clip that moves by the thread that draws on the processor; whether it does. Only frames that are decoded to
 * codes can be drawn so.
 */
function paintQuickly(quick: QuickPainter, p: Painted, wide: number, high: number, zoom: Zoom): boolean {
  const { player, feed, original, other } = p;
  const shown = player?.shown();
  const { live } = feed.answer.getState();
  const there = other?.feed.answer.getState().live;
  const first = p.mode === "split" && other ? there : original;
  if (!player || !shown || !("planes" in shown)) return false;
  if ((p.mode !== "original" && !live) || (p.mode !== "look" && !first)) return false;
  const scale = Math.min(LONGEST / Math.max(wide, high), 1);
  const [width, height] = [Math.max(Math.round(wide * scale), 1), Math.max(Math.round(high * scale), 1)];
  const whole = laid(zoom, width, height);
  const place = [whole.x, whole.y, whole.width, whole.height] as const;
  const end = p.down ? height : width;
  const line = Math.round((p.mode === "look" ? 0 : p.mode === "original" ? 1 : p.line) * end);
  const part = (slot: string, from: number, to: number) => ({
    ...{ slot, place },
    columns: p.down ? ([0, width] as const) : ([from, to] as const),
    rows: p.down ? ([from, to] as const) : ([0, height] as const),
  });
  const slotted = (slot: string, one: Live | null | undefined) =>
    one ? [{ slot, table: { size: one.size, values: one.table } }] : [];
  if (!player.state.getState().small) player.state.setState({ small: true });
  quick.draw(() => ({
    ...{ frame: shown.planes, matrix: player.index.rows, width, height },
    tables: quick.fresh([...slotted("first", first), ...slotted("look", live)]),
    parts: [part("first", 0, line), part("look", line, end)],
  }));
  return true;
}

/** Whether the browser can paint; where it cannot, the server draws. small: over the canvas, for what plays. */
export function usePainting(
  canvas: RefObject<HTMLCanvasElement | null>,
  small: RefObject<HTMLCanvasElement | null>,
  what: Painted,
  box: Box,
  zoom: Zoom,
): boolean {
  const painter = useRef<Painter | null>(null);
  const quick = useRef<QuickPainter | null>(null);
  const moved = useRef({ number: -1, at: 0 });
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
      quick.current?.close();
      painter.current = quick.current = null;
    };
  }, [canvas]);
  useEffect(() => {
    let later = 0;
    /** Whether another frame is shown than a moment ago; it is painted again when that is over. */
    const moves = (player: Player): boolean => {
      const { playing, number } = player.state.getState();
      const now = performance.now();
      if (number !== moved.current.number) moved.current = { number, at: now };
      const left = moved.current.at + SETTLED - now;
      clearTimeout(later);
      if (playing) return true;
      if (what.mode !== "split" && steadies(what)) return false;
      if (left > 0) later = window.setTimeout(again, left);
      return left > 0;
    };
    const again = () => {
      const on = painter.current;
      if (on) on.canvas.dataset.exact = "no";
      if (!on || !what.picture || !box.width) return;
      const [wide, high] = [Math.round(box.width * ratio), Math.round(box.height * ratio)];
      if (on.slow && small.current && what.player && moves(what.player)) {
        quick.current ??= new QuickPainter(small.current);
        if (paintQuickly(quick.current, what, wide, high, zoom)) {
          delete on.canvas.dataset.number;
          return;
        }
      }
      quick.current?.hide();
      paint(on, what, what.picture, wide, high, zoom);
    };
    again();
    const stops = [
      what.player?.state.subscribe((now, before) => now.playing !== before.playing && again()),
      what.feed.answer.subscribe(again),
      what.other?.feed.answer.subscribe(again),
      what.player?.painted(again),
    ];
    return () => {
      clearTimeout(later);
      stops.forEach((stop) => stop?.());
    };
  }, [what, box, ratio, zoom, small]);
  return able;
}
