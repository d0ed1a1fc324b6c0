/** The server's live answer: what the editors draw, and the table that the viewer samples. */
import { headed, sized } from "./framing";

export type Trace = Record<string, unknown>;

export interface Live {
  size: number;
  end: string;
  /** By step id: the encoding it works on, its trace, and a mark that changes with the trace. */
  traces: Record<string, { encoding: string; mark: string; trace: Trace }>;
  /** Half-float bits, red fastest. */
  table: Uint16Array;
}

/** Takes apart a length, JSON, and the half-float table. Traces that did not change keep their identity. */
export function parseLive(bytes: ArrayBuffer, last: Live | null = null): Live {
  const { head: told, at } = headed(bytes);
  const head = told as Partial<Live> & { size: number; end: string };
  const traces = head.traces ?? {};
  for (const [id, seen] of Object.entries(traces)) {
    const before = last?.traces[id];
    if (before?.mark === seen.mark && before.encoding === seen.encoding) traces[id] = before;
  }
  return { size: head.size, end: head.end, traces, table: new Uint16Array(bytes, at) };
}

export interface Picture {
  key: string;
  width: number;
  height: number;
  /** Half-float bits, RGB, rows from the top. */
  pixels: Uint16Array;
}

/** Takes apart width, height and half-float pixels. */
export function parsePicture(key: string, bytes: ArrayBuffer): Picture {
  const { width, height, at } = sized(bytes);
  return { key, width, height, pixels: new Uint16Array(bytes, at) };
}
