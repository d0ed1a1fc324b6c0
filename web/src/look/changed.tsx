/** What changed from one revision to another. */
import { useQuery } from "@tanstack/react-query";
import type { Revision } from "../api/types";
import { Quiet } from "../kit/layout";
import { askedOfLook } from "./asked";

export function Changed({ revision, against }: { revision: Revision; against: Revision | null }) {
  return against ? (
    <Since revision={revision} against={against} />
  ) : (
    <Quiet>Hold it against another revision to see what changed.</Quiet>
  );
}

function Since({ revision, against }: { revision: Revision; against: Revision }) {
  const { data: since } = useQuery(askedOfLook.since(revision.id, against.id));
  return (
    <section aria-label="What changed">
      <h2>
        r{against.number} → r{revision.number}
      </h2>
      {since?.changes.map((c, k) => (
        <div key={k}>{c.text}</div>
      ))}
      {since && !since.changes.length ? <div>no change</div> : null}
      {since?.mean != null ? (
        <Quiet>
          ΔE mean {since.mean.toFixed(1)}, largest {since.largest!.toFixed(1)}
        </Quiet>
      ) : null}
    </section>
  );
}
