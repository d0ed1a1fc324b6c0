/** The saucer of the draft, redrawn by the core when the hand rests. */
import { useEffect, useState } from "react";
import { api } from "../api/client";
import type { Look } from "../api/types";
import { Saucer } from "../kit/saucer";

const REST = 350;

export function Portrait({ draft, name }: { draft: Look; name: string }) {
  const [src, setSrc] = useState<string | null>(null);
  useEffect(() => {
    const stop = new AbortController();
    const wait = setTimeout(async () => {
      try {
        const next = URL.createObjectURL(await api.blob("/saucer", draft, stop.signal));
        setSrc((last) => {
          if (last) URL.revokeObjectURL(last);
          return next;
        });
      } catch {
        // A draft that cannot be computed keeps its last portrait; the bench says what is wrong.
      }
    }, REST);
    return () => {
      clearTimeout(wait);
      stop.abort();
    };
  }, [draft]);
  return <Saucer src={src} size={32} of={name} />;
}
