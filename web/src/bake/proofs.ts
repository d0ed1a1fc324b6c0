/** How far tables are from the look, by grid and method. */
import { useQueries } from "@tanstack/react-query";
import { got, server } from "../api/client";
import type { Frame, Proof } from "../api/types";

import { key } from "./grids";

import { GRIDS, type Method } from "./order";

/** Largest grid whose fitted table is measured unasked: the next takes several seconds. */
const UNASKED = 33;

interface Asked {
  id: number;
  revision: number | null;
  mark: string;
  frames: Frame[];
}

/** How far tables are from the look, each for itself. */
function useTables(
  { id, revision, mark, frames }: Asked,
  method: Method,
  grids: readonly number[],
): [Proof[], unknown] {
  const found = useQueries({
    queries: grids.map((grid) => ({
      queryKey: ["proof", id, mark, grid, method, frames.map((f) => f.version)],
      queryFn: () =>
        got(
          server.POST("/api/looks/{look_id}/proof", {
            params: { path: { look_id: id } },
            body: { revision, frames: frames.map((f) => f.id), grid, method },
          }),
        ),
      staleTime: Infinity,
    })),
  });
  return [found.flatMap((q) => (q.data ? [q.data] : [])), found.find((q) => q.error)?.error];
}

/**
 * All tables by grid and method, as each comes in; and what went wrong. The quick ones first: fitting keeps a
 * server busy for seconds.
 */
export function useProofs(asked: Asked, grid: number): [Map<string, Proof>, unknown] {
  const [sampled, trouble] = useTables(asked, "sampled", GRIDS);
  const quick = sampled.length === GRIDS.length;
  const [fitted, other] = useTables(
    asked,
    "fitted",
    quick ? GRIDS.filter((g) => g <= UNASKED || g === grid) : [],
  );
  return [new Map([...sampled, ...fitted].map((p) => [key(p.grid, p.method), p])), trouble ?? other];
}
