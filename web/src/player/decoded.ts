/**
 * The frames of a proxy as codes: those around the one that is shown are decoded ahead, in a bounded number of
 * bytes.
 */
import type { ProxyIndex } from "../api/types";
import type { Leave, Planes, Setting, Told, Wanted } from "./messages";
import { framesOf, groupOf } from "./timing";

/** Bytes of decoded frames that are held at once. */
export const HELD = 96 * 2 ** 20;
/** Frames that stay behind the one that is shown, for steps back. */
const BEHIND = 12;
/** Milliseconds until frames are asked for again that the connection lost. */
const AGAIN = 1500;

export interface Decoded {
  /** A frame, if it is there. */
  get: (number: number) => Planes | undefined;
  /** Says which frames are wanted, in the order in which they are. */
  want: (numbers: number[]) => void;
  /** How many frames can be there at once. */
  room: number;
  close: () => void;
}

export interface Listener {
  frame: (number: number) => void;
  /** These frames cannot be decoded: the first, and the one after the last. */
  broken: (frames: [number, number]) => void;
  /** The server has the clip no more: what is decoded by now is all there will be. */
  gone: () => void;
  unable: (why: string) => void;
}

/** The same thread, where a test has no threads. */
export type Thread = Pick<Worker, "postMessage" | "terminate"> & {
  onmessage: ((event: MessageEvent<Told>) => unknown) | null;
};

const thread = (): Thread => new Worker(new URL("./decoding.worker.ts", import.meta.url), { type: "module" });

export function createDecoded(
  index: ProxyIndex,
  url: string,
  tell: Listener,
  held = HELD,
  begin: () => Thread = thread,
): Decoded {
  const worker = begin();
  const frames = new Map<number, Planes>();
  const bad = new Set<number>();
  const room = Math.max(3 * BEHIND, Math.floor(held / (index.width * index.height * 3)));
  let under: number | null = null;
  let leaving = false;
  let wanted: number[] = [];
  let later = 0;
  let gone = false;

  const setting: Setting = { url, codec: index.codec, width: index.width, height: index.height };
  worker.postMessage(setting);

  function next(): void {
    const missing = wanted.find((n) => !frames.has(n) && !bad.has(groupOf(index, n)));
    if (missing === undefined || later || gone) return;
    if (under !== null) {
      // The frame that is shown next does not wait for others.
      const others = under !== groupOf(index, missing) && missing === wanted[0];
      if (others && !leaving) worker.postMessage({ leave: true } satisfies Leave);
      leaving ||= others;
      return;
    }
    under = groupOf(index, missing);
    const [first, end] = framesOf(index, under);
    const ask: Wanted = {
      first,
      offsets: index.offsets.slice(first, end),
      sizes: index.sizes.slice(first, end),
    };
    worker.postMessage(ask);
  }

  /** Lets go of what lies furthest from what is wanted. */
  function keepFew(): void {
    if (frames.size <= room) return;
    const rank = new Map(wanted.map((n, k) => [n, k]));
    const here = wanted[0] ?? 0;
    const far = (n: number) =>
      rank.get(n) ?? (n < here && n >= here - BEHIND ? here - n : frames.size + Math.abs(n - here));
    const sorted = [...frames.keys()].sort((a, b) => far(b) - far(a));
    for (const number of sorted.slice(0, frames.size - room)) frames.delete(number);
  }

  worker.onmessage = ({ data: told }) => {
    if (told.kind === "unable") tell.unable(told.why);
    else if (told.kind === "gone") {
      gone = true;
      tell.gone();
    } else if (told.kind === "frame") {
      frames.set(told.planes.number, told.planes);
      keepFew();
      tell.frame(told.planes.number);
    } else {
      const group = under;
      under = null;
      leaving = false;
      if (told.wrong && told.lost && !gone)
        later = window.setTimeout(() => {
          later = 0;
          next();
        }, AGAIN);
      else if (told.wrong && !told.lost && group !== null) {
        const [first, end] = framesOf(index, group);
        const lost = Array.from({ length: end - first }, (_, k) => first + k).filter((n) => !frames.has(n));
        bad.add(group);
        if (lost.length) tell.broken([lost[0]!, end]);
      }
      next();
    }
  };

  return {
    get: (number) => frames.get(number),
    want: (numbers) => {
      wanted = numbers.slice(0, room - BEHIND);
      next();
    },
    room,
    close: () => {
      clearTimeout(later);
      worker.terminate();
      frames.clear();
    },
  };
}
