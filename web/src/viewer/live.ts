/** Asks the server for the live table: the newest wish wins, and only one request is under way. */
import { useEffect, useState } from "react";
import { createStore, useStore, type StoreApi } from "zustand";
import { AGAIN, api, Problem } from "../api/client";
import type { Look, Trim } from "../api/types";
import { parseLive, type Live } from "./table";

export interface Wish {
  look: Look;
  strength?: number;
  trim?: Trim;
  frame?: number | null;
  traces?: boolean;
  /** One step alone. */
  only?: string | null;
}

interface Answer {
  live: Live | null;
  /** Why the newest wish could not be computed; the last good table stays. */
  trouble: Problem | null;
}

/** What the viewer draws from. Pictures follow it outside React, so that they change before anything else is drawn anew. */
export interface Feed {
  answer: StoreApi<Answer>;
  ask: (wish: Wish) => void;
  /** Until nothing is asked for, or for so many milliseconds. */
  quiet: (atMost: number) => Promise<void>;
  /** Whether this is the look, trim and part that were asked for last, whatever the frame. */
  current: (wish: Wish) => boolean;
}

const alike = (a: Wish, b: Wish) => a.look === b.look && a.strength === b.strength && a.trim === b.trim && a.only === b.only;
const same = (a: Wish | null, b: Wish) => a !== null && alike(a, b) && a.frame === b.frame && a.traces === b.traces;

export function createFeed(): Feed {
  const answer = createStore<Answer>(() => ({ live: null, trouble: null }));
  let asked: Wish | null = null;
  let next: Wish | null = null;
  let busy = false;
  const waiting: (() => void)[] = [];
  const run = async () => {
    busy = true;
    while (next) {
      const now: Wish = next;
      next = null;
      try {
        const live = parseLive(await api.bytes("/live", now), answer.getState().live);
        answer.setState({ live, trouble: null });
      } catch (error) {
        const trouble = error instanceof Problem ? error : new Problem(0, String(error));
        answer.setState({ trouble });
        if (trouble.passing) {
          // The same wish again, unless a newer one comes.
          await new Promise((done) => setTimeout(done, AGAIN));
          next ??= now;
        }
      }
    }
    busy = false;
    waiting.splice(0).forEach((go) => go());
  };
  return {
    answer,
    quiet: (atMost) => (busy ? Promise.race([new Promise<void>((go) => waiting.push(go)), new Promise<void>((go) => setTimeout(go, atMost))]) : Promise.resolve()),
    current: (wish) => asked !== null && alike(asked, wish),
    ask: (wish) => {
      if (same(asked, wish)) return;
      asked = wish;
      next = wish;
      if (!busy) void run();
    },
  };
}

/** A feed that follows `wish`; `wish` must keep its identity while nothing changed. */
export function useFeed(wish: Wish | null): Feed {
  const [feed] = useState(createFeed);
  useEffect(() => {
    if (wish) feed.ask(wish);
  }, [feed, wish]);
  return feed;
}

export const useTrouble = (feed: Feed) => useStore(feed.answer, (a) => a.trouble);
