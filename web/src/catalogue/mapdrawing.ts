/** Draws the marks of the map, and the line around some of them. */
import { ink } from "../kit/ink";
import { drawnAt, type Mark, type Room, type Sight } from "./atlas";

/** Pixels of radius from which on a mark is a disc. */
const DISCS = 4;

/** A mark in its two tones: the one of blue below, the one of clay above. */
function twoTones(pen: CanvasRenderingContext2D, mark: Mark, x: number, y: number, radius: number) {
  const half = (tone: string, below: boolean) => {
    pen.fillStyle = tone;
    if (radius < DISCS) {
      pen.fillRect(x - radius, below ? y : y - radius, 2 * radius, radius);
      return;
    }
    pen.beginPath();
    pen.arc(x, y, radius, below ? 0 : Math.PI, below ? Math.PI : 2 * Math.PI);
    pen.fill();
  };
  half(mark.blue, true);
  half(mark.clay, false);
}

/**
 * Draws all marks: squares of two tones where thousands are in sight, discs where fewer are, grey dots for
 * what does not fit.
 */
export function paint(
  canvas: HTMLCanvasElement,
  marks: readonly Mark[],
  sight: Sight,
  room: Room,
  bare: ReadonlySet<number>,
  ringed: ReadonlySet<number>,
) {
  const ratio = window.devicePixelRatio || 1;
  const [wide, high] = [Math.round(room.width * ratio), Math.round(room.height * ratio)];
  if (canvas.width !== wide || canvas.height !== high) [canvas.width, canvas.height] = [wide, high];
  const pen = canvas.getContext("2d");
  if (!pen) return;
  pen.setTransform(ratio, 0, 0, ratio, 0, 0);
  pen.clearRect(0, 0, room.width, room.height);
  const radius = Math.min(
    11,
    Math.max(1.6, (9 * Math.sqrt(sight.zoom) * Math.sqrt(160)) / Math.sqrt(Math.max(160, marks.length))),
  );
  for (const fits of [false, true]) {
    for (const mark of marks) {
      if (mark.found !== fits || bare.has(mark.id)) continue;
      const [x, y] = drawnAt(mark, sight, room);
      if (x < -radius || y < -radius || x > room.width + radius || y > room.height + radius) continue;
      if (!fits) {
        pen.fillStyle = ink("--dot");
        pen.fillRect(x - 1, y - 1, 2, 2);
      } else twoTones(pen, mark, x, y, radius);
    }
  }
  pen.strokeStyle = ink("--t1");
  pen.lineWidth = 1.5;
  for (const mark of marks) {
    if (!ringed.has(mark.id)) continue;
    const [x, y] = drawnAt(mark, sight, room);
    pen.beginPath();
    pen.arc(x, y, radius + 4, 0, 2 * Math.PI);
    pen.stroke();
  }
  canvas.dataset.drawn = String(performance.now());
}

export function outline(
  canvas: HTMLCanvasElement,
  line: readonly { x: number; y: number }[],
  sight: Sight,
  room: Room,
) {
  const pen = canvas.getContext("2d");
  if (!pen || line.length < 2) return;
  pen.beginPath();
  line.forEach((at, k) => {
    const [x, y] = drawnAt(at, sight, room);
    if (k) pen.lineTo(x, y);
    else pen.moveTo(x, y);
  });
  pen.closePath();
  pen.fillStyle = ink("--drawn");
  pen.fill();
  pen.strokeStyle = ink("--accent");
  pen.lineWidth = 1.5;
  pen.stroke();
}
