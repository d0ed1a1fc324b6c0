/** The reel: a project played in order under its looks, its cuts, and the notes on its moments. */
import { useQueries, useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import { useStore } from "zustand";
import type { Project } from "../api/types";
import { Empty } from "../kit/empty";
import { KeyCap } from "../kit/keycap";
import { lengthWords } from "../kit/duration";
import { Grow, Quiet } from "../kit/layout";
import { Segments } from "../kit/segments";
import { Page } from "../kit/topbar";
import { Wrong } from "../kit/wrong";
import type { Player } from "../player/player";
import { askedOfProject } from "../projects/asked";
import { ProjectBar } from "../projects/bar";
import { forget, trouble, useDoing } from "../projects/doing";
import type { Figure } from "../projects/plot";
import { useShownProject } from "../projects/project";
import { askedOfReel } from "./asked";
import { Band } from "./band";
import { JumpLine } from "./jump";
import { useReelKeys } from "./keys";
import { MakeReview } from "./makereview";
import { useNoting } from "./noting";
import { ReelNotes } from "./notes";
import { Pins } from "./pins";
import { PlayLine } from "./playline";
import { Reel } from "./reeling";
import { Seeing, useSeen } from "./seeing";
import { Shown } from "./shown";
import { stretchesOf, type Take } from "./takes";

const Body = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
  main {
    flex: 1;
    min-width: 0;
    min-height: 0;
    display: flex;
    flex-direction: column;
    gap: 6px;
    padding: 10px 18px 8px;
  }
  aside {
    width: 312px;
    flex: none;
    overflow-y: auto;
    padding: 14px 16px;
    border-left: 1px solid var(--line);
  }
`;
const Head = styled.div`
  display: flex;
  align-items: center;
  gap: 12px;
  h1 {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  > span {
    white-space: nowrap;
  }
`;
const Picture = styled.div`
  flex: 1;
  min-height: 160px;
  position: relative;
  border-radius: 4px;
  overflow: hidden;
`;
const Foot = styled.div`
  display: flex;
  align-items: center;
  gap: 12px;
  font-size: 12px;
  color: var(--t2);
  white-space: nowrap;
`;
const FIGURES: readonly (readonly [Figure, string])[] = [
  ["tone", "tone"],
  ["grey", "grey"],
  ["skin", "skin"],
];

export default function ReelPage() {
  const { data, waiting } = useShownProject();
  return data ? <Playing data={data} /> : waiting;
}

/** The reel of the project's shots; the same one while they change. */
function useReel(takes: readonly Take[]): Reel {
  const [reel] = useState(() => new Reel(takes));
  useEffect(() => reel.renew(takes), [reel, takes]);
  useEffect(() => () => reel.close(), [reel]);
  return reel;
}

/** The jumps inside the scenes, by shot. */
function useJumps(project: Project, scenes: readonly number[]) {
  const asked = useQueries({ queries: scenes.map((scene) => askedOfReel.scene(project.id, scene)) });
  const on = asked.flatMap((q) => q.data?.shots ?? []);
  return { on, jumping: on.filter((one) => one.jumps.length) };
}

function Playing({ data }: { data: Project }) {
  const stretches = useMemo(() => stretchesOf(data), [data]);
  const takes = useMemo(() => stretches.flatMap((s) => s.takes), [stretches]);
  useEffect(() => {
    document.title = `Reel of ${data.name} · Saucer`;
  }, [data.name]);
  return (
    <Page>
      <ProjectBar project={data.id}>{takes.length ? <MakeReview project={data} /> : null}</ProjectBar>
      {takes.length ? (
        <Played data={data} stretches={stretches} takes={takes} />
      ) : (
        <main>
          <h1 className="unseen">{data.name}</h1>
          <Empty title="No shots yet">
            Add shots in the rows; they play here in order under their looks.
          </Empty>
        </main>
      )}
    </Page>
  );
}

/** Goes to the shot that the address names, once. */
function useAsked(reel: Reel, takes: readonly Take[]) {
  const [search] = useSearchParams();
  const shot = Number(search.get("shot")) || null;
  useEffect(() => {
    const index = takes.findIndex((t) => t.shot.id === shot);
    if (index >= 0) reel.go(index);
    // The shots may change later; the address is followed once.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [reel, shot]);
}

function Keys() {
  return (
    <>
      <span>
        <KeyCap>N</KeyCap> next
      </span>
      <span>
        <KeyCap>C</KeyCap> cut
      </span>
      <span>
        hold <KeyCap>O</KeyCap> original
      </span>
    </>
  );
}

/** The player of each shot that is made ready, as long as it is there. */
function usePlayers(reel: Reel) {
  const [players, setPlayers] = useState<ReadonlyMap<number, Player>>(new Map());
  const meet = useCallback(
    (shot: number, player: Player | null) => {
      reel.meet(shot, player);
      setPlayers((now) => {
        const next = new Map(now);
        if (player) next.set(shot, player);
        else next.delete(shot);
        return next;
      });
    },
    [reel],
  );
  return { players, meet };
}

function Played(props: { data: Project; stretches: ReturnType<typeof stretchesOf>; takes: Take[] }) {
  const { data, stretches, takes } = props;
  const reel = useReel(takes);
  useAsked(reel, takes);
  const index = Math.min(
    useStore(reel.state, (s) => s.index),
    takes.length - 1,
  );
  const take = takes[index]!;
  const doing = useDoing(data);
  const view = useSeen();
  const [what, setWhat] = useState<Figure>("tone");
  const noting = useNoting(data, takes, reel);
  const { notes, chosen, picking } = noting;
  const { players, meet } = usePlayers(reel);
  const { data: offers = [] } = useQuery(askedOfProject.offers(data.id));
  const { on, jumping } = useJumps(
    data,
    stretches.map((s) => s.scene?.id ?? 0),
  );
  const goTo = (shot: number) => reel.go(takes.findIndex((t) => t.shot.id === shot));
  const nextJump = () => {
    const places = jumping.map((j) => takes.findIndex((t) => t.shot.id === j.shot)).sort((a, b) => a - b);
    const to = places.find((p) => p > index) ?? places[0];
    if (to !== undefined) reel.go(to);
  };
  useReelKeys(reel, { nextJump, pin: noting.begin, original: view.setHeld, leave: noting.end });
  const jump = on.find((one) => one.shot === take.shot.id && one.jumps.length);
  const newer = offers.flatMap((o) => o.shots).length;
  // The next shot is made ready behind the one that is shown.
  const ready = [take, takes[index + 1]].filter((t): t is Take => !!t);
  return (
    <Body>
      <main>
        <Head>
          <h1>{data.name}</h1>
          <Quiet>
            {takes.length} {takes.length === 1 ? "shot" : "shots"},{" "}
            {lengthWords(takes.reduce((sum, t) => sum + t.seconds, 0))}
          </Quiet>
          <Grow />
          <Seeing view={view} newer={newer} />
        </Head>
        <Wrong error={trouble(doing)} onDismiss={() => forget(doing)} />
        <Picture>
          {ready.map((t) => (
            <Shown
              key={t.shot.id}
              project={data.id}
              take={t}
              active={t === take}
              seen={view.seen}
              note={view.then}
              picking={picking}
              onPlayer={meet}
              onPoint={noting.place}
            >
              <Pins
                reel={reel}
                shot={t.shot.id}
                notes={notes}
                chosen={chosen}
                picking={picking}
                onChoose={noting.choose}
                onSpot={noting.place}
              />
            </Shown>
          ))}
        </Picture>
        <PlayLine reel={reel} take={take} player={players.get(take.shot.id) ?? null} />
        <Band
          project={data.id}
          stretches={stretches}
          reel={reel}
          here={take.shot.id}
          notes={notes}
          what={what}
          onGo={goTo}
        />
        <JumpLine
          project={data.id}
          before={takes[index - 1]?.shot}
          shot={take.shot}
          on={jump}
          doing={doing}
        />
        <Foot>
          <span>evenness of</span>
          <Segments label="Evenness of" chosen={what} onChange={setWhat} options={FIGURES} />
          <Grow />
          <span role="status">
            {jumping.length} {jumping.length === 1 ? "jump" : "jumps"} inside scenes
          </span>
          <Keys />
        </Foot>
      </main>
      <aside>
        {picking ? (
          <Quiet role="status">Press the spot in the picture, or move it by arrows and press Enter.</Quiet>
        ) : null}
        <ReelNotes
          project={data.id}
          notes={notes}
          takes={takes}
          chosen={chosen}
          then={view.then}
          fresh={noting.fresh}
          onChoose={noting.choose}
          onThen={(note) => {
            noting.choose(note);
            view.setThen(view.then === note.id ? null : note.id);
          }}
          onBegin={noting.begin}
          onDone={noting.end}
        />
      </aside>
    </Body>
  );
}
