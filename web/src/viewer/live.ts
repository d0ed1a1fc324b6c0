/** Asks the server for the live table: the newest wish wins, and only one request is under way. */
import { useEffect, useRef, useState } from "react";
import { api, Problem } from "../api/client";
import { parseLive, type Live } from "./table";

export interface Wish {
  look: unknown;
  strength?: number;
  trim?: unknown;
  frame?: number | null;
  traces?: boolean;
}

interface Answer {
  live: Live | null;
  /** Why the newest wish could not be computed; the last good table stays. */
  trouble: Problem | null;
}

/** `wish` must keep its identity while nothing changed. */
export function useLive(wish: Wish | null): Answer {
  const [answer, setAnswer] = useState<Answer>({ live: null, trouble: null });
  const next = useRef<Wish | null>(null);
  const busy = useRef(false);
  const there = useRef(true);

  useEffect(() => {
    there.current = true;
    return () => {
      there.current = false;
    };
  }, []);

  useEffect(() => {
    if (!wish) return;
    next.current = wish;
    if (busy.current) return;
    const run = async () => {
      busy.current = true;
      while (next.current && there.current) {
        const now = next.current;
        next.current = null;
        try {
          const live = parseLive(await api.bytes("/live", now));
          if (there.current) setAnswer({ live, trouble: null });
        } catch (error) {
          const trouble = error instanceof Problem ? error : new Problem(0, String(error));
          if (there.current) setAnswer((last) => ({ live: last.live, trouble }));
          if (trouble.status === 0) {
            // The server is away: the same wish again, unless a newer one comes.
            await new Promise((done) => setTimeout(done, 2000));
            next.current ??= now;
          }
        }
      }
      busy.current = false;
    };
    void run();
  }, [wish]);

  return answer;
}
