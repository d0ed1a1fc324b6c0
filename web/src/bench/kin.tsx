/** Where a variation comes from, and how it differs from that. */
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { got, server } from "../api/client";
import type { Change, LookRecord } from "../api/types";
import { useCalmDraft } from "./calm";

export function Kin({ look }: { look: LookRecord }) {
  const draft = useCalmDraft();
  const [found, setFound] = useState<Change[] | null>(null);
  const parent = look.parent?.id;
  useEffect(() => {
    if (!parent) return;
    let late = false;
    const wait = setTimeout(async () => {
      try {
        const before = (
          await got(server.GET("/api/looks/{look_id}", { params: { path: { look_id: parent } } }))
        ).draft;
        const changes = await got(server.POST("/api/changes", { body: { before, after: draft } }));
        if (!late) setFound(changes);
      } catch {
        // The parent may be gone, or the server away: then nothing is said of it.
      }
    }, 800);
    return () => {
      late = true;
      clearTimeout(wait);
    };
  }, [parent, draft]);
  if (!look.parent) return null;
  return (
    <div className="kin">
      variation of <Link to={`/bench/${look.parent.id}`}>{look.parent.name}</Link>
      {found ? (
        <details>
          <summary>{`${found.length || "no"} ${found.length === 1 ? "difference" : "differences"}`}</summary>
          <ul>
            {found.map((c, k) => (
              <li key={k}>{c.text}</li>
            ))}
          </ul>
        </details>
      ) : null}
    </div>
  );
}
