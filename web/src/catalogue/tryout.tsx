/** Trying a look on a frame of yours: large, at the strength you like, against the original. */
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { asked, useEncodingLabel, useKinds, useMe } from "../api/queries";
import type { Card, Frame, Parameter } from "../api/types";
import { Amount } from "../kit/amount";
import { Button } from "../kit/button";
import { inspectorOf } from "../inspect/subject";
import { Segments } from "../kit/segments";
import { Saucer, saucerOf } from "../kit/saucer";
import { Sheet } from "../kit/sheet";
import { Trouble } from "../kit/trouble";
import { useFeed, useTrouble, type Wish } from "../viewer/live";
import { Stage, type Mode } from "../viewer/stage";
import { Strip } from "../viewer/strip";
import { NewLook } from "./newlook";
import { Grow, Quiet } from "../kit/layout";

const Layout = styled.div`
  display: grid;
  grid-template-columns: 1fr 230px;
  gap: 20px;
  height: min(66vh, 560px);
  .left {
    display: flex;
    flex-direction: column;
    gap: 10px;
    min-width: 0;
    min-height: 0;
  }
  .right {
    display: flex;
    flex-direction: column;
    gap: 12px;
    overflow-y: auto;
    padding-right: 7px;
  }
  .who {
    display: flex;
    gap: 12px;
    align-items: center;
  }
  p {
    color: var(--t2);
  }
`;

export function TryOut(props: {
  card: Card;
  frames: Frame[];
  frame: number | null;
  onFrame: (id: number) => void;
  onClose: () => void;
  strength: number;
}) {
  const { card, frames } = props;
  const [mode, setMode] = useState<Mode>("split");
  const [strength, setStrength] = useState(props.strength);
  const [varying, setVarying] = useState(false);
  const recipe = useQuery(asked.recipe(card.revision.id));
  const { data: kinds } = useKinds();
  const { data: me } = useMe();
  const navigate = useNavigate();
  const label = useEncodingLabel();
  const frame = frames.find((f) => f.id === props.frame) ?? frames[0] ?? null;
  const wish = useMemo<Wish | null>(
    () => (recipe.data ? { look: recipe.data, strength, frame: frame?.id ?? null, traces: false } : null),
    [recipe.data, strength, frame?.id],
  );
  const feed = useFeed(wish);
  const trouble = useTrouble(feed);
  const parameter = (kinds?.[0]?.parameters as { properties: Record<string, Parameter> } | undefined)?.properties.strength;
  return (
    <Sheet title={card.name} note={`revision ${card.revision.number}, ${card.revision.status}`} width={1080} onClose={props.onClose}>
      <Layout>
        <div className="left">
          <Strip frames={frames} chosen={frame?.id ?? null} onChoose={props.onFrame} input={card.revision.input} feed={feed} />
          <Stage frame={frame} input={card.revision.input} feed={feed} mode={mode} wish={wish} name={card.name} />
        </div>
        <div className="right">
          <div className="who">
            <Saucer src={saucerOf(card.revision)} size={72} of={card.name} />
            <span>
              {card.maker}
              <br />
              <Quiet>{card.tags.join(", ")}</Quiet>
            </span>
          </div>
          <p>{card.note}</p>
          <p>
            {label(card.revision.input)} → {label(card.revision.output)}
          </p>
          {parameter ? <Amount parameter={parameter} value={strength} onChange={setStrength} /> : null}
          <div>
            <Segments
              label="Show"
              options={
                [
                  ["original", "Original"],
                  ["look", "Look"],
                  ["split", "Split"],
                ] as const
              }
              chosen={mode}
              onChange={setMode}
            />
          </div>
          <Trouble error={recipe.error ?? trouble} />
          <Grow />
          <Button onPress={() => void navigate(inspectorOf({ kind: "look", key: card.id }))}>Inspect</Button>
          {me?.may_design ? <Button onPress={() => setVarying(true)}>New look from this</Button> : null}
          <Button look="main" onPress={() => void navigate(`/bench/${card.id}${frame ? `?frame=${frame.id}` : ""}`)}>
            Open on the bench
          </Button>
        </div>
      </Layout>
      {varying ? <NewLook from={card.revision.id} onClose={() => setVarying(false)} /> : null}
    </Sheet>
  );
}
