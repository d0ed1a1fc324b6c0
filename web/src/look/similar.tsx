/** Looks that do nearly the same, or nearly the same but warmer, softer, less saturated. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ToggleButton, ToggleButtonGroup } from "react-aria-components";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useMe } from "../api/queries";
import type { Like } from "../api/types";
import { useWrite } from "../api/writes";
import { askedOf, useScales } from "../catalogue/asked";
import { Button } from "../kit/button";
import { Quiet } from "../kit/layout";
import { Saucer, saucerOf } from "../kit/saucer";
import { Sheet } from "../kit/sheet";
import { Trouble } from "../kit/trouble";

const Box = styled.section`
  .but {
    display: flex;
    flex-wrap: wrap;
    gap: 4px;
    margin: 6px 0 8px;
  }
  .but button {
    border: 0;
    border-radius: 11px;
    padding: 2px 9px;
    background: var(--g3);
    color: var(--t2);
    font-size: 12px;
    cursor: pointer;
  }
  .but button[data-selected] {
    background: var(--g4);
    color: var(--t1);
    font-weight: 600;
  }
  ul {
    list-style: none;
    padding: 0;
    display: grid;
    grid-template-columns: repeat(4, minmax(0, 1fr));
    gap: 10px 6px;
    text-align: center;
    font-size: 12px;
  }
  a {
    display: grid;
    justify-items: center;
    gap: 3px;
    text-decoration: none;
    overflow: hidden;
  }
  a span {
    max-width: 100%;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  small {
    color: var(--t2);
    font-size: 12px;
    display: block;
  }
`;

/** Traits by which people ask for another one. */
const ASKED = ["warmth", "contrast", "saturation", "exposure"];

export function Similar(props: { look: number; name: string }) {
  const [but, setBut] = useState<string[]>([]);
  const { data: scales = [] } = useScales();
  const { data, error } = useQuery({
    ...askedOf.like(props.look, but, 8),
    placeholderData: (last: Like[] | undefined) => last,
  });
  const { data: me } = useMe();
  const [merging, setMerging] = useState<Like | null>(null);
  const sides = scales.filter((s) => ASKED.includes(s.key));
  return (
    <Box aria-label="Similar looks">
      <h2>Like this{but.length ? ", but" : ""}</h2>
      <ToggleButtonGroup
        className="but"
        aria-label="But"
        selectionMode="multiple"
        selectedKeys={but}
        onSelectionChange={(keys) => {
          // A look is not warmer and cooler at once: the side chosen last counts.
          const chosen = [...keys].map(String);
          const fresh = chosen.find((k) => !but.includes(k));
          setBut(chosen.filter((k) => !fresh || k === fresh || k.split(":")[0] !== fresh.split(":")[0]));
        }}
      >
        {sides.flatMap((s) => [
          <ToggleButton key={`${s.key}:less`} id={`${s.key}:less`}>
            {s.less}
          </ToggleButton>,
          <ToggleButton key={`${s.key}:more`} id={`${s.key}:more`}>
            {s.more}
          </ToggleButton>,
        ])}
      </ToggleButtonGroup>
      <Trouble error={error} />
      {data?.length ? (
        <ul>
          {data.map((l) => (
            <li key={l.card.id}>
              <Link to={`/catalogue/look/${l.card.id}`} title={l.card.words.join(", ")}>
                <Saucer src={saucerOf(l.card.revision, 112)} size={48} />
                <span>{l.card.name}</span>
              </Link>
              <small>{l.twin ? "a twin" : `ΔE ${l.mean.toFixed(1)}`}</small>
              {l.twin && me?.may_lead ? (
                <Button look="quiet" onPress={() => setMerging(l)}>
                  merge
                </Button>
              ) : null}
            </li>
          ))}
        </ul>
      ) : (
        <Quiet>{data ? "No other look is." : ""}</Quiet>
      )}
      {merging ? (
        <Merging look={props.look} name={props.name} twin={merging} onClose={() => setMerging(null)} />
      ) : null}
    </Box>
  );
}

/** Two looks that cannot be told apart become one; nothing of the other is lost. */
function Merging(props: { look: number; name: string; twin: Like; onClose: () => void }) {
  const navigate = useNavigate();
  const { twin } = props;
  const merge = useWrite(
    () =>
      got(
        server.POST("/api/catalogue/{look_id}/merge", {
          params: { path: { look_id: props.look } },
          body: { twin: twin.card.id },
        }),
      ),
    ["catalogue", "look", "history", "uses", "notes"],
    () => {
      props.onClose();
      void navigate(`/catalogue/look/${props.look}`);
    },
  );
  return (
    <Sheet title={`Merge ${twin.card.name} into ${props.name}`} width={440} onClose={props.onClose}>
      <p>
        Side by side an eye sees no difference (ΔE mean {twin.mean.toFixed(2)}, largest{" "}
        {twin.largest.toFixed(2)}). The revisions of {twin.card.name} come before those of {props.name}, and
        shots, files, notes, tags and collections go with them; its name stays in the note.
      </p>
      <Trouble error={merge.error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" isDisabled={merge.isPending} onPress={() => merge.mutate()}>
          Merge
        </Button>
      </footer>
    </Sheet>
  );
}
