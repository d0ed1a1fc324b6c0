/** Asks the server for the live table: the newest wish wins, and only one request is under way. */
import { useEffect, useState } from "react";
import { createStore, useStore, type StoreApi } from "zustand";
import { BYTES, got, type Problem, server } from "../api/client";
import { newest } from "../api/newest";
import type { Look, Trim } from "../api/types";
import { parseLive, type Live } from "./table";

/** What is to be shown of a look: the look, the look as it would be baked, or how far it is from another one (null:
 * from no look). */
export interface Wish {
  look: Look;
  strength?: number;
  trim?: Trim;
  frame?: number | null;
  /** Which frame of the clip that the frame stands for. */
  at?: number | null;
  traces?: boolean;
  /** One step alone. */
  only?: string | null;
  show?: "look" | "baked" | "difference";
  against?: Look | null;
  /** ΔE that a difference shows as white. */
  full?: number;
  grid?: number;
  interpolation?: "tetrahedral" | "trilinear";
}

interface Answer {
  live: Live | null;
  /** Why the newest wish could not be computed; the last good table stays. */
  trouble: Problem | null;
}

/**
 * What the viewer draws from. Pictures follow it outside React, so that they change before anything else is
 * drawn anew.
 */
export interface Feed {
  answer: StoreApi<Answer>;
  ask: (wish: Wish) => void;
  /** Until nothing is asked for, or for so many milliseconds. */
  quiet: (atMost: number) => Promise<void>;
  /** Whether this is the look, trim and part that were asked for last, whatever the frame. */
  current: (wish: Wish) => boolean;
}

const alike = (a: Wish, b: Wish) =>
  (["look", "strength", "trim", "only", "show", "against", "full", "grid", "interpolation"] as const).every(
    (key) => a[key] === b[key],
  );
/** `at` says which pixels are rendered; the table is the same for all frames of a clip. */
const same = (a: Wish | null, b: Wish) =>
  a !== null && alike(a, b) && a.frame === b.frame && a.traces === b.traces;

export function createFeed(): Feed {
  const answer = createStore<Answer>(() => ({ live: null, trouble: null }));
  let asked: Wish | null = null;
  const wishes = newest<Wish>(
    async (wish) =>
      answer.setState({
        live: parseLive(
          await got(server.POST("/api/live", { body: wish, ...BYTES })),
          answer.getState().live,
        ),
        trouble: null,
      }),
    { failed: (trouble) => answer.setState({ trouble }) },
  );
  return {
    answer,
    quiet: wishes.quiet,
    current: (wish) => asked !== null && alike(asked, wish),
    ask: (wish) => {
      if (same(asked, wish)) return;
      asked = wish;
      wishes.ask(wish);
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
