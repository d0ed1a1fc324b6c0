/** What can be read off the chosen frame under the look; asked for when the picture has been. */
import { useEffect, useRef, useState } from "react";
import { api } from "../api/client";
import type { Readings } from "../api/types";
import type { Wish } from "./live";

const PAUSE = 40;

export function useReadings(wish: Wish | null): Readings | null {
  const [read, setRead] = useState<Readings | null>(null);
  const next = useRef<Wish | null>(null);
  const busy = useRef(false);
  useEffect(() => {
    if (!wish?.frame) return;
    next.current = wish;
    if (busy.current) return;
    const run = async () => {
      busy.current = true;
      while (next.current) {
        await new Promise((done) => setTimeout(done, PAUSE));
        const now: Wish | null = next.current;
        next.current = null;
        // The last readings stay where these cannot be had; the live answer says what is wrong.
        if (now) setRead((await api.post<Readings>("/readings", now).catch(() => null)) ?? ((last) => last));
      }
      busy.current = false;
    };
    void run();
  }, [wish]);
  return read;
}
