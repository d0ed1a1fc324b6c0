/** The picture: original, look, or both with a line between that can be moved; whole or enlarged. */
import { memo, useEffect, useLayoutEffect, useMemo, useRef, useState, type PointerEvent } from "react";
import { SliderThumb, SliderTrack, Slider } from "react-aria-components";
import styled from "styled-components";
import { BLOB, got, server } from "../api/client";
import { atRest } from "../api/rest";
import type { EncodingKey, Frame, Place as Point } from "../api/types";
import { NO_TRIM } from "../kit/trim";
import { useExact, type ExactWish } from "./exact";
import { Mask, type MaskName } from "./mask";
import { Painter } from "./painter";
import { usePictures, useUnlooked } from "./pictures";
import type { Feed } from "./live";
import { held, laid, through, WHOLE, zoomed, type Zoom } from "./zoom";

export type Mode = "original" | "look" | "split";

const Place = styled.div`
  flex: 1;
  min-height: 0;
  min-width: 0;
  position: relative;
  background: var(--surround);
  overflow: hidden;
  .picture {
    position: absolute;
    overflow: hidden;
  }
  canvas,
  .picture > img {
    display: block;
    width: 100%;
    height: 100%;
  }
  .tag {
    position: absolute;
    top: 10px;
    padding: 3px 10px;
    border-radius: 11px;
    background: #161616c8;
    font-size: 12px;
    pointer-events: none;
  }
  .split {
    position: absolute;
    inset: 0;
    overflow: hidden;
  }
  .split .track {
    width: 100%;
    height: 100%;
    cursor: ew-resize;
    touch-action: none;
  }
  .split .thumb {
    top: 50%;
    width: 20px;
    height: 20px;
    border-radius: 50%;
    background: #161616b0;
    border: 2px solid #f0f0f0;
  }
  .split .thumb:before,
  .split .thumb:after {
    content: "";
    position: absolute;
    left: 7px;
    width: 2px;
    height: 2000px;
    background: #f0f0f0;
  }
  .split .thumb:before {
    bottom: 18px;
  }
  .split .thumb:after {
    top: 18px;
  }
  .split.down .track {
    cursor: ns-resize;
  }
  .split.down .thumb {
    left: 50%;
  }
  .split.down .thumb:before,
  .split.down .thumb:after {
    left: auto;
    top: 7px;
    bottom: auto;
    width: 2000px;
    height: 2px;
  }
  .split.down .thumb:before {
    right: 18px;
  }
  .split.down .thumb:after {
    left: 18px;
  }
  .spot {
    position: absolute;
    width: 18px;
    height: 18px;
    margin: -9px;
    border-radius: 50%;
    border: 1.5px solid #fff;
    box-shadow: 0 0 0 1.5px #161616;
    font-size: 10.5px;
    line-height: 15px;
    text-align: center;
    color: #fff;
    text-shadow:
      0 0 3px #000,
      0 0 3px #000;
    pointer-events: none;
  }
  .wait {
    position: absolute;
    left: 0;
    right: 0;
    top: 46%;
    text-align: center;
    color: var(--t2);
  }
`;

/** Sizes are cut to steps, so that a picture is asked for in few sizes and drawn pixel for pixel. */
const STEP = 16;
const WIDEST = 4096;

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

/** What the split shows on its first side instead of the original. */
export interface Other {
  feed: Feed;
  wish: ExactWish | null;
  input: EncodingKey;
  name: string;
}

