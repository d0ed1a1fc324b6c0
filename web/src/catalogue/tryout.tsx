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
import { PlayBar } from "../player/playbar";
import { ofMoving, useClip } from "../player/use";
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
`;
const Picture = styled.div`
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-width: 0;
  min-height: 0;
`;
const Beside = styled.div`
  display: flex;
  flex-direction: column;
  gap: 12px;
  overflow-y: auto;
  padding-right: 7px;
  p {
    color: var(--t2);
  }
`;
const Who = styled.div`
  display: flex;
  gap: 12px;
  align-items: center;
`;
const SHOWS = [
  ["original", "Original"],
  ["look", "Look"],
  ["split", "Split"],
] as const;

/** The look with others stacked onto it, as the core stacks them. */
function useStack(card: Card) {
  const [others, setOthers] = useState<Card[]>([]);
  const all = [card, ...others];
  const found = useQuery({
    ...asked.stack(all.map((c) => c.revision.id)),
    placeholderData: (last) => last,
  });
  const navigate = useNavigate();
  const keep = useWrite(
    () => {
      const name = all.map((c) => c.name).join(" + ");
      return got(server.POST("/api/looks", { body: { name: name.slice(0, 120), draft: found.data! } }));
    },
    ["worked"],
    (made) => void navigate(`/bench/${made.id}`),
  );
  return {
    ...{ others, keep },
    look: found.data ?? null,
    /** Not yet of all that are stacked. */
    older: found.isPlaceholderData,
    error: found.error ?? keep.error,
    put: (c: Card) => setOthers([...others, c]),
    takeOff: (c: Card) => setOthers(others.filter((o) => o.id !== c.id)),
  };
}
type Stack = ReturnType<typeof useStack>;

function Stacked({ card, stack }: { card: Card; stack: Stack }) {
  const { others } = stack;
  return (
    <section aria-label="Stacked onto it">
      {others.map((c) => (
        <Apart key={c.id}>
          <span>+ {c.name}</span>
          <Button look="icon" aria-label={`Take ${c.name} off`} onPress={() => stack.takeOff(c)}>
            ✕
          </Button>
        </Apart>
      ))}
      {others.length + 1 < declared.stack ? (
        <AddLook
          label="Stack a look onto it"
          without={[card.id, ...others.map((c) => c.id)]}
          onAdd={stack.put}
        />
      ) : (
        <Quiet>At most {declared.stack} looks are stacked.</Quiet>
      )}
    </section>
  );
}

/** Where one can go on with the look. */
function Ways({ card, frame, stack }: { card: Card; frame: Frame | null; stack: Stack }) {
  const [varying, setVarying] = useState(false);
  const { data: me } = useMe();
  const navigate = useNavigate();
  const on = frame ? `?frame=${frame.id}` : "";
  return (
    <>
      {stack.others.length && me?.may_design ? (
        <Button
          isDisabled={stack.keep.isPending || !stack.look || stack.older}
          onPress={() => stack.keep.mutate()}
        >
          Keep the stack as a look
        </Button>
      ) : null}
      <Pair>
        <Button onPress={() => void navigate(`/catalogue/look/${card.id}${on}`)}>Its page</Button>
        <Button onPress={() => void navigate(inspectorOf({ kind: "look", key: card.id }))}>Inspect</Button>
      </Pair>
      {me?.may_design ? <Button onPress={() => setVarying(true)}>New look from this</Button> : null}
      <Button look="main" onPress={() => void navigate(`/bench/${card.id}${on}`)}>
        Open on the bench
      </Button>
      {varying ? <NewLook from={card.revision} onClose={() => setVarying(false)} /> : null}
    </>
  );
}

export function TryOut(props: {
  card: Card;
  frames: Frame[];
  frame: number | null;
  onFrame: (id: number) => void;
  onClose: () => void;
  strength: number;
}) {
  const { card, frames } = props;
  const { revision } = card;
  const [mode, setMode] = useState<Mode>("split");
  const [strength, setStrength] = useState(props.strength);
  const { data: kinds } = useKinds();
  const label = useEncodingLabel();
  const frame = frames.find((f) => f.id === props.frame) ?? frames[0] ?? null;
  const stack = useStack(card);
  const { look } = stack;
  const { player, moving } = useClip(frame);
  // The row of frames takes stills as they are met by the look's input, the clip as it comes in.
  const still = useMemo<Wish | null>(
    () => (look ? { look, strength, frame: frame?.id ?? null, traces: false } : null),
    [look, strength, frame?.id],
  );
  const row = useFeed(still);
  const wish = useMemo<Wish | null>(
    () => (still && moving ? { ...still, ...ofMoving(moving) } : still),
    [still, moving],
  );
  const clip = useFeed(moving ? wish : null);
  const feed = moving ? clip : row;
  const trouble = useTrouble(row);
  const parameter = (kinds?.[0]?.parameters as { properties: Record<string, Parameter> } | undefined)
    ?.properties.strength;
  return (
    <Sheet
      title={card.name}
      note={`revision ${revision.number}, ${revision.status}`}
      width={1080}
      onClose={props.onClose}
    >
      <Layout>
        <Picture>
          <Strip
            frames={frames}
            chosen={frame?.id ?? null}
            onChoose={props.onFrame}
            input={revision.input}
            feed={row}
          />
          <Stage
            frame={frame}
            input={revision.input}
            feed={feed}
            mode={mode}
            wish={wish}
            name={card.name}
            moving={moving}
          />
          <PlayBar player={player} />
        </Picture>
        <Beside>
          <Who>
            <Saucer src={saucerOf(revision)} size={72} of={card.name} />
            <span>
              {card.maker}
              <br />
              <Quiet>{card.words.join(", ")}</Quiet>
            </span>
          </Who>
          <p>{card.note}</p>
          <p>
            {label(revision.input)} → {label(revision.output)}
          </p>
          {parameter ? <Amount parameter={parameter} value={strength} onChange={setStrength} /> : null}
          <div>
            <Segments label="Show" options={SHOWS} chosen={mode} onChange={setMode} />
          </div>
          <Stacked card={card} stack={stack} />
          <Trouble error={trouble ?? stack.error} />
          <Grow />
          <Ways card={card} frame={frame} stack={stack} />
        </Beside>
      </Layout>
    </Sheet>
  );
}
