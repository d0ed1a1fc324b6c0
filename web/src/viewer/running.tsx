/** Clips in the row of frames that play small while the one that is shown plays. */
import { useEffect, useMemo, useRef } from "react";
import styled from "styled-components";
import type { Frame, Look } from "../api/types";
import type { Planes } from "../player/messages";
import type { Player } from "../player/player";
import { usePlayer, usePlaying } from "../player/use";
import { useFeed, type Wish } from "./live";
import { sample } from "./sampling";

/** Clips that run at once: each is decoded by itself. */
export const RUNNING = 3;
/** Bytes of decoded frames that each of them holds. */
const HELD = 48 * 2 ** 20;

const Small = styled.canvas`
  position: absolute;
  border-radius: 3px;
  pointer-events: none;
`;

/** Draws a frame into a canvas, whole and as large as it fits. */
function draw(
  canvas: HTMLCanvasElement,
  frame: Planes,
  matrix: readonly number[],
  table: { size: number; values: Uint16Array },
): void {
  const scale = Math.min(canvas.width / frame.width, canvas.height / frame.height);
  const [width, height] = [Math.round(frame.width * scale), Math.round(frame.height * scale)];
  const pixels = new Uint32Array(width * height);
  const all = { columns: [0, width], rows: [0, height] } as const;
  sample(pixels, width, frame, matrix, { table, place: [0, 0, width, height], ...all });
  const picture = new ImageData(new Uint8ClampedArray(pixels.buffer), width, height);
  const context = canvas.getContext("2d", { alpha: false });
  context?.putImageData(
    picture,
    Math.round((canvas.width - width) / 2),
    Math.round((canvas.height - height) / 2),
  );
}

/** The clip under the look, with its own trim; it plays and stands with `leading`. */
export function Running(props: {
  frame: Frame;
  look: Look;
  leading: Player;
  place: { left: number; top: number; width: number; height: number };
}) {
  const { frame, look, leading, place } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const { player } = usePlayer(frame, HELD);
  const wish = useMemo<Wish>(
    () => ({ look, frame: frame.id, trim: frame.trim, traces: false }),
    [look, frame],
  );
  const feed = useFeed(wish);
  const playing = usePlaying(leading, (s) => s.playing) ?? false;
  useEffect(() => {
    if (player && player.state.getState().playing !== playing) player.toggle();
  }, [player, playing]);
  useEffect(() => {
    if (!player) return;
    const paint = () => {
      const shown = player.shown();
      const { live } = feed.answer.getState();
      if (!canvas.current || !live || !shown || !("planes" in shown)) return;
      draw(canvas.current, shown.planes, player.index.rows, { size: live.size, values: live.table });
      canvas.current.dataset.number = String(shown.number);
    };
    const stops = [player.painted(paint), feed.answer.subscribe(paint)];
    return () => stops.forEach((stop) => stop());
  }, [player, feed]);
  const ratio = window.devicePixelRatio || 1;
  return (
    <Small
      ref={canvas}
      aria-hidden
      data-running={frame.name}
      width={Math.round(place.width * ratio)}
      height={Math.round(place.height * ratio)}
      style={place}
    />
  );
}
