/** Trying a look on a frame of yours: large, at the strength you like, against the original. */
import { useQuery } from "@tanstack/react-query";

import { useMemo, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { declared } from "../api/declared";
import { asked, useEncodingLabel, useKinds, useMe } from "../api/queries";
import { got, server } from "../api/client";
import type { Card, Frame, Parameter } from "../api/types";
import { useWrite } from "../api/writes";
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
import { Apart, Grow, Pair, Quiet } from "../kit/layout";
import { AddLook } from "./addlook";

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
  const { data: kinds } = useKinds();
  const { data: me } = useMe();
  const navigate = useNavigate();
  const label = useEncodingLabel();
  const frame = frames.find((f) => f.id === props.frame) ?? frames[0] ?? null;
  const [stacked, setStacked] = useState<Card[]>([]);
  const all = [card, ...stacked].map((c) => c.revision.id);
  const {
    data: stack = null,
    error: unstacked,
    isPlaceholderData: older,
  } = useQuery({ ...asked.stack(all), placeholderData: (last) => last });
  const wish = useMemo<Wish | null>(
    () => (stack ? { look: stack, strength, frame: frame?.id ?? null, traces: false } : null),
    [stack, strength, frame?.id],
  );
  const keep = useWrite(
    () =>
      got(
        server.POST("/api/looks", {
          body: {
            name: [card, ...stacked]
              .map((c) => c.name)
              .join(" + ")
              .slice(0, 120),
            draft: stack!,
          },
        }),
      ),
    ["worked"],
    (made) => void navigate(`/bench/${made.id}`),
  );
  const feed = useFeed(wish);
  const trouble = useTrouble(feed);
  const parameter = (kinds?.[0]?.parameters as { properties: Record<string, Parameter> } | undefined)
    ?.properties.strength;
  return (
    <Sheet
      title={card.name}
      note={`revision ${card.revision.number}, ${card.revision.status}`}
      width={1080}
      onClose={props.onClose}
    >
      <Layout>
        <div className="left">
          <Strip
            frames={frames}
            chosen={frame?.id ?? null}
            onChoose={props.onFrame}
            input={card.revision.input}
            feed={feed}
          />
          <Stage
            frame={frame}
            input={card.revision.input}
            feed={feed}
            mode={mode}
            wish={wish}
            name={card.name}
          />
        </div>
        <div className="right">
          <div className="who">
            <Saucer src={saucerOf(card.revision)} size={72} of={card.name} />
            <span>
              {card.maker}
              <br />
              <Quiet>{card.words.join(", ")}</Quiet>
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
          <section aria-label="Stacked onto it">
            {stacked.map((c) => (
              <Apart key={c.id}>
                <span>+ {c.name}</span>
                <Button
                  look="icon"
                  aria-label={`Take ${c.name} off`}
                  onPress={() => setStacked(stacked.filter((s) => s.id !== c.id))}
                >
                  ✕
                </Button>
              </Apart>
            ))}
            {all.length < declared.stack ? (
              <AddLook
                label="Stack a look onto it"
                without={[card.id, ...stacked.map((c) => c.id)]}
                onAdd={(c) => setStacked([...stacked, c])}
              />
            ) : (
              <Quiet>At most {declared.stack} looks are stacked.</Quiet>
            )}
          </section>
          <Trouble error={unstacked ?? trouble ?? keep.error} />
          <Grow />
          {stacked.length && me?.may_design ? (
            <Button isDisabled={keep.isPending || !stack || older} onPress={() => keep.mutate()}>
              Keep the stack as a look
            </Button>
          ) : null}
          <Pair>
            <Button
              onPress={() => void navigate(`/catalogue/look/${card.id}${frame ? `?frame=${frame.id}` : ""}`)}
            >
              Its page
            </Button>
            <Button onPress={() => void navigate(inspectorOf({ kind: "look", key: card.id }))}>
              Inspect
            </Button>
          </Pair>
          {me?.may_design ? <Button onPress={() => setVarying(true)}>New look from this</Button> : null}
          <Button
            look="main"
            onPress={() => void navigate(`/bench/${card.id}${frame ? `?frame=${frame.id}` : ""}`)}
          >
            Open on the bench
          </Button>
        </div>
      </Layout>
      {varying ? <NewLook from={card.revision} onClose={() => setVarying(false)} /> : null}
    </Sheet>
  );
}
