/** Up to four looks from the tray, large on the same frame: one of them is kept. */
import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import styled from "styled-components";
import type { Card, Place } from "../api/types";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Empty } from "../kit/empty";
import { useShownFrame } from "../kit/frame";
import { useFrameKeys } from "../kit/framekeys";
import { Grow, Quiet } from "../kit/layout";
import { Segments } from "../kit/segments";
import { Page, TopBar } from "../kit/topbar";
import { Waiting } from "../kit/waiting";
import { FrameStrip } from "../look/framestrip";
import { PlayBar } from "../player/playbar";
import { useClip } from "../player/use";
import type { MaskName } from "../viewer/mask";
import { MARKS } from "../viewer/masks";
import { WHOLE, zoomed } from "../viewer/zoom";
import { askedOf } from "./asked";
import { Candidate } from "./candidate";
import { ROOM, useTray } from "./tray";
import { WAYS, type Way } from "./ways";

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
  .seeing {
    display: flex;
    gap: 12px;
    align-items: center;
    color: var(--t2);
  }
`;

export default function Compare() {
  const [search] = useSearchParams();
  const ids = search.getAll("look").map(Number).filter(Number.isInteger).slice(0, ROOM);
  const query = useQuery(askedOf.cards(ids));
  const { all, frame, show } = useShownFrame(search.get("frame"));
  const { player, moving } = useClip(frame);
  const [way, setWay] = useState<Way>("look");
  const [mask, setMask] = useState<MaskName | "">("");
  const [zoom, setZoom] = useState(WHOLE);
  const [spot, setSpot] = useState<Place | null>(null);
  const [base, setBase] = useState("");
  const { put } = useTray();
  const navigate = useNavigate();
  const cards: Card[] = query.data ?? [];
  useEffect(() => {
    document.title = "Side by side · Saucer";
  }, []);
  useFrameKeys(all, frame, show, (e) => {
    const chosen = /^[1-5]$/.test(e.key) ? WAYS[Number(e.key) - 1]?.[0] : undefined;
    const towards = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    const within = (v: number) => Math.min(1, Math.max(0, v));
    const far = (e.shiftKey ? 0.05 : 0.01) / zoom.scale;
    const moved =
      spot && towards
        ? { x: within(spot.x + far * towards[0]!), y: within(spot.y + far * towards[1]!) }
        : null;
    const by = { "+": 1.5, "-": 1 / 1.5 }[e.key];
    if (chosen) setWay(chosen);
    else if (by) setZoom((z) => zoomed(z, by));
    else if (e.key === "0") setZoom(WHOLE);
    else if (e.key === "p") setSpot((s) => (s ? null : { x: zoom.x, y: zoom.y }));
    else if (
      moved &&
      spot &&
      !(e.target instanceof HTMLElement && e.target.closest("[role=radiogroup], [role=slider], [type=range]"))
    )
      setSpot(moved);
    else return false;
    return true;
  });
  const against = cards.find((c) => String(c.id) === base) ?? null;
  const point = useCallback(
    (at: Place | null, pressed: boolean) => {
      if (!at || !pressed) return;
      setSpot((s) => (s && Math.hypot(s.x - at.x, s.y - at.y) < 0.012 / zoom.scale ? null : at));
    },
    [zoom.scale],
  );
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
          <Empty title="Nothing to hold side by side">
            Put looks into the tray of the catalogue, up to four.
          </Empty>
        </main>
      ) : (
        <Body style={{ "--columns": cards.length > 1 ? 2 : 1 }}>
          <h1 className="unseen">Side by side</h1>
          <FrameStrip frames={all} chosen={frame.id} revision={first.revision} onChoose={show} />
          <div className="seeing">
            <Segments label="Show" options={WAYS} chosen={way} onChange={setWay} />
            against
            <Choice
              look="bare"
              hidden
              label="Held against"
              chosen={base}
              onChange={setBase}
              options={[
                { key: "", label: "the original" },
                ...cards.map((c) => ({ key: String(c.id), label: c.name })),
              ]}
            />
            marked
            <Choice
              look="bare"
              hidden
              label="Marked"
              chosen={mask}
              onChange={(key) => setMask(key)}
              options={[
                { key: "", label: "nothing" },
                ...MARKS.map(([key, label]) => ({ key, label: label.toLowerCase() })),
              ]}
            />
            <Grow />
            <Quiet>
              {zoom.scale > 1 ? `${zoom.scale.toFixed(1)} × · ` : ""}a press or P reads a spot, arrows move it
              · , . frame · 1–5 shown · + − 0 size
            </Quiet>
          </div>
          <div className="looks">
            {cards.map((card) => (
              <Candidate
                key={card.id}
                card={card}
                frame={frame}
                way={way}
                against={against}
                mask={mask}
                moving={moving}
                zoom={zoom}
                onZoom={setZoom}
                spot={spot}
                onPoint={point}
                onKeep={() => {
                  put([]);
                  void navigate(`/catalogue/look/${card.id}`);
                }}
              />
            ))}
          </div>
          <PlayBar player={player} />
        </Body>
      )}
    </Page>
  );
}