export const Stage = memo(function Stage(props: {
  frame: Frame | null;
  input: EncodingKey;
  feed: Feed;
  mode: Mode;
  wish: ExactWish | null;
  trimmed?: boolean;
  name?: string;
  surround?: string;
  other?: Other | null;
  down?: boolean;
  zoom?: Zoom;
  onZoom?: (zoom: Zoom) => void;
  tag?: string;
  onPoint?: (at: Point | null, pressed: boolean) => void;
  mask?: MaskName | "";
  spots?: Point[];
  picking?: boolean;
}) {
  const { frame, input, feed, mode, other = null, zoom = WHOLE, onZoom, onPoint } = props;
  const trimmed = props.trimmed ?? true;
  const place = useRef<HTMLDivElement>(null);
  const inside = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const painter = useRef<Painter | null>(null);
  const [box, setBox] = useState({ left: 0, top: 0, width: 0, height: 0 });
  const [split, setSplit] = useState(0.5);
  const [plain, setPlain] = useState(false);
  const ratio = window.devicePixelRatio || 1;
  const width = frame
    ? Math.min(
        Math.round(box.width * ratio * zoom.scale),
        Math.max(frame.width, Math.round(box.width * ratio)),
        WIDEST,
      )
    : 0;
  const pictures = usePictures(frame ? [frame] : [], input, width, trimmed);
  const others = usePictures(
    frame && other && mode === "split" ? [frame] : [],
    other?.input ?? input,
    width,
    trimmed,
  );
  const unlooked = useUnlooked(input);
  const exact = useExact(mode === "original" ? null : props.wish, width);
  const otherExact = useExact(mode === "split" ? (other?.wish ?? null) : null, width);
  const unlookedWish = useMemo<ExactWish | null>(
    () =>
      frame
        ? { look: { input, output: input, steps: [] }, frame: frame.id, trim: trimmed ? undefined : NO_TRIM }
        : null,
    [frame, input, trimmed],
  );
  const originalExact = useExact(
    mode === "original" || (mode === "split" && !other) ? unlookedWish : null,
    width,
  );
  const aspect = frame ? frame.width / frame.height : 16 / 9;

  useLayoutEffect(() => {
    const around = place.current;
    if (!around) return;
    const measure = () => {
      const { left, top, width: w, height: h } = around.getBoundingClientRect();
      const wide = Math.min(w, h * aspect, frame ? WIDEST / ratio : w);
      const wanted = fitting(wide, aspect);
      const height = Math.round(wanted / aspect);
      // On whole pixels of the screen: what the core computed is shown as it is, never resampled.
      const whole = (from: number, room: number, own: number) =>
        Math.round((from + (room - own) / 2) * ratio) / ratio - from;
      setBox({ left: whole(left, w, wanted), top: whole(top, h, height), width: wanted, height });
    };
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(around);
    return () => watch.disconnect();
  }, [aspect, frame, ratio]);

  useEffect(() => {
    if (!canvas.current) return;
    try {
      painter.current = new Painter(canvas.current);
    } catch {
      setPlain(true);
    }
    return () => {
      painter.current?.close();
      painter.current = null;
    };
  }, []);

  // A wheel that zooms must not scroll the page: React's own handler cannot say so.
  useEffect(() => {
    const on = inside.current;
    if (!on || !onZoom) return;
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const { left, top, width: w, height: h } = on.getBoundingClientRect();
      onZoom(
        zoomed(zoom, Math.exp(-e.deltaY / 400), { x: (e.clientX - left) / w, y: (e.clientY - top) / h }),
      );
    };
    on.addEventListener("wheel", wheel, { passive: false });
    return () => on.removeEventListener("wheel", wheel);
  }, [zoom, onZoom]);

  const picture = pictures[0];
  const second = others[0];
  const original = unlooked.data;
  const { down = false } = props;
  useEffect(() => {
    const paint = () => {
      const p = painter.current;
      if (p) p.canvas.dataset.exact = "no";
      if (!p || !picture || !box.width) return;
      const { live } = feed.answer.getState();
      const wide = Math.round(box.width * ratio);
      const high = Math.round(box.height * ratio);
      if (p.canvas.width !== wide || p.canvas.height !== high) {
        p.canvas.width = wide;
        p.canvas.height = high;
      }
      const steady = exact?.wish.show !== undefined && exact.wish.show !== "look";
      const rest = exact && (steady || feed.current(exact.wish)) ? exact.picture : null;
      const otherRest = otherExact && other?.feed.current(otherExact.wish) ? otherExact.picture : null;
      const there = other?.feed.answer.getState().live;
      p.keepOnly(
        new Set(
          [picture.key, rest?.key, second?.key, otherRest?.key, originalExact?.picture.key].filter(
            (k) => k !== undefined,
          ),
        ),
      );
      for (const one of [picture, rest, second, otherRest, originalExact?.picture])
        if (one) p.setPicture(one);
      if (live) p.setTable("look", live.size, live.table);
      if (there) p.setTable("other", there.size, there.table);
      if (original) p.setTable("original", original.size, original.table);
      const whole = laid(zoom, wide, high);
      const line = mode === "look" ? 0 : mode === "original" ? 1 : split;
      const [from, to] = down ? (["top", "bottom"] as const) : (["from", "to"] as const);
      const end = down ? high : wide;
      const first =
        !other || mode !== "split"
          ? originalExact
            ? { picture: originalExact.picture.key, slot: "finished" as const }
            : { picture: picture.key, slot: "original" as const }
          : otherRest
            ? { picture: otherRest.key, slot: "finished" as const }
            : { picture: second?.key ?? "", slot: "other" as const };
      p.draw([
        { ...whole, ...first, [from]: 0, [to]: line * end },
        {
          ...whole,
          picture: rest?.key ?? picture.key,
          slot: rest ? "finished" : "look",
          [from]: line * end,
          [to]: end,
        },
      ]);
      const settledLook = rest !== null && exact?.wish === props.wish;
      const settledFirst =
        mode === "look" || (mode === "split" && other ? otherRest !== null : originalExact !== null);
      const settled = settledFirst && (mode === "original" || settledLook);
      p.canvas.dataset.exact = settled ? "yes" : "no";
      p.canvas.dataset.drawn = String(performance.now());
    };
    paint();
    const stops = [feed.answer.subscribe(paint), other?.feed.answer.subscribe(paint)];
    return () => stops.forEach((stop) => stop?.());
  }, [
    picture,
    second,
    exact,
    otherExact,
    originalExact,
    other,
    feed,
    original,
    mode,
    split,
    down,
    box,
    ratio,
    zoom,
    props.wish,
  ]);

  const at = (e: PointerEvent): Point => {
    const { left, top, width: w, height: h } = inside.current!.getBoundingClientRect();
    const found = through(zoom, { x: (e.clientX - left) / w, y: (e.clientY - top) / h });
    return { x: Math.min(Math.max(found.x, 0), 1), y: Math.min(Math.max(found.y, 0), 1) };
  };
  const drag = useRef<{ x: number; y: number; zoom: Zoom; moved: boolean } | null>(null);
  const pointer = {
    onPointerDown: (e: PointerEvent<HTMLDivElement>) => {
      if (mode === "split" || e.button !== 0) return;
      e.currentTarget.setPointerCapture(e.pointerId);
      drag.current = { x: e.clientX, y: e.clientY, zoom, moved: false };
    },
    onPointerMove: (e: PointerEvent<HTMLDivElement>) => {
      const from = drag.current;
      if (from && zoom.scale > 1 && onZoom && !props.picking) {
        const [dx, dy] = [e.clientX - from.x, e.clientY - from.y];
        if (Math.hypot(dx, dy) > 3) from.moved = true;
        if (from.moved) {
          onZoom(
            held({
              ...from.zoom,
              x: from.zoom.x - dx / (box.width * zoom.scale),
              y: from.zoom.y - dy / (box.height * zoom.scale),
            }),
          );
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
  const over = laid(zoom, box.width, box.height);
  const before = other ? other.name : trimmed ? "original, trimmed" : "original";

  return (
    <Place ref={place} style={props.surround ? { background: props.surround } : undefined}>
      <div
        ref={inside}
        className="picture"
        style={{ ...box, cursor: props.picking ? "crosshair" : zoom.scale > 1 ? "grab" : undefined }}
        {...(onPoint || onZoom ? pointer : {})}
      >
        {plain ? (
          <StillPicture wish={mode === "original" ? null : props.wish} frame={frame} width={box.width} />
        ) : (
          <canvas
            ref={canvas}
            role="img"
            aria-label={frame ? `${frame.name}, ${props.tag ?? mode}` : "No frame"}
            data-picture={picture?.key ?? ""}
          />
        )}
        {props.mask && props.wish && mode !== "original" ? (
          <Mask
            wish={props.wish}
            width={Math.min(Math.round(box.width), 1280)}
            name={props.mask}
            style={{
              position: "absolute",
              left: over.x,
              top: over.y,
              width: over.width,
              height: over.height,
            }}
          />
        ) : null}
        {mode === "split" ? (
          <>
            <span className="tag" style={{ left: 10 }}>
              {before}
            </span>
            <span className="tag" style={down ? { left: 10, top: "auto", bottom: 10 } : { right: 10 }}>
              {props.name ?? "look"}
            </span>
            <Slider
              className={down ? "split down" : "split"}
              aria-label={`Split between ${before} and ${props.name ?? "look"}`}
              minValue={0}
              maxValue={1}
              step={0.005}
              value={down ? 1 - split : split}
              orientation={down ? "vertical" : "horizontal"}
              onChange={(v) => setSplit(down ? 1 - v : v)}
            >
              <SliderTrack className="track">
                <SliderThumb className="thumb" />
              </SliderTrack>
            </Slider>
          </>
        ) : props.tag || mode === "original" ? (
          <span className="tag" style={{ left: 10 }}>
            {props.tag ?? before}
          </span>
        ) : null}
        {props.spots?.map((s, k) => {
          const [x, y] = [over.x + s.x * over.width, over.y + s.y * over.height];
          return x < 0 || y < 0 || x > box.width || y > box.height ? null : (
            <span key={k} className="spot" style={{ left: x, top: y }}>
              {k + 1}
            </span>
          );
        })}
      </div>
      {frame && !picture && !plain ? (
        <span className="wait" role="status">
          Fetching {frame.name} …
        </span>
      ) : null}
    </Place>
  );
});

/** Without WebGL 2 the server renders the picture. */
function StillPicture(props: { wish: ExactWish | null; frame: Frame | null; width: number }) {
  const { wish, frame, width } = props;
  const [src, setSrc] = useState("");
  useEffect(() => {
    if (!frame || !width) return;
    if (!wish) {
      setSrc(`/api/frames/${frame.id}/still?width=${width}&v=${frame.version}`);
      return;
    }
    return atRest(120, async (signal) =>
      setSrc(
        URL.createObjectURL(
          await got(
            server.POST("/api/picture", { params: { query: { width } }, body: wish, signal, ...BLOB }),
          ),
        ),
      ),
    );
  }, [wish, frame, width]);
  useEffect(() => () => URL.revokeObjectURL(src), [src]);
  return src ? <img src={src} alt={frame?.name ?? ""} /> : null;
}
