/** Sending gathered files into a pack, a few at a time, and having them read. */
import { useCallback, useState } from "react";
import { useNavigate } from "react-router";
import { got, server } from "../api/client";
import { client } from "../api/queries";
import { batches, called, MOST, type Gathered } from "../kit/gather";

/** Files of one request. */
const FILES = 50;

export interface Sending {
  /** How many of how many were sent; `null` where nothing is under way. */
  sent: { done: number; of: number } | null;
  error: unknown;
  /** Sends files into a pack, or into a new one, has it read, and goes there. */
  send: (gathered: Gathered[], pack?: number) => Promise<void>;
}

export function useSending(frame: number | undefined): Sending {
  const navigate = useNavigate();
  const [sent, setSent] = useState<Sending["sent"]>(null);
  const [error, setError] = useState<unknown>(null);
  const send = useCallback(
    async (gathered: Gathered[], pack?: number) => {
      if (!gathered.length) return;
      setError(null);
      try {
        if (gathered.length > MOST)
          throw new Error(
            `More than ${MOST.toLocaleString("en")} files at once. Bring the folders in one after the other.`,
          );
        setSent({ done: 0, of: gathered.length });
        const id = pack ?? (await got(server.POST("/api/packs", { body: { name: called(gathered) } }))).id;
        let done = 0;
        for (const batch of batches(gathered, FILES)) {
          const body = new FormData();
          for (const { file } of batch) body.append("files", file);
          body.append("paths", JSON.stringify(batch.map((g) => g.path)));
          await server.POST("/api/packs/{pack_id}/files", { params: { path: { pack_id: id } }, body });
          done += batch.length;
          setSent({ done, of: gathered.length });
        }
        await server.POST("/api/packs/{pack_id}/read", {
          params: { path: { pack_id: id } },
          body: { frame },
        });
        await client.invalidateQueries({ queryKey: ["pack", id] });
        void navigate(`/catalogue/bring-in/${id}`);
      } catch (trouble) {
        setError(trouble);
      } finally {
        setSent(null);
        void client.invalidateQueries({ queryKey: ["packs"] });
      }
    },
    [frame, navigate],
  );
  return { sent, error, send };
}
