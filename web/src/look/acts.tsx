/** What can be done with a look, in the bar above its page. */
import { useState } from "react";
import { useNavigate } from "react-router";
import { got, server } from "../api/client";
import { useMe } from "../api/queries";
import type { Card, Revision } from "../api/types";
import { useWrite } from "../api/writes";
import { IntoCollection } from "../catalogue/intocollection";
import { NewLook } from "../catalogue/newlook";
import { useTray } from "../catalogue/tray";
import { inspectorOf } from "../inspect/subject";
import { Button } from "../kit/button";
import { Trouble } from "../kit/trouble";

export function Acts(props: {
  look: number;
  card: Card | undefined;
  revision: Revision | undefined;
  /** The frame that the bench is to show. */
  frame: number | undefined;
}) {
  const { look: id, card, revision } = props;
  const { data: me } = useMe();
  const navigate = useNavigate();
  const tray = useTray();
  const [varying, setVarying] = useState(false);
  const [collecting, setCollecting] = useState(false);
  const like = useWrite(
    (likes: boolean) =>
      got(
        server.PUT("/api/catalogue/{look_id}/favourite", {
          params: { path: { look_id: id } },
          body: { likes },
        }),
      ),
    ["catalogue"],
  );
  return (
    <>
      {card ? (
        <>
          <Button look="quiet" aria-pressed={card.favourite} onPress={() => like.mutate(!card.favourite)}>
            {card.favourite ? "Liked" : "Like"}
          </Button>
          <Button look="quiet" aria-pressed={tray.looks.includes(id)} onPress={() => tray.turn(id)}>
            {tray.looks.includes(id) ? "In the tray" : "To the tray"}
          </Button>
        </>
      ) : null}
      {me?.may_design && revision ? (
        <>
          <Button look="quiet" onPress={() => setCollecting(true)}>
            To a collection
          </Button>
          <Button onPress={() => setVarying(true)}>Variation</Button>
        </>
      ) : null}
      <Button onPress={() => void navigate(inspectorOf({ kind: "look", key: id }))}>Inspect</Button>
      <Button
        look="main"
        onPress={() => void navigate(`/bench/${id}${props.frame ? `?frame=${props.frame}` : ""}`)}
      >
        Open on the bench
      </Button>

      <Trouble error={like.error} />
      {varying && revision ? <NewLook from={revision} onClose={() => setVarying(false)} /> : null}
      {collecting ? <IntoCollection looks={[id]} onClose={() => setCollecting(false)} /> : null}
    </>
  );
}
