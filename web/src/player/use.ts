/** A clip's player for as long as a screen shows the clip. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { client } from "../api/queries";
import type { Clip, Frame, Trim } from "../api/types";
import { usePlayKeys } from "./keys";
import { Player, type Playing } from "./player";
import { askedOfClip, fileOf } from "./queries";

/** Milliseconds without another frame after which a picture is at rest. */
const REST = 120;

/** What a picture shows in place of a still: the player, the trim, and the frame at which it rests. */
export interface Moving {
  player: Player;
  trim: Trim;
  at: number;
}

/**
 * The player of the clip that a frame stands for; null for a still, and until the clip plays. held: bytes of decoded
 * frames that it holds.
 */
export function usePlayer(
  frame: Frame | null,
  held?: number,
): { player: Player | null; clip: Clip | undefined } {
  const id = frame?.clip ?? null;
  const clip = useQuery({ ...askedOfClip.one(id ?? 0), enabled: id !== null }).data;
  const plays = id !== null && clip?.id === id && clip.plays;
  const index = useQuery({ ...askedOfClip.index(id ?? 0), enabled: plays }).data;
  const first = frame?.number ?? 0;
  const [player, setPlayer] = useState<Player | null>(null);
  useEffect(() => {
    if (id === null || !index || !plays) return;
    const made = new Player(index, fileOf(id), first, held);
    setPlayer(made);
    return () => {
      made.close();
      setPlayer(null);
    };
  }, [id, index, plays, first, held]);
  return { player, clip: id === null ? undefined : clip };
}

/** Clips whose facts are asked for before they are shown. */
const AHEAD = 12;

/** Asks for what is known of the clips among frames, so that the first picture of one waits for nothing else. */
export function useClipsAhead(frames: readonly Frame[]): void {
  useEffect(() => {
    const ids = new Set(frames.flatMap((f) => (f.clip === null ? [] : [f.clip])));
    for (const id of [...ids].slice(0, AHEAD))
      void client
        .ensureQueryData(askedOfClip.one(id))
        .then((clip) => (clip.plays ? client.prefetchQuery(askedOfClip.index(id)) : undefined))
        // Whoever shows the clip asks again, and says what is wrong.
        .catch(() => undefined);
  }, [frames]);
}

const NOTHING = createStore<Playing | null>(() => null);

/** What the player does now; null where there is none. */
export const usePlaying = <T>(player: Player | null, pick: (playing: Playing) => T): T | null =>
  useStore(player ? player.state : (NOTHING as never), (s: Playing | null) => (s ? pick(s) : null));

/** The frame at which the player rests; while it plays, the one at which it rested last. */
function useRest(player: Player | null): number | null {
  const [rest, setRest] = useState<{ player: Player; number: number } | null>(null);
  useEffect(() => {
    if (!player) return;
    let timer = 0;
    const look = () => {
      clearTimeout(timer);
      const { playing, number, wanted } = player.state.getState();
      if (!playing && number === wanted) timer = window.setTimeout(() => setRest({ player, number }), REST);
    };
    setRest({ player, number: player.state.getState().number });
    const stop = player.state.subscribe(look);
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, [player]);
  return rest && rest.player === player ? rest.number : null;
}

/** A frame as a moving picture; null for a still. trim: in place of the frame's own. */
export function useMoving(frame: Frame | null, player: Player | null, trim: Trim | null): Moving | null {
  const at = useRest(player);
  const own = trim ?? frame?.trim;
  return useMemo(
    () => (player && own && at !== null && frame?.clip ? { player, trim: own, at } : null),
    [player, own, at, frame?.clip],
  );
}

/** What is asked for more where a clip plays: which of its frames, and the trim, so that it is taken as it is. */
export const ofMoving = (moving: Moving | null): { at?: number; trim?: Trim } =>
  moving ? { at: moving.at, trim: moving.trim } : {};

/** A frame as a clip that plays, with its keys, for a page of its own. range: the frames that are played, of a
 * shot; all of them without one. */
export function useClip(
  frame: Frame | null,
  trim: Trim | null = null,
  range: { first: number; last: number } | null = null,
): { player: Player | null; moving: Moving | null } {
  const { player } = usePlayer(frame);
  const moving = useMoving(frame, player, trim);
  usePlayKeys(player);
  const first = range?.first;
  const last = range?.last;
  useEffect(() => {
    if (player && first !== undefined && last !== undefined) player.change({ from: first, to: last });
  }, [player, first, last]);
  return { player, moving };
}
