/** The picture: original, look, or both with a line between that can be moved; whole or enlarged. */
import { memo, useMemo, useRef, useState, type ReactNode } from "react";
import styled from "styled-components";
import type { EncodingKey, Frame, Place as Point } from "../api/types";
import { NO_TRIM } from "../kit/trim";
import type { Moving } from "../player/use";
import { useBox, WIDEST } from "./box";
import { useExact } from "./exact";
import type { Feed, Wish } from "./live";
import { Mask, type MaskName } from "./mask";
import { SplitLine, Spots, Tag } from "./overlays";
import { usePainting, type Mode, type Painted } from "./painting";
import { usePictures, useTrimmed, useUnlooked } from "./pictures";
import { usePointer, useWheel } from "./pointer";
import { StillPicture } from "./stillpicture";
import { laid, WHOLE, type Zoom } from "./zoom";

export type { Mode };

const Place = styled.div`
  flex: 1;
  min-height: 0;
  min-width: 0;
  position: relative;
  background: var(--surround);
  overflow: hidden;
`;
const Inside = styled.div`
  position: absolute;
  overflow: hidden;
  > canvas,
  > img {
    display: block;
    width: 100%;
    height: 100%;
  }
`;
/** Over the picture, while it is drawn smaller because the browser has no graphics card. */
const Over = styled.canvas`
  position: absolute;
  inset: 0;
  pointer-events: none;
  &[hidden] {
    visibility: hidden;
  }
`;
const Wait = styled.span`
  position: absolute;
  left: 0;
  right: 0;
  top: 46%;
  text-align: center;
  color: var(--t2);
`;

/** What the split shows on its first side instead of the original. */
export interface Other {
  feed: Feed;
  wish: Wish | null;
  input: EncodingKey;
  name: string;
}

interface Props {
  frame: Frame | null;
  input: EncodingKey;
  feed: Feed;
  mode: Mode;
  wish: Wish | null;
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
  /** The clip that plays in place of the frame; tables then take it as it comes in. */
  moving?: Moving | null;
  /** What lies over the picture, in its own box. */
  children?: ReactNode;
}

/** All that is painted, fetched and asked for in a width in pixels. */
function usePainted(props: Props, width: number, line: number): Painted {
  const { frame, feed, mode, wish, other = null, down = false, moving = null } = props;
  const trimmed = moving ? false : (props.trimmed ?? true);
  const input = moving && frame ? frame.encoding : props.input;
  const split = mode === "split";
  const pictures = usePictures(frame ? [frame] : [], input, width, trimmed);
  const others = usePictures(
    frame && other && split && !moving ? [frame] : [],
    other?.input ?? input,
    width,
    trimmed,
  );
  const unlookedTable = useUnlooked(input).data;
  const trimmedTable = useTrimmed(moving ? frame : null, moving?.trim ?? null).data;
  const original = moving ? trimmedTable : unlookedTable;
  const exact = useExact(mode === "original" ? null : wish, width);
  const otherExact = useExact(split ? (other?.wish ?? null) : null, width);
  const unlooked = useMemo<Wish | null>(
    () =>
      frame
        ? {
            look: { input, output: input, steps: [] },
            frame: frame.id,
            at: moving?.at,
            trim: moving ? moving.trim : trimmed ? undefined : NO_TRIM,
          }
        : null,
    [frame, input, trimmed, moving],
  );
  const originalExact = useExact(mode === "original" || (split && !other) ? unlooked : null, width);
  const [picture] = pictures;
  const [second] = others;
  const player = moving?.player ?? null;
  return useMemo(
    () => ({
      ...{ mode, feed, wish, picture, player, exact, originalExact, original, line, down },
      other: other ? { feed: other.feed, picture: second, exact: otherExact } : null,
    }),
    [
      mode,
      feed,
      wish,
      picture,
      player,
      exact,
      originalExact,
      original,
      line,
      down,
      other,
      second,
      otherExact,
    ],
  );
}

/** Pixels that the picture is asked for in: those of the screen, more of them the more it is enlarged. */
function wanted(frame: Frame | null, width: number, zoom: Zoom): number {
  const ratio = window.devicePixelRatio || 1;
  if (!frame) return 0;
  const most = Math.max(frame.width, Math.round(width * ratio));
  return Math.min(Math.round(width * ratio * zoom.scale), most, WIDEST);
}

export const Stage = memo(function Stage(props: Props) {
  const { frame, mode, wish, other, zoom = WHOLE, onZoom, onPoint, trimmed = true, name = "look" } = props;
  const place = useRef<HTMLDivElement>(null);
  const inside = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const small = useRef<HTMLCanvasElement>(null);
  const [line, setLine] = useState(0.5);
  const box = useBox(place, frame ? frame.width / frame.height : null);
  const painted = usePainted(props, wanted(frame, box.width, zoom), line);
  const able = usePainting(canvas, small, painted, box, zoom);
  const picking = props.picking ?? false;
  useWheel(inside, zoom, onZoom);
  const pointer = usePointer({ inside, box, zoom, taken: mode === "split", picking, onZoom, onPoint });
  const over = laid(zoom, box.width, box.height);
  const before = other ? other.name : trimmed ? "original, trimmed" : "original";
  const tag = props.tag ?? (mode === "original" ? before : "");
  const cursor = picking ? "crosshair" : zoom.scale > 1 ? "grab" : undefined;
  const laidOver = { left: over.x, top: over.y, width: over.width, height: over.height };
  return (
    <Place ref={place} style={props.surround ? { background: props.surround } : undefined}>
      <Inside ref={inside} className="picture" style={{ ...box, cursor }} {...pointer}>
        {able ? (
          <>
            <canvas
              ref={canvas}
              role="img"
              aria-label={frame ? `${frame.name}, ${props.tag ?? mode}` : "No frame"}
              data-picture={painted.picture?.key ?? ""}
            />
            <Over ref={small} aria-hidden hidden />
          </>
        ) : (
          <StillPicture wish={mode === "original" ? null : wish} frame={frame} width={box.width} />
        )}
        {props.mask && wish && mode !== "original" ? (
          <Mask
            wish={wish}
            width={Math.min(Math.round(box.width), 1280)}
            name={props.mask}
            style={laidOver}
          />
        ) : null}
        {mode === "split" ? (
          <SplitLine before={before} after={name} at={line} down={props.down ?? false} onMove={setLine} />
        ) : tag ? (
          <Tag>{tag}</Tag>
        ) : null}
        {props.spots ? <Spots spots={props.spots} over={over} box={box} /> : null}
        {props.children}
      </Inside>
      {frame && !painted.picture && able ? <Wait role="status">Fetching {frame.name} …</Wait> : null}
    </Place>
  );
});
