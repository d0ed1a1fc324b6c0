/** What can be read off the chosen frame under the look; asked for when the picture has been. */
import { useEffect } from "react";
import { create } from "zustand";
import { BYTES, got, server } from "../api/client";
import { newest } from "../api/newest";
import type { Look, Place, Readings } from "../api/types";
import { headed } from "./framing";
import type { Feed, Wish } from "./live";

/** Readings wait for the picture, but not longer than this. */
const LONGEST = 60;
const LEVELS = 256;

/** A wish with pinned spots; without a look the frame is read as it is. */
export type ReadingsWish = Omit<Wish, "look" | "traces"> & {
  look: Look | null;
  spots?: Place[];
  step?: string | null;
};

const same = (a: number[] | undefined, b: number[] | undefined) =>
  !!a && !!b && a.length === b.length && a.every((v, k) => v === b[k]);

/** Takes apart JSON and the counts of the parade, the waveform and the vectorscope. */
export function parseReadings(bytes: ArrayBuffer): Readings {
  const { head: told, at } = headed(bytes);
  const head = told as Omit<Readings, "waves" | "vectors">;
  const waves = 4 * head.columns * LEVELS;
  return {
    ...head,
    waves: new Uint8Array(bytes, at, waves),
    vectors: new Uint8Array(bytes, at + waves, head.scope * head.scope),
  };
}

/**
 * What was read last, of the draft and of a reference picture. Outside React: only what draws it follows it.
 */
export const useRead = create<{ read: Readings | null; reference: Readings | null }>()(() => ({
  read: null,
  reference: null,
}));

const alike = (a: ReadingsWish | null, b: ReadingsWish) =>
  a !== null &&
  a.look === b.look &&
  a.frame === b.frame &&
  a.at === b.at &&
  a.trim === b.trim &&
  a.only === b.only &&
  a.strength === b.strength &&
  a.spots === b.spots &&
  a.step === b.step;

/**
 * Reads what is wished, the newest wish first, into one of the two names. After the picture: that comes
 * first.
 */
function createReader(into: "read" | "reference") {
  let asked: ReadingsWish | null = null;
  let feed: Feed | undefined;
  const reader = newest<ReadingsWish>(
    async (wish) => {
      const read = parseReadings(await got(server.POST("/api/readings", { body: wish, ...BYTES })));
      const last = useRead.getState()[into];
      // Parts that did not change keep their identity, so that React does not redraw them.
      if (last?.given && read.given?.every((row, k) => same(row, last.given?.[k]))) read.given = last.given;
      if (asked) useRead.setState({ [into]: read });
    },
    // On failure the last readings stay; the live answer says what is wrong.
    { before: async () => feed?.quiet(LONGEST) },
  );
  return (wish: ReadingsWish | null, after?: Feed) => {
    feed = after;
    if (!wish?.frame) {
      asked = null;
      reader.drop();
      if (useRead.getState()[into]) useRead.setState({ [into]: null });
      return;
    }
    if (alike(asked, wish)) return;
    asked = wish;
    reader.ask(wish);
  };
}

export const ask = { read: createReader("read"), reference: createReader("reference") };

/** Readings that follow a wish; `wish` must keep its identity while nothing changed. */
export function useReadings(wish: ReadingsWish | null, into: "read" | "reference", feed?: Feed): void {
  useEffect(() => ask[into](wish, feed), [wish, into, feed]);
  useEffect(() => () => ask[into](null), [into]);
}
