/** What can be read off the chosen frame under the look; asked for when the picture has been. */
import { useEffect, useRef, useState } from "react";
import { api } from "../api/client";
import type { Look, Place, Readings } from "../api/types";
import type { Wish } from "./live";

const PAUSE = 25;
const LEVELS = 256;

/** A wish with pinned spots; without a look the frame is read as it is. */
export type ReadingsWish = Omit<Wish, "look" | "traces"> & { look: Look | null; spots?: Place[] };

function parse(bytes: ArrayBuffer): Readings {
  const length = new DataView(bytes).getUint32(0, true);
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(bytes, 4, length))) as Omit<Readings, "waves" | "vectors">;
  const waves = 4 * head.columns * LEVELS;
  return {
    ...head,
    waves: new Uint8Array(bytes, 4 + length, waves),
    vectors: new Uint8Array(bytes, 4 + length + waves, head.scope * head.scope),
  };
}

export function useReadings(wish: ReadingsWish | null): Readings | null {
  const [read, setRead] = useState<Readings | null>(null);
  const next = useRef<ReadingsWish | null>(null);
  const busy = useRef(false);
  useEffect(() => {
    if (!wish?.frame) return;
    next.current = wish;
    if (busy.current) return;
    const run = async () => {
      busy.current = true;
      while (next.current) {
        await new Promise((done) => setTimeout(done, PAUSE));
        const now: ReadingsWish | null = next.current;
        next.current = null;
        // The last readings stay where these cannot be had; the live answer says what is wrong.
        if (now) setRead((await api.bytes("/readings", now).then(parse).catch(() => null)) ?? ((last) => last));
      }
      busy.current = false;
    };
    void run();
  }, [wish]);
  return wish ? read : null;
}
