/**
 * The picture at rest: when the hand rests the server renders every pixel of it, and the viewer shows that.
 */
import { useEffect, useState } from "react";
import { BYTES, got, server } from "../api/client";
import { atRest } from "../api/rest";
import type { Wish } from "./live";
import { parsePicture, type Picture } from "./table";

const REST = 180;
/** A difference or a bake, which no live table can show, is asked for sooner. */
const SOON = 40;
let count = 0;

export interface Rest {
  picture: Picture;
  wish: Wish;
}

/**
 * The newest picture that was rendered for a wish like this one: for exactly this wish and width only where
 * `wish` is the same.
 */
export function useExact(wish: Wish | null, width: number): Rest | null {
  const [made, setMade] = useState<(Rest & { width: number }) | null>(null);
  useEffect(() => {
    if (!wish?.frame || !width) return;
    return atRest(wish.show && wish.show !== "look" ? SOON : REST, async (signal) => {
      const bytes = await got(
        server.POST("/api/exact", { params: { query: { width } }, body: wish, signal, ...BYTES }),
      );
      setMade({ wish, width, picture: parsePicture(`exact-${(count += 1)}`, bytes) });
    });
  }, [wish, width]);
  if (!made || !wish) return null;
  if (made.wish === wish && made.width === width) return made;
  // A difference has no live table: the last one stays until the next one is there.
  const { show = "look" } = wish;
  return show !== "look" &&
    made.wish.show === show &&
    made.wish.frame === wish.frame &&
    made.wish.at === wish.at
    ? made
    : null;
}
