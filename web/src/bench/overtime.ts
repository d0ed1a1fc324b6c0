/** What the draft does to the clip over its length: measured once the hand rests, roughly first. */
import { useEffect } from "react";
import { create } from "zustand";
import { got, server } from "../api/client";
import { atRest } from "../api/rest";
import type { Cause, Frame, Look, OverTime, TimePlace, Trim } from "../api/types";
import { onPlayer } from "./motion";

/** Milliseconds of rest after which it is measured. */
const REST = 350;

interface Measured {
  found: OverTime | null;
  /** Whether `found` is of the draft as it is now, and of all samples. */
  whole: boolean;
  /** How many places there are that are meant. */
  meant: number;
  /** Which of the places is looked at. */
  place: number;
  cause: Cause | null;
}

const NOTHING: Measured = { found: null, whole: false, meant: 0, place: 0, cause: null };

export const useOverTime = create<Measured>()(() => ({ ...NOTHING }));

/** Measures `look` over the clip of a frame; nothing for a still. meant: kinds of places that are left out. */
export function useMeasuring(
  frame: Frame | null,
  look: Look,
  trim: Trim | null,
  ready: boolean,
  meant: readonly string[],
): void {
  const id = frame?.id ?? null;
  const own = trim ?? frame?.trim ?? null;
  useEffect(() => {
    useOverTime.setState(NOTHING);
  }, [id]);
  useEffect(() => {
    if (id === null || !ready || !own) return;
    useOverTime.setState({ whole: false });
    return atRest(REST, async (signal) => {
      for (const coarse of [true, false]) {
        const body = { look, frame: id, trim: own, coarse };
        const all = await got(server.POST("/api/over-time", { body, signal }));
        if (signal.aborted) return;
        const found = { ...all, places: all.places.filter((p) => !meant.includes(p.kind)) };
        const { place } = useOverTime.getState();
        useOverTime.setState({
          found,
          whole: !coarse,
          meant: all.places.length - found.places.length,
          place: Math.min(place, Math.max(found.places.length - 1, 0)),
        });
      }
    });
  }, [id, look, own, ready, meant]);
}

/** Asks for the cause of a place while it is looked at. */
export function useCause(frame: number, look: Look, trim: Trim | null, place: TimePlace | undefined): void {
  useEffect(() => {
    useOverTime.setState({ cause: null });
    if (!place) return;
    return atRest(REST, async (signal) => {
      const body = { look, frame, trim, place };
      const cause = await got(server.POST("/api/over-time/cause", { body, signal }));
      if (!signal.aborted) useOverTime.setState({ cause });
    });
  }, [frame, look, trim, place]);
}

/** Goes to a place: the loop is set to it, and its first frame shown. */
export function goTo(place: number): void {
  const { found } = useOverTime.getState();
  const there = found?.places[place];
  if (!there) return;
  useOverTime.setState({ place });
  onPlayer((player) => {
    player.change({ from: there.first, to: there.last, loop: true });
    player.seek(there.at);
  });
}

export function nextPlace(): void {
  const { found, place } = useOverTime.getState();
  if (!found?.places.length) return;
  const at = (n: number) => (n + found.places.length) % found.places.length;
  // The first press goes to the one that is named.
  const here = found.places[place];
  let first = false;
  onPlayer((player) => {
    const { from, to } = player.state.getState();
    first = !here || from !== here.first || to !== here.last;
  });
  goTo(first ? place : at(place + 1));
}
