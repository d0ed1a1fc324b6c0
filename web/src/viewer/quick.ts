/**
 * Pictures of a clip that plays where WebGL draws on the processor: drawn smaller, by a thread that samples the
 * same tables, so that the clip keeps its time. At rest the painter draws in full size.
 */
import type { Planes } from "../player/messages";
import type { Part, Sampled } from "./sampling";

/** A table by the slot that it is drawn for. */
export interface Slotted {
  slot: string;
  table: Sampled;
}

export interface Wanted {
  frame: Planes;
  matrix: readonly number[];
  width: number;
  height: number;
  /** Those that the thread does not have yet. */
  tables: Slotted[];
  parts: (Omit<Part, "table"> & { slot: string })[];
}

export interface Drawn {
  number: number;
  width: number;
  height: number;
  pixels: ArrayBuffer;
}

/** Pixels of the longer side that are drawn at most. */
export const LONGEST = 480;

/** Names of drivers that draw on the processor. */
const SOFTWARE = /swiftshader|llvmpipe|softpipe|software|basic render/i;

/** Whether a context of WebGL draws on the processor. */
export function drawsOnProcessor(gl: WebGL2RenderingContext): boolean {
  const info = gl.getExtension("WEBGL_debug_renderer_info");
  return SOFTWARE.test(String(gl.getParameter(info ? info.UNMASKED_RENDERER_WEBGL : gl.RENDERER)));
}

type Thread = Pick<Worker, "postMessage" | "terminate"> & {
  onmessage: ((event: MessageEvent<Drawn>) => unknown) | null;
};

const thread = (): Thread => new Worker(new URL("./sampling.worker.ts", import.meta.url), { type: "module" });

export class QuickPainter {
  private readonly worker: Thread;
  private readonly known = new Map<string, Uint16Array>();
  private next: (() => Wanted) | null = null;
  private busy = false;
  private shown = false;

  constructor(
    readonly canvas: HTMLCanvasElement,
    begin: () => Thread = thread,
  ) {
    this.worker = begin();
    this.worker.onmessage = ({ data }) => this.put(data);
  }

  /** Draws a frame as soon as the thread is free; one that waited for that falls away. */
  draw(asked: () => Wanted): void {
    this.next = asked;
    this.shown = true;
    this.send();
  }

  /** Tables that the thread must still be sent. */
  fresh(tables: Slotted[]): Slotted[] {
    return tables.filter(({ slot, table }) => {
      if (this.known.get(slot) === table.values) return false;
      this.known.set(slot, table.values);
      return true;
    });
  }

  hide(): void {
    this.shown = false;
    this.next = null;
    this.canvas.hidden = true;
    delete this.canvas.dataset.number;
  }

  close(): void {
    this.worker.terminate();
  }

  private send(): void {
    if (this.busy || !this.next) return;
    this.busy = true;
    this.worker.postMessage(this.next());
    this.next = null;
  }

  private put({ number, width, height, pixels }: Drawn): void {
    this.busy = false;
    if (this.shown) {
      const { canvas } = this;
      if (canvas.width !== width) canvas.width = width;
      if (canvas.height !== height) canvas.height = height;
      canvas
        .getContext("2d", { alpha: false })
        ?.putImageData(new ImageData(new Uint8ClampedArray(pixels), width, height), 0, 0);
      canvas.hidden = false;
      canvas.dataset.number = String(number);
    }
    this.send();
  }
}
