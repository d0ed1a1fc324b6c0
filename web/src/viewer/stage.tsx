/** The picture: original, look, or both with a line between that can be moved. */
import { memo, useEffect, useLayoutEffect, useRef, useState } from "react";
import { SliderThumb, SliderTrack, Slider } from "react-aria-components";
import styled from "styled-components";
import { api } from "../api/client";
import type { EncodingKey, Frame } from "../api/types";
import { useExact } from "./exact";
import { Painter } from "./painter";
import { usePictures, useUnlooked } from "./pictures";
import type { Feed, Wish } from "./live";

export type Mode = "original" | "look" | "split";

const Place = styled.div`
  flex: 1; min-height: 0; min-width: 0; position: relative; background: var(--surround); border-radius: 4px; overflow: hidden;
  .picture { position: absolute; }
  canvas, .picture > img { display: block; width: 100%; height: 100%; }
  .tag {
    position: absolute; top: 10px; padding: 3px 10px; border-radius: 11px; background: #161616c8; font-size: 12px; pointer-events: none;
  }
  .split { position: absolute; inset: 0; overflow: hidden; }
  .split .track { width: 100%; height: 100%; cursor: ew-resize; touch-action: none; }
  .split .thumb { top: 50%; width: 20px; height: 20px; border-radius: 50%; background: #161616b0; border: 2px solid #f0f0f0; }
  .split .thumb:before, .split .thumb:after { content: ""; position: absolute; left: 7px; width: 2px; height: 2000px; background: #f0f0f0; }
  .split .thumb:before { bottom: 18px; }
  .split .thumb:after { top: 18px; }
  .wait { position: absolute; left: 0; right: 0; top: 46%; text-align: center; color: var(--t2); }
`;

/** Sizes are cut to steps, so that a picture is asked for in few sizes and drawn pixel for pixel. */
const STEP = 16;

export const Stage = memo(function Stage(props: {
  frame: Frame | null; input: EncodingKey; feed: Feed; mode: Mode; wish: Wish | null; trimmed?: boolean; name?: string;
  surround?: string;
}) {
  const { frame, input, feed, mode } = props;
  const trimmed = props.trimmed ?? true;
  const place = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const painter = useRef<Painter | null>(null);
  const [box, setBox] = useState({ left: 0, top: 0, width: 0, height: 0 });
  const [split, setSplit] = useState(0.5);
  const [plain, setPlain] = useState(false);
  const ratio = window.devicePixelRatio || 1;
  const pictures = usePictures(frame ? [frame] : [], input, Math.round(box.width * ratio), trimmed);
  const unlooked = useUnlooked(input);
  const exact = useExact(mode === "original" ? null : props.wish, Math.round(box.width * ratio));
  const aspect = frame ? frame.width / frame.height : 16 / 9;

  useLayoutEffect(() => {
    const around = place.current;
    if (!around) return;
    const measure = () => {
      const { left, top, width: w, height: h } = around.getBoundingClientRect();
      const wide = Math.min(w, h * aspect, frame ? 4096 / ratio : w);
      const width = Math.max(STEP, Math.floor(wide / STEP) * STEP);
      const height = Math.round(width / aspect);
      // On whole pixels of the screen: what the core computed is shown as it is, never resampled.
      const whole = (from: number, room: number, own: number) => Math.round((from + (room - own) / 2) * ratio) / ratio - from;
      setBox({ left: whole(left, w, width), top: whole(top, h, height), width, height });
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

  const picture = pictures[0];
  const original = unlooked.data;
  useEffect(() => {
    const paint = () => {
      const p = painter.current;
      if (!p || !picture || !box.width) return;
      const { live } = feed.answer.getState();
      const width = Math.round(box.width * ratio);
      const height = Math.round(box.height * ratio);
      if (p.canvas.width !== width || p.canvas.height !== height) {
        p.canvas.width = width;
        p.canvas.height = height;
      }
      const rest = exact && feed.current(exact.wish) ? exact.picture : null;
      p.keepOnly(new Set([picture.key, rest?.key ?? ""]));
      p.setPicture(picture);
      if (rest) p.setPicture(rest);
      if (live) p.setTable("look", live.size, live.table);
      if (original) p.setTable("original", original.size, original.table);
      const whole = { picture: picture.key, x: 0, y: 0, width, height };
      const line = mode === "look" ? 0 : mode === "original" ? width : split * width;
      p.draw([
        { ...whole, slot: "original", from: 0, to: line },
        { ...whole, ...(rest ? { picture: rest.key, slot: "finished" } : { slot: "look" }), from: line, to: width },
      ]);
      p.canvas.dataset.exact = rest ? "yes" : "no";
      p.canvas.dataset.drawn = String(performance.now());
    };
    paint();
    return feed.answer.subscribe(paint);
  }, [picture, exact, feed, original, mode, split, box, ratio]);

  return (
    <Place ref={place} style={props.surround ? { background: props.surround } : undefined}>
      <div className="picture" style={box}>
        {plain ? (
          <StillPicture wish={mode === "original" ? null : props.wish} frame={frame} width={box.width} />
        ) : (
          <canvas ref={canvas} role="img" aria-label={frame ? `${frame.name}, ${mode}` : "No frame"} data-picture={picture?.key ?? ""} />
        )}
        {mode === "split" ? (
          <>
            <span className="tag" style={{ left: 10 }}>{trimmed ? "original, trimmed" : "original"}</span>
            <span className="tag" style={{ right: 10 }}>{props.name ?? "look"}</span>
            <Slider
              className="split" aria-label="Split between original and look" minValue={0} maxValue={1} step={0.005} value={split}
              onChange={(v) => setSplit(v as number)}
            >
              <SliderTrack className="track"><SliderThumb className="thumb" /></SliderTrack>
            </Slider>
          </>
        ) : mode === "original" ? (
          <span className="tag" style={{ left: 10 }}>{trimmed ? "original, trimmed" : "original"}</span>
        ) : null}
      </div>
      {frame && !picture && !plain ? <span className="wait" role="status">Fetching {frame.name} …</span> : null}
    </Place>
  );
});

/** Without WebGL 2 the server renders the picture. */
function StillPicture(props: { wish: Wish | null; frame: Frame | null; width: number }) {
  const { wish, frame, width } = props;
  const [src, setSrc] = useState("");
  useEffect(() => {
    if (!frame || !width) return;
    if (!wish) {
      setSrc(`/api/frames/${frame.id}/still?width=${width}&v=${frame.version}`);
      return;
    }
    const stop = new AbortController();
    const wait = setTimeout(async () => {
      try {
        setSrc(URL.createObjectURL(await api.blob(`/picture?width=${width}`, wish, stop.signal)));
      } catch {
        // The last picture stays; the bench says what is wrong with the look.
      }
    }, 120);
    return () => {
      clearTimeout(wait);
      stop.abort();
    };
  }, [wish, frame, width]);
  useEffect(() => () => URL.revokeObjectURL(src), [src]);
  return src ? <img src={src} alt={frame?.name ?? ""} /> : null;
}
