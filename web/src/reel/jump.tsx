/** What jumps where the shot that is shown begins, and the trim that mends it. */
import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import type { OnReel, Shot } from "../api/types";
import { Button } from "../kit/button";
import { Quiet } from "../kit/layout";
import { signed } from "../kit/signed";
import { layerWords } from "../projects/asked";
import type { Doing } from "../projects/doing";
import { askedOfReel } from "./asked";

const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 4px 10px;
  flex-wrap: wrap;
  font-size: 12.5px;
  min-height: 28px;
  color: var(--t2);
  .says {
    color: var(--warn);
  }
`;

type What = "skin" | "grey" | "tone";

/** The trim that mends it, or why there is none. */
function Mend({ project, shot, doing }: { project: number; shot: Shot; doing: Doing }) {
  const { data, isPending } = useQuery(askedOfReel.mended(project, shot.id));
  if (isPending) return <Quiet role="status">finding the trim that mends it …</Quiet>;
  if (!data) return null;
  if (!data.small) return <Quiet>no small trim brings it there: they show different things</Quiet>;
  const { trim } = data;
  const by = (key: "exposure" | "temperature" | "tint", digits?: number) =>
    signed(trim[key] - shot.trim[key], digits);
  return (
    <>
      <Quiet>
        {by("exposure")} stops, temperature {by("temperature", 0)}, tint {by("tint", 0)} brings it there
      </Quiet>
      <Button
        look="quiet"
        isDisabled={doing.trim.isPending}
        onPress={() =>
          doing.trim.mutate({
            shots: [shot.id],
            trim,
            words: `trim of ${shot.name} toward the shot before it`,
          })
        }
      >
        Trim shot {shot.number}
      </Button>
    </>
  );
}

/** on: the shot with what jumps at its cut; nothing where none does. */
export function JumpLine(props: {
  project: number;
  before: Shot | undefined;
  shot: Shot;
  on: OnReel | undefined;
  doing: Doing;
}) {
  const { shot, on, before, doing } = props;
  if (!on) return <Row>{shot.layers.length ? `under ${layerWords(shot)}` : "no look on this shot"}</Row>;
  const whats = on.jumps.map((j) => j.what as What);
  return (
    <Row role="group" aria-label="Jump at this cut">
      <span className="says">
        a jump at the cut {before ? `${before.number} → ${shot.number}` : `to ${shot.number}`}:{" "}
        {on.jumps.map((j) => j.text).join(", ")}
      </span>
      <Mend project={props.project} shot={shot} doing={doing} />
      <Button
        look="quiet"
        isDisabled={doing.meant.isPending}
        onPress={() => doing.meant.mutate({ shot: shot.id, meant: [...new Set([...shot.meant, ...whats])] })}
      >
        It is meant so
      </Button>
    </Row>
  );
}
