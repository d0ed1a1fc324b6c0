/** What is asked of the server for the picture of the bench: by the draft, the frame, and how it is held. */
import { useEffect, useMemo } from "react";
import type { Frame, Look, LookRecord, Trim } from "../api/types";
import type { Player } from "../player/player";
import { ofMoving, useMoving, type Moving } from "../player/use";
import { useFeed, type Feed, type Wish } from "../viewer/live";
import { ask, useReadings, type ReadingsWish } from "../viewer/readings";
import type { Mode, Other } from "../viewer/stage";
import { useCalmDraft } from "./calm";
import { find } from "./steps";
import { useBench } from "./store";
import { useView, type Rival } from "./view";

/** What the main picture shows, and what it is asked by. */
export interface Seen {
  draft: Look;
  /** The draft, or what is shown in its place and not taken. */
  look: Look;
  /** Without anything that it is held against. */
  wish: Wish | null;
  main: Wish | null;
  feed: Feed;
  /** Whether the frame is being trimmed: the table then takes it as it comes in. */
  trimming: boolean;
  /** The clip that plays in place of the frame: the table takes it as it comes in, too. */
  moving: Moving | null;
  /** The same for a still beside it: the draft's own table, and what is asked by. */
  still: { feed: Feed; main: Wish | null };
  mode: Mode;
  /** The first look that it is held against. */
  against: Rival | null;
  /** That one on the first side of a split. */
  other: Other | null;
}

/** Asks for readings: of the picture, and of a reference beside it. */
function useBothReadings(id: number, wish: Wish | null, feed: Feed) {
  const { show, rivals, spots } = useView();
  // The editors of curves and levels show the tones that the step is given, so those are read too.
  const step = useBench((s) => {
    const chosen = [...s.chosen].at(-1) ?? null;
    const kind = find(s.draft, chosen)?.kind;
    return kind === "curves" || kind === "levels" ? chosen : null;
  });
  const read = useMemo<ReadingsWish | null>(
    () => wish && { look: wish.look, frame: wish.frame, trim: wish.trim, only: wish.only, spots, step },
    [wish, spots, step],
  );
  useReadings(read, "read", feed);
  // Asked for by the change itself, as the picture is; React redraws later.
  useEffect(
    () =>
      useBench.subscribe((now, last) => {
        if (now.draft !== last.draft && read && now.id === id) ask.read({ ...read, look: now.draft }, feed);
      }),
    [read, feed, id],
  );
  const reference = show !== "beside" ? undefined : rivals.find((r) => r.frame !== undefined)?.frame;
  const referred = useMemo<ReadingsWish | null>(
    () => (reference ? { look: null, frame: reference } : null),
    [reference],
  );
  useReadings(referred, "reference");
}

/** The look that a split shows on its first side, live from its own table. */
function useOther(
  against: Rival | null,
  frame: Frame | null,
  split: boolean,
  moving: Moving | null,
): Other | null {
  const wish = useMemo<Wish | null>(
    () =>
      split && against?.look && frame
        ? { look: against.look, frame: frame.id, traces: false, ...ofMoving(moving) }
        : null,
    [split, against, frame, moving],
  );
  const feed = useFeed(wish);
  return useMemo(
    () => (wish && against ? { feed, wish, input: wish.look.input, name: against.name } : null),
    [wish, feed, against],
  );
}

export function useSeen(props: {
  record: LookRecord;
  frame: Frame | null;
  loading: boolean;
  feed: Feed;
  held: boolean;
  trim: Trim | null;
  player: Player | null;
}): Seen {
  const { frame, loading, trim, player } = props;
  const draft = useCalmDraft();
  const { show, rivals, white, grid, interpolation, only, trimming, preview } = useView();
  const look = preview?.look ?? draft;
  const against = rivals.find((r) => r.look) ?? null;
  const wish = useMemo<Wish | null>(
    () => (loading ? null : { look, frame: frame?.id ?? null, traces: true, only }),
    [loading, look, frame?.id, only],
  );
  const moving = useMoving(frame, player, trimming ? trim : null);
  const trimWish = useMemo<Wish | null>(() => {
    if (!wish) return null;
    if (moving) return { ...wish, ...ofMoving(moving), traces: false };
    return trimming && trim ? { ...wish, trim, traces: false } : null;
  }, [trimming, trim, wish, moving]);
  const shown = trimWish ?? wish;
  useBothReadings(props.record.id, shown, props.feed);
  const [main, stillMain] = useMemo<(Wish | null)[]>(
    () =>
      [shown, wish].map((asked) => {
        if (!asked) return null;
        if (show === "difference")
          return { ...asked, show, against: against?.look ?? null, full: Number(white) };
        return show === "baked" ? { ...asked, show, grid: Number(grid), interpolation } : asked;
      }),
    [shown, wish, show, against, white, grid, interpolation],
  );
  // Over a clip the table shows a difference or a bake, too: pixels of each frame come at rest alone.
  const trimFeed = useFeed(trimWish && (moving ? (main ?? null) : trimWish));
  const other = useOther(against, frame, show === "split", moving);
  const mode: Mode = props.held || show === "original" ? "original" : show === "split" ? "split" : "look";
  const feed = trimWish ? trimFeed : props.feed;
  const still = useMemo(() => ({ feed: props.feed, main: stillMain ?? null }), [props.feed, stillMain]);
  return {
    ...{ draft, look, wish: shown, main: main ?? null, feed, trimming: !!trimWish && !moving },
    ...{ moving, still, mode, against, other },
  };
}
