/** The frames row: every frame live under the look, one of them chosen. */
import { memo, useEffect, useRef, type ReactNode } from "react";
import { Radio, RadioGroup } from "react-aria-components";
import styled from "styled-components";
import type { EncodingKey, Frame } from "../api/types";
import { Painter } from "./painter";
import { usePictures } from "./pictures";
import type { Feed } from "./live";

const WIDTH = 104;
const HEIGHT = 58;
const GAP = 8;
const LABEL = 18;

const Row = styled(RadioGroup)`
  flex: none;
  position: relative;
  overflow-x: auto;
  overflow-y: hidden;
  padding: 3px;
  margin: -3px;
  canvas {
    position: absolute;
    left: 3px;
    top: ${LABEL + 3}px;
  }
  .all {
    display: flex;
    gap: ${GAP}px;
    position: relative;
    width: max-content;
  }
  .one {
    width: ${WIDTH}px;
    height: ${HEIGHT + LABEL}px;
    cursor: pointer;
    color: var(--t2);
    font-size: 12px;
  }
  .one span {
    display: block;
    height: ${LABEL}px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .one i {
    display: block;
    width: ${WIDTH}px;
    height: ${HEIGHT}px;
    border-radius: 3px;
  }
  .one[data-selected] {
    color: var(--t1);
  }
  .one[data-selected] i {
    box-shadow:
      0 0 0 2px var(--g0),
      0 0 0 3.5px var(--t1);
  }
  .one[data-focus-visible] {
    outline: none;
  }
  .one[data-focus-visible] i {
    box-shadow: 0 0 0 2px var(--accent);
  }
`;

export const Strip = memo(function Strip(props: {
  frames: Frame[];
  chosen: number | null;
  onChoose: (id: number) => void;
  input: EncodingKey;
  feed: Feed;
  /** What lies over the picture of a frame: where it stands in the row. */
  over?: (frame: Frame, place: { left: number; top: number; width: number; height: number }) => ReactNode;
}) {
  const { frames, feed } = props;
  const ratio = window.devicePixelRatio || 1;
  const pictures = usePictures(frames, props.input, Math.round(WIDTH * ratio));
  const canvas = useRef<HTMLCanvasElement>(null);
  const painter = useRef<Painter | null>(null);

  useEffect(() => {
    if (!canvas.current) return;
    try {
      painter.current = new Painter(canvas.current);
    } catch {
      painter.current = null;
    }
    return () => {
      painter.current?.close();
      painter.current = null;
    };
  }, []);

  useEffect(() => {
    const paint = () => {
      const p = painter.current;
      const { live } = feed.answer.getState();
      if (!p || !live) return;
      const width = Math.max(1, Math.round((frames.length * (WIDTH + GAP) - GAP) * ratio));
      if (p.canvas.width !== width) {
        p.canvas.width = width;
        p.canvas.height = Math.round(HEIGHT * ratio);
      }
      p.keepOnly(new Set(pictures.map((x) => x.key)));
      pictures.forEach((x) => p.setPicture(x));
      p.setTable("look", live.size, live.table);
      const byFrame = new Map(pictures.map((x) => [x.key.split("-")[0], x]));
      p.draw(
        frames.flatMap((f, k) => {
          const picture = byFrame.get(String(f.id));
          if (!picture) return [];
          // The whole picture, centred in its cell.
          const scale = Math.min((WIDTH * ratio) / picture.width, (HEIGHT * ratio) / picture.height);
          const [w, h] = [picture.width * scale, picture.height * scale];
          const x = k * (WIDTH + GAP) * ratio + (WIDTH * ratio - w) / 2;
          return [
            {
              picture: picture.key,
              slot: "look" as const,
              x,
              y: (HEIGHT * ratio - h) / 2,
              width: w,
              height: h,
              from: x,
              to: x + w,
            },
          ];
        }),
      );
      p.canvas.dataset.drawn = String(performance.now());
    };
    paint();
    return feed.answer.subscribe(paint);
  }, [frames, pictures, feed, ratio]);

  const row = useRef<HTMLDivElement>(null);
  useEffect(() => {
    row.current?.querySelector("[data-selected]")?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [props.chosen, frames.length]);

  return (
    <Row
      ref={row}
      aria-label="Frames"
      value={props.chosen === null ? "" : String(props.chosen)}
      onChange={(v) => props.onChoose(Number(v))}
      orientation="horizontal"
    >
      <canvas
        ref={canvas}
        aria-hidden
        style={{ width: Math.max(1, frames.length * (WIDTH + GAP) - GAP), height: HEIGHT }}
      />
      {frames.map((f, k) =>
        props.over?.(f, { left: 3 + k * (WIDTH + GAP), top: 3 + LABEL, width: WIDTH, height: HEIGHT }),
      )}
      <div className="all">
        {frames.map((f) => (
          <Radio
            key={f.id}
            value={String(f.id)}
            className="one"
            aria-label={f.clip ? `${f.name}, clip` : f.name}
          >
            <span>
              {f.clip ? <b aria-hidden>▸ </b> : null}
              {f.name}
            </span>
            <i />
          </Radio>
        ))}
      </div>
    </Row>
  );
});
