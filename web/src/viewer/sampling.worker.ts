/** Draws frames of clips on the processor, in a thread of its own. */
import { sample, type Sampled } from "./sampling";
import type { Drawn, Wanted } from "./quick";

const tables = new Map<string, Sampled>();

self.onmessage = ({ data: asked }: MessageEvent<Wanted>) => {
  for (const { slot, table } of asked.tables) tables.set(slot, table);
  const { width, height, frame } = asked;
  const pixels = new Uint32Array(width * height);
  for (const { slot, ...part } of asked.parts) {
    const table = tables.get(slot);
    if (table) sample(pixels, width, frame, asked.matrix, { ...part, table });
  }
  const drawn: Drawn = { number: frame.number, width, height, pixels: pixels.buffer };
  self.postMessage(drawn, { transfer: [pixels.buffer] });
};
