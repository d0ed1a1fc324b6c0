/** Up to four looks from the tray, large on the same frame: one of them is kept. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import styled from "styled-components";
import type { Card } from "../api/types";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Empty } from "../kit/empty";
import { useShownFrame } from "../kit/frame";
import { useFrameKeys } from "../kit/framekeys";
import { Grow, Quiet } from "../kit/layout";
import { Saucer, saucerOf } from "../kit/saucer";
import { Segments } from "../kit/segments";
import { Page, TopBar } from "../kit/topbar";
import { Waiting } from "../kit/waiting";
import { FrameStrip } from "../look/framestrip";
import { MODES, Seen, type SeenMode } from "../look/seen";
import { askedOf } from "./asked";
import { ROOM, useTray } from "./tray";

const Body = styled.main`
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding: 12px 18px;
  .looks {
    flex: 1;
    min-height: 0;
    display: grid;
    grid-template-columns: repeat(var(--columns), minmax(0, 1fr));
    grid-auto-rows: minmax(0, 1fr);
    gap: 12px;
  }
  article {
    display: flex;
    flex-direction: column;
    gap: 6px;
    min-height: 0;
    min-width: 0;
  }
  .about {
    display: flex;
    align-items: center;
    gap: 10px;
    min-width: 0;
  }
  .about a {
    font-weight: 600;
    text-decoration: none;
    white-space: nowrap;
  }
  .about > span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .seeing {
    display: flex;
    gap: 12px;
    align-items: center;
    color: var(--t2);
  }
`;

const SAID: Record<SeenMode, string> = { original: "Original", look: "Looks", split: "Split", difference: "Difference" };
const NO_NUMBERS = new Map<number, number>();

export default function Compare() {
  const [search] = useSearchParams();
  const ids = search.getAll("look").map(Number).filter(Number.isInteger).slice(0, ROOM);
  const query = useQuery(askedOf.cards(ids));
  const { all, frame, show } = useShownFrame(search.get("frame"));
  const [mode, setMode] = useState<SeenMode>("look");
  const [base, setBase] = useState("");
  const { put } = useTray();
  const navigate = useNavigate();
  const cards: Card[] = query.data ?? [];
  useEffect(() => {
    document.title = "Side by side · Saucer";
  }, []);
  useFrameKeys(all, frame, show, (e) => {
    const chosen = /^[1-4]$/.test(e.key) ? MODES[Number(e.key) - 1] : undefined;
    if (chosen) setMode(chosen);
    return chosen !== undefined;
  });
  const against = cards.find((c) => String(c.id) === base)?.revision ?? null;
  const first = cards[0];
  return (
    <Page>
      <TopBar>
        <Grow />
        <Button onPress={() => void navigate(-1)}>Back</Button>
      </TopBar>
      {!query.data ? (
        <main>
          <Waiting query={query} what="looks" />
        </main>
      ) : !first || !frame ? (
        <main>
          <Empty title="Nothing to hold side by side">Put looks into the tray of the catalogue, up to four.</Empty>
        </main>
      ) : (
        <Body style={{ "--columns": cards.length > 1 ? 2 : 1 }}>
          <h1 className="unseen">Side by side</h1>
          <FrameStrip frames={all} chosen={frame.id} revision={first.revision} onChoose={show} />
          <div className="seeing">
            <Segments label="Show" options={MODES.map((m) => [m, SAID[m]] as const)} chosen={mode} onChange={setMode} />
            against
            <Choice
              look="bare"
              hidden
              label="Held against"
              chosen={base}
              onChange={setBase}
              options={[{ key: "", label: "the original" }, ...cards.map((c) => ({ key: String(c.id), label: c.name }))]}
            />
            <Grow />
            <Quiet>, and . change the frame, 1 to 4 what is shown</Quiet>
          </div>
          <div className="looks">
            {cards.map((card) => (
              <article key={card.id} aria-label={card.name}>
                <Seen
                  frame={frame}
                  revision={card.revision}
                  against={against && against.id !== card.revision.id ? against : null}
                  mode={mode === "difference" && (!against || against.id === card.revision.id) ? "look" : mode}
                  strength={1}
                  notes={[]}
                  numbers={NO_NUMBERS}
                  chosen={null}
                  onChoose={() => undefined}
                  pinning={false}
                  onSpot={() => undefined}
                />
                <div className="about">
                  <Saucer src={saucerOf(card.revision)} size={34} />
                  <Link to={`/catalogue/look/${card.id}`}>{card.name}</Link>
                  <span>
                    <Quiet>{card.words.slice(0, 4).join(", ")}</Quiet>
                  </span>
                  <Grow />
                  <Button
                    onPress={() => {
                      put([]);
                      void navigate(`/catalogue/look/${card.id}`);
                    }}
                  >
                    Keep this one
                  </Button>
                </div>
              </article>
            ))}
          </div>
        </Body>
      )}
    </Page>
  );
}
