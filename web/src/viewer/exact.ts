/** The picture at rest: when the hand rests the server renders every pixel of it, and the viewer shows that. */
import { useEffect, useState } from "react";
import { api } from "../api/client";
import type { Wish } from "./live";
import { parsePicture, type Picture } from "./table";

const REST = 180;
let count = 0;

export interface Rest {
  picture: Picture;
  wish: Wish;
}

/** The rendered picture of exactly this wish at this width, or nothing while it is on its way. */
export function useExact(wish: Wish | null, width: number): Rest | null {
  const [made, setMade] = useState<(Rest & { width: number }) | null>(null);
  useEffect(() => {
    if (!wish?.frame || !width) return;
    const stop = new AbortController();
    const wait = setTimeout(async () => {
      try {
        const bytes = await api.bytes(`/exact?width=${width}`, wish, stop.signal);
        setMade({ wish, width, picture: parsePicture(`exact-${(count += 1)}`, bytes) });
      } catch {
        // The live table stays on screen; what is wrong with the look is said by the live answer.
      }
    }, REST);
    return () => {
      clearTimeout(wait);
      stop.abort();
    };
  }, [wish, width]);
  return made && made.wish === wish && made.width === width ? made : null;
}
