/** What is done with a pack: said of it and of its looks, read, kept, stopped, let go of. */
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { got, server } from "../api/client";
import { client } from "../api/queries";
import type { Pack } from "../api/types";
import { useWrite } from "../api/writes";
import type { PackSaid } from "./about";
import type { Say } from "./columns";

/** Milliseconds that typing rests before what was said is sent. */
const REST = 500;

/**
 * Said of the whole pack: shown at once, sent when typing rests. `sent` waits until the server knows all of
 * it.
 */
function useSaid(pack: Pack) {
  const [said, setSaid] = useState<PackSaid>({});
  const held = useRef<PackSaid>({});
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const write = useWrite(
    (fields: PackSaid & { collections?: Record<string, string> }) =>
      got(server.PATCH("/api/packs/{pack_id}", { params: { path: { pack_id: pack.id } }, body: fields })),
    [],
    (answer) => client.setQueryData(["pack", pack.id], answer),
  );
  const sent = async () => {
    clearTimeout(timer.current);
    const fields = held.current;
    held.current = {};
    if (Object.keys(fields).length) await write.mutateAsync(fields);
  };
  const say = (fields: PackSaid) => {
    setSaid((last) => ({ ...last, ...fields }));
    held.current = { ...held.current, ...fields };
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void sent().catch(() => undefined), REST);
  };
  return { shown: { ...pack, ...said }, say, sent, write };
}

/** frame: that looks are drawn on ahead. */
export function usePackActs(pack: Pack, frame: number | undefined) {
  const navigate = useNavigate();
  const about = useSaid(pack);
  const at = { params: { path: { pack_id: pack.id } } };
  const items = useWrite(
    (said: { ids: number[] } & Parameters<Say>[1]) =>
      got(server.PATCH("/api/packs/{pack_id}/items", { ...at, body: said })),
    [],
    (changed) => {
      const now = new Map(changed.map((i) => [i.id, i]));
      client.setQueryData<Pack>(
        ["pack", pack.id],
        (last) => last && { ...last, items: last.items.map((i) => now.get(i.id) ?? i) },
      );
    },
  );
  const say: Say = (ids, said) => items.mutate({ ids, ...said });
  const read = useWrite(
    () => got(server.POST("/api/packs/{pack_id}/read", { ...at, body: { frame } })),
    ["pack"],
  );
  const keep = useWrite(async () => {
    await about.sent();
    return got(server.POST("/api/packs/{pack_id}/keep", at));
  }, ["pack"]);
  const stop = useWrite(async () => {
    if (pack.job)
      await got(server.POST("/api/jobs/{job_id}/cancel", { params: { path: { job_id: pack.job.id } } }));
  }, ["pack"]);
  const drop = useWrite(
    () => got(server.DELETE("/api/packs/{pack_id}", at)),
    ["packs"],
    () => void navigate("/catalogue/bring-in"),
  );
  const error =
    about.write.error ?? items.error ?? read.error ?? keep.error ?? stop.error ?? drop.error ?? null;
  return { about, say, read, keep, stop, drop, error };
}
export type PackActs = ReturnType<typeof usePackActs>;
