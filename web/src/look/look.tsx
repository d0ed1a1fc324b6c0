/**
 * The page of a look: what it does to your frames, how it came to be, what is said of it, where it is used.
 */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { useParams } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { asked } from "../api/queries";

import { askedOf } from "../catalogue/asked";

import { Button } from "../kit/button";
import { useShownFrame } from "../kit/frame";
import { useFrameKeys } from "../kit/framekeys";
import { Grow, Said } from "../kit/layout";
import { Segments } from "../kit/segments";
import { ShareLine } from "../kit/shareline";

import { Page, TopBar } from "../kit/topbar";

import { Waiting } from "../kit/waiting";
import { PlayBar } from "../player/playbar";
import { useClip } from "../player/use";
import { askedOfLook } from "./asked";
import { Deciding } from "./deciding";
import { Notes, type Fresh } from "./notes";
import { Revisions } from "./revisions";
import { MODES, Seen, type SeenMode } from "./seen";

import { Similar } from "./similar";
import { Taking } from "./taking";

import { FrameStrip } from "./framestrip";
import { Acts } from "./acts";
import { Changed } from "./changed";
import { About } from "./about";
import { UsedIn, FilesBaked } from "./uses";
import { Origin } from "./origin";
import { useInAddress } from "./inaddress";
import type { Revision } from "../api/types";

const Body = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
  main {
    flex: 1;
    min-width: 0;
    display: flex;
    flex-direction: column;
    padding: 10px 18px 14px;
    gap: 10px;
    overflow-y: auto;
  }
  .picture {
    flex: 1 0 340px;
    display: flex;
    min-height: 0;
    position: relative;
  }
  .seeing {
    display: flex;
    align-items: center;
    gap: 10px;
    color: var(--t2);
    font-size: 12px;
  }
  .seeing output {
    white-space: nowrap;
  }
  .seeing .line {
    width: 110px;
  }
  > .right {
    width: 330px;
    flex: none;
    border-left: 1px solid var(--line);
    background: var(--g1);
    overflow-y: auto;
  }
  > .right > * {
    padding: 12px 16px;
    border-bottom: 1px solid var(--line);
  }
