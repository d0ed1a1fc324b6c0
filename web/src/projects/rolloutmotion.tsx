/** What another revision does to a shot in motion: now, then, and where they differ, played in step. */
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import type { Revision, Shot } from "../api/types";
import { Sheet } from "../kit/sheet";
import { Waiting } from "../kit/waiting";
import { InStep, type Shown } from "../viewer/instep";
import { askedOfProject } from "./asked";

export function RollOutMotion(props: {
  project: number;
  shot: Shot;
  now: Revision;
  then: Revision;
  /** ΔE that the difference shows as white. */
  full: number;
  onClose: () => void;
}) {
  const { project, shot, now, then, full } = props;
  const worn = useQuery(askedOfProject.worn(project, shot));
  const after = useQuery(askedOfProject.wornWith(project, shot, now.id, then.id));
  const pictures = useMemo<Shown[]>(() => {
    if (!worn.data || !after.data) return [];
    return [
      { name: `now, r${now.number}`, look: worn.data },
      { name: `then, r${then.number}`, look: after.data },
      {
        name: `where they differ, white is ΔE ${full}`,
        look: after.data,
        difference: { from: worn.data, full },
      },
    ];
  }, [worn.data, after.data, now.number, then.number, full]);
  return (
    <Sheet title={`Shot ${shot.number} · ${shot.name}`} width={1240} onClose={props.onClose}>
      {pictures.length ? (
        <InStep
          frame={shot.frame}
          trim={shot.trim}
          range={shot.cut ?? null}
          pictures={pictures}
          height="min(54vh, 236px)"
        />
      ) : (
        <Waiting query={worn.data ? after : worn} what="looks of the shot" />
      )}
    </Sheet>
  );
}
