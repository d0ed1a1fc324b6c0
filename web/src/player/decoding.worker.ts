/** Decodes the frames of a proxy in a thread of its own: they go to the page as planes of codes. */
import type { Leave, Planes, Setting, Told, Wanted } from "./messages";

/** Bits of a code by how the browser says that planes lie. */
const DEPTHS: Record<string, number> = { I420: 8, I420P10: 10 };

/** What the server answers where it has no such clip, or none for this person. */
const GONE = [403, 404, 410];

const tell = (told: Told, moved: Transferable[] = []) => self.postMessage(told, { transfer: moved });
const why = (error: unknown) => (error instanceof Error ? error.message : String(error));

let setting: Setting | null = null;
let decoder: VideoDecoder | null = null;
let wrong = "";
/** Whether other frames are wanted than those that are being decoded. */
let left = false;
let fetching: AbortController | null = null;
/** Frames that were given out and are being copied. */
let copying: Promise<void>[] = [];

async function give(frame: VideoFrame): Promise<void> {
  try {
    if (left) return;
    const depth = DEPTHS[frame.format ?? ""];
    if (!depth) {
      tell({ kind: "unable", why: `it decodes to ${frame.format ?? "nothing that can be read"}` });
      return;
    }
    const data = new ArrayBuffer(frame.allocationSize());
    await frame.copyTo(data);
    const { width, height } = frame.visibleRect ?? setting!;
    const planes: Planes = { number: frame.timestamp, width, height, depth, data };
    tell({ kind: "frame", planes }, [data]);
  } catch (error) {
    wrong ||= why(error);
  } finally {
    frame.close();
  }
}

function ready(): VideoDecoder {
  if (decoder?.state === "configured") return decoder;
  const made = new VideoDecoder({
    output: (frame) => void copying.push(give(frame)),
    error: (error) => (wrong ||= why(error)),
  });
  const { codec, width, height } = setting!;
  made.configure({
    codec,
    codedWidth: width,
    codedHeight: height,
    // Frames of hardware cannot all be read as codes of 10 bits.
    hardwareAcceleration: "prefer-software",
  });
  return (decoder = made);
}

/** All bytes from the first frame to the last; sound may lie between them. */
async function fetched({ offsets, sizes }: Wanted): Promise<ArrayBuffer> {
  const first = offsets[0]!;
  const end = offsets.at(-1)! + sizes.at(-1)!;
  fetching = new AbortController();
  const { signal } = fetching;
  const answer = await fetch(setting!.url, { headers: { Range: `bytes=${first}-${end - 1}` }, signal });
  if (GONE.includes(answer.status)) tell({ kind: "gone" });
  if (!answer.ok) throw new Error(`the server answered ${answer.status}`);
  const bytes = await answer.arrayBuffer();
  return answer.status === 206 ? bytes : bytes.slice(first, end);
}

async function decode(wanted: Wanted): Promise<void> {
  wrong = "";
  left = false;
  copying = [];
  const { first } = wanted;
  let bytes: ArrayBuffer;
  try {
    bytes = await fetched(wanted);
  } catch (error) {
    tell({ kind: "done", first, wrong: left ? "" : why(error), lost: !left, left });
    return;
  }
  try {
    const to = ready();
    wanted.sizes.forEach((size, k) => {
      const data = new Uint8Array(bytes, wanted.offsets[k]! - wanted.offsets[0]!, size);
      to.decode(new EncodedVideoChunk({ type: k ? "delta" : "key", timestamp: first + k, data }));
    });
    await to.flush();
  } catch (error) {
    wrong ||= why(error);
  }
  await Promise.all(copying);
  tell({ kind: "done", first, wrong: left ? "" : wrong, lost: false, left });
}

function leave(): void {
  left = true;
  fetching?.abort();
  // What waits in it falls away; it is set up again for what comes next.
  if (decoder?.state === "configured") decoder.reset();
}

self.onmessage = ({ data }: MessageEvent<Setting | Wanted | Leave>) => {
  if ("leave" in data) leave();
  else if ("url" in data) {
    setting = data;
    void VideoDecoder.isConfigSupported({ codec: data.codec }).then(
      ({ supported }) => supported || tell({ kind: "unable", why: "it has no decoder for this clip" }),
      (error) => tell({ kind: "unable", why: why(error) }),
    );
  } else void decode(data);
};
