/** The saucer of the draft, redrawn by the core when the hand rests. */
import { useEffect, useState } from "react";
import { BLOB, got, server } from "../api/client";
import { atRest } from "../api/rest";
import { Saucer } from "../kit/saucer";
import { useCalmDraft } from "./calm";

const REST = 350;

export function Portrait({ name }: { name: string }) {
  const draft = useCalmDraft();
  const [src, setSrc] = useState<string | null>(null);
  useEffect(() => {
    return atRest(REST, async (signal) => {
      const next = URL.createObjectURL(
        await got(server.POST("/api/saucer", { body: draft, signal, ...BLOB })),
      );
      setSrc((last) => {
        if (last) URL.revokeObjectURL(last);
        return next;
      });
    });
  }, [draft]);
  return <Saucer src={src} size={32} of={name} />;
}
