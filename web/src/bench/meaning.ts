/** What the look that is open does to a clip on purpose: kept with the look. */
import { useMemo } from "react";
import { got, server } from "../api/client";
import { useLook } from "../api/queries";
import type { Frame, TimePlace } from "../api/types";
import { useWrite } from "../api/writes";
import { useBench } from "./store";

export interface Meaning {
  /** Kinds of places that are meant. */
  meant: readonly TimePlace["kind"][];
  mean: (kind: TimePlace["kind"]) => void;
  /** Nothing is meant any more. */
  forget: () => void;
  error: unknown;
}

export function useMeaning(frame: Frame | null): Meaning {
  const id = useBench((s) => s.id);
  const { data } = useLook(id);
  const here = frame?.id;
  const all = data?.meant;
  const meant = useMemo(
    () => (all ?? []).filter((one) => one.frame === here).map((one) => one.kind),
    [all, here],
  );
  const write = useWrite(
    async (said: { kinds: readonly TimePlace["kind"][]; meant: boolean }) => {
      for (const kind of said.kinds)
        await got(
          server.PUT("/api/looks/{look_id}/meant", {
            params: { path: { look_id: id } },
            body: { frame: here!, kind, meant: said.meant },
          }),
        );
    },
    ["look"],
  );
  return {
    meant,
    mean: (kind) => write.mutate({ kinds: [kind], meant: true }),
    forget: () => write.mutate({ kinds: meant, meant: false }),
    error: write.error,
  };
}