`;

const SAID: Record<SeenMode, string> = {
  original: "Original",
  look: "Look",
  split: "Split",
  difference: "Difference",
};

/** How the look is shown on the frame, and how strong. */
function Seeing(props: {
  revision: Revision;
  mode: SeenMode;
  onMode: (mode: SeenMode) => void;
  onStrength: (strength: number) => void;
  pinning: boolean;
}) {
  const [strength, setStrength] = useState(1);
  const modes = MODES.map((m) => [m, m === "look" ? `r${props.revision.number}` : SAID[m]] as const);
  return (
    <div className="seeing">
      <Segments label="Show" options={modes} chosen={props.mode} onChange={props.onMode} />
      <span>strength</span>
      <ShareLine
        label="Strength to try"
        value={strength}
        onChange={setStrength}
        onSettle={props.onStrength}
      />
      <Grow />
      {props.pinning ? (
        <span role="status">Click where the note goes, or move it by arrows and press Enter.</span>
      ) : null}
    </div>
  );
}

export default function LookPage() {
  const id = Number(useParams().id);
  const look = useQuery(asked.look(id));
  const history = useQuery(askedOfLook.history(id));
  const { data: cards } = useQuery(askedOf.cards([id]));
  const { data: notes = [] } = useQuery(askedOfLook.notes(id));
  const [mode, setMode] = useState<SeenMode>("look");
  const [settled, setSettled] = useState(1);
  const [chosen, setChosen] = useState<number | null>(null);
  const [pinning, setPinning] = useState(false);
  const [fresh, setFresh] = useState<Fresh | null>(null);
  const [taking, setTaking] = useState(false);

  const kept = history.data ?? [];
  const { search, put, revision, against, numberOf } = useInAddress(kept);
  const { all, frame, show: keepFrame } = useShownFrame(search.get("frame"));
  const numbers = useMemo(() => new Map(notes.map((n, k) => [n.id, k + 1])), [notes]);
  const name = look.data?.name;

  useEffect(() => {
    if (!name) return;
    document.title = `${name} · Saucer`;
    void got(server.POST("/api/catalogue/{look_id}/visit", { params: { path: { look_id: id } } })).catch(
      () => undefined,
    );
  }, [name, id]);

  const show = (frameId: number) => {
    keepFrame(frameId);
    put("frame", String(frameId));
  };
  const { player, moving } = useClip(frame);
  const number = revision?.number;
  useFrameKeys(all, frame, show, (e) => {
    if (e.key.toLowerCase() === "p" && frame) {
      setFresh(null);
      setPinning(true);
    } else if (e.key === "Escape" && pinning) setPinning(false);
    else if (/^[1-4]$/.test(e.key)) setMode(MODES[Number(e.key) - 1]!);
    else return false;
    return true;
  });
  if (!look.data || !history.data) {
    return (
      <Page>
        <TopBar />
        <main>
          <Waiting query={look.data ? history : look} what="look" />
        </main>
      </Page>
    );
  }
  const card = cards?.[0];
  return (
    <Page>
      <TopBar>
        <Grow />
        <Acts look={id} card={card} revision={revision} frame={frame?.id} />
      </TopBar>
      {!revision ? (
        <main>
          <Said>{look.data.name} has no revision yet. It is on the bench.</Said>
        </main>
      ) : (
        <Body>
          <Revisions
            kept={kept}
            shown={revision.id}
            against={against?.id ?? null}
            onShow={(key) => put("r", numberOf(key))}
            onAgainst={(key) => {
              put("against", numberOf(key));
              if (key !== null && mode !== "difference") setMode("split");
            }}
          >
            <Changed revision={revision} against={against} />
            {look.data.may_edit ? (
              <Button look="quiet" onPress={() => setTaking(true)}>
                Take over from r{revision.number}
              </Button>
            ) : null}
          </Revisions>
          <main>
            <FrameStrip frames={all} chosen={frame?.id ?? null} revision={revision} onChoose={show} />
            <div className="picture">
              {frame ? (
                <Seen
                  frame={frame}
                  revision={revision}
                  against={against}
                  mode={mode}
                  strength={settled}
                  notes={notes}
                  numbers={numbers}
                  chosen={chosen}
                  onChoose={setChosen}
                  pinning={pinning}
                  moving={moving}
                  onSpot={(spot) => {
                    setPinning(false);
                    setFresh({ frame: frame.id, spot });
                  }}
                />
              ) : (
                <Said>Add a frame to see the look on it.</Said>
              )}
            </div>
            <PlayBar player={player} />
            <Seeing
              revision={revision}
              mode={mode}
              onMode={setMode}
              onStrength={setSettled}
              pinning={pinning}
            />
            <About look={look.data} revision={revision} card={card} />
          </main>
          <aside className="right" aria-label={`About revision ${number}`}>
            <Deciding look={look.data} revision={revision} />
            <Notes
              look={id}
              revision={revision}
              notes={notes}
              numbers={numbers}
              chosen={chosen}
              fresh={fresh}
              frameName={(f) => all.find((x) => x.id === f)?.name ?? "a frame that is gone"}
              onChoose={(n) => {
                setChosen(n.id);
                if (n.frame !== null && all.some((f) => f.id === n.frame)) show(n.frame);
              }}
              onBegin={() => (frame ? setPinning(true) : setFresh({ frame: null, spot: null }))}
              onDone={() => setFresh(null)}
            />
            <UsedIn look={id} />
            <FilesBaked look={id} />
            <Origin look={look.data} />
            <Similar key={id} look={id} name={look.data.name} />
          </aside>
        </Body>
      )}
      {taking && revision ? (
        <Taking look={look.data} from={revision} frame={frame} onClose={() => setTaking(false)} />
      ) : null}
    </Page>
  );
}
