/** Whether the fields of an interlaced clip are made whole frames; nothing for other clips. */
import { got, server } from "../api/client";
import type { Clip } from "../api/types";
import { useWrite } from "../api/writes";
import { Switch } from "../kit/switch";
import { Trouble } from "../kit/trouble";

export function Fields({ clip }: { clip: Clip }) {
  const change = useWrite(
    (deinterlaced: boolean) =>
      got(
        server.PATCH("/api/clips/{clip_id}", {
          params: { path: { clip_id: clip.id } },
          body: { deinterlaced },
        }),
      ),
    ["clips", "frames", "project"],
  );
  if (!clip.facts?.interlaced) return null;
  return (
    <>
      <Switch label="Deinterlaced" on={clip.deinterlaced} onChange={(on) => change.mutate(on)} />
      <Trouble error={change.error} />
    </>
  );
}
