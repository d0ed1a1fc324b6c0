/** Who may have a look, where it comes from, and what came of it. */
import { Link } from "react-router";
import { got, server } from "../api/client";
import { useMe } from "../api/queries";
import type { LookRecord } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Apart } from "../kit/layout";
import { Trouble } from "../kit/trouble";
import { Keeping } from "./keeping";
import { Sharing } from "./sharing";

export function Origin({ look }: { look: LookRecord }) {
  const { data: me } = useMe();
  const part = useWrite(
    (twin: number) =>
      got(
        server.POST("/api/catalogue/{look_id}/part", {
          params: { path: { look_id: look.id } },
          body: { twin },
        }),
      ),
    ["catalogue", "look", "uses"],
  );

  return (
    <section aria-label="Origin">
      <h2>May be passed on</h2>
      <div>{look.rights || "not said"}</div>
      <Sharing look={look} />
      <Keeping look={look} />
      <h2>Comes from</h2>
      <div>
        {look.parent ? (
          <>
            a variation of <Link to={`/catalogue/look/${look.parent.id}`}>{look.parent.name}</Link>
          </>
        ) : (
          look.origin || `made here, ${look.maker}`
        )}
      </div>
      {look.merged_into ? (
        <>
          <h2>Part of</h2>
          <Link to={`/catalogue/look/${look.merged_into.id}`}>{look.merged_into.name}</Link>
        </>
      ) : null}
      {look.merged.length ? (
        <>
          <h2>Twins that are part of it</h2>
          {look.merged.map((t) => (
            <Apart key={t.id}>
              <Link to={`/catalogue/look/${t.id}`}>{t.name}</Link>
              {me?.may_lead ? (
                <Button look="quiet" onPress={() => part.mutate(t.id)}>
                  Part again
                </Button>
              ) : null}
            </Apart>
          ))}
        </>
      ) : null}
      {look.variations.length ? (
        <>
          <h2>Variations</h2>
          {look.variations.map((v) => (
            <div key={v.id}>
              <Link to={`/catalogue/look/${v.id}`}>{v.name}</Link>
            </div>
          ))}
        </>
      ) : null}
      <Trouble error={part.error} />
    </section>
  );
}
