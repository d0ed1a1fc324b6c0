/**
 * The wall: all shots under their looks by scene, what stands out of its scene and the trim that mends it,
 * and newer revisions.
 */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { Button as AriaButton } from "react-aria-components";
import { useSearchParams } from "react-router";
import { KeyCap } from "../kit/keycap";
import styled from "styled-components";
import type { OnWall, Project, Shot, Wall as Walled } from "../api/types";
import { Empty } from "../kit/empty";
import { Grow, Quiet } from "../kit/layout";
import { Page } from "../kit/topbar";
import { Waiting } from "../kit/waiting";
import { Wrong } from "../kit/wrong";
import { around } from "../kit/partshown";
import { askedOfProject, stillOf } from "./asked";
import { Offers } from "./aside";
import { ProjectBar } from "./bar";
import { Closer } from "./closer";
import { forget, trouble, useDoing, type Doing } from "./doing";
import { Layers } from "./layers";
import { useShownProject } from "./project";
import { RollOut } from "./rollout";
import { ShotSheet } from "./shotsheet";
import { TwoShots } from "./twoshots";
import { FIGURES, Mark } from "./mark";

const Body = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
  main {
    flex: 1;
    min-width: 0;
    overflow-y: auto;
    padding: 0 18px 18px;
  }
  .head {
    display: flex;
    gap: 14px;
    align-items: center;
    padding: 12px 0;
    border-bottom: 1px solid var(--line);
    position: sticky;
    top: 0;
    background: var(--g0);
    z-index: 1;
  }
  .warn {
    color: var(--warn);
  }
  .keys {
    display: flex;
    gap: 16px;
    color: var(--t2);
    font-size: 12px;
    padding-top: 16px;
  }
  aside {
    width: 324px;
    flex: none;
    border-left: 1px solid var(--line);
    background: var(--g1);
    padding: 14px 16px;
    overflow-y: auto;
  }
`;
const Row = styled.section`
  display: grid;
  grid-template-columns: 128px 1fr;
  gap: 12px;
  padding: 12px 0;
  border-bottom: 1px solid var(--line);
  .scene {
    display: grid;
    gap: 8px;
    align-content: start;
    min-width: 0;
  }
  .scene h2 {
    font-size: 14px;
    color: var(--t1);
  }
  .shots {
    display: flex;
    flex-wrap: wrap;
    gap: 10px 6px;
    min-width: 0;
  }
`;
const Tile = styled(AriaButton)`
  border: 0;
  padding: 0;
  background: none;
  cursor: pointer;
  text-align: left;
  border-radius: 3px;
  width: 118px;
  img {
    width: 118px;
    height: 66px;
    object-fit: cover;
    border-radius: 3px;
    display: block;
    background: var(--field);
  }
  &.out img {
    outline: 2px solid var(--warn);
    outline-offset: 1px;
  }
  &.picked img {
    outline: 2px solid var(--accent);
    outline-offset: 1px;
  }
  &[data-focus-visible] {
    outline: none;
  }
  &[data-focus-visible] img {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
  > span {
    display: flex;
    align-items: center;
    gap: 4px;
    padding-top: 4px;
    color: var(--t2);
    font-size: 12px;
  }
  svg {
    margin-left: auto;
  }
`;

export default function Wall() {
  const { data, waiting } = useShownProject();
  return data ? <Shots data={data} /> : waiting;
}

const TYPING = "input, textarea, [role=option], [role=slider]";

/** N goes to the next shot that is to be looked at, Escape lets go of it. */
function useNext(out: OnWall[], picked: number | null, pick: (shot: number | null) => void) {
  const pressed = (e: KeyboardEvent) => {
    if (e.target instanceof HTMLElement && e.target.matches(TYPING)) return;
    if (e.ctrlKey || e.metaKey || e.altKey || document.querySelector("[role=dialog]")) return;
    if (e.key.toLowerCase() === "n" && out.length) {
      const k = out.findIndex((s) => s.shot === picked);
      pick(out[(k + 1) % out.length]!.shot);
      e.preventDefault();
    }
    if (e.key === "Escape") pick(null);
  };
  const latest = useRef(pressed);
  useLayoutEffect(() => {
    latest.current = pressed;
  });
  useEffect(() => {
    const heard = (e: KeyboardEvent) => latest.current(e);
    window.addEventListener("keydown", heard);
    return () => window.removeEventListener("keydown", heard);
  }, []);
}

/** A scene: its shots side by side, and the one that is looked at closer. */
function SceneRow(props: {
  project: Project;
  scene: Walled;
  byId: Map<number, Shot>;
  picked: number | null;
  doing: Doing;
  onPick: (shot: number, several: boolean) => void;
  onTrim: (shot: number) => void;
  onBeside: (shot: number, other: number) => void;
  onClose: () => void;
}) {
  const { project, scene, picked } = props;
  const row = project.scenes.find((s) => s.id === scene.scene);
  const inside = scene.shots.flatMap((on) => {
    const shot = props.byId.get(on.shot);
    return shot ? [{ on, shot }] : [];
  });
  const open = inside.find((s) => s.shot.id === picked);
  const said = ({ apart }: OnWall) => (apart.length ? `: ${apart.map((a) => a.text).join(", ")}` : "");
  return (
    <div>
      <Row aria-label={row?.name ?? "In no scene"}>
        <div className="scene">
          <h2>{row?.name ?? "In no scene"}</h2>
          {row?.puts ? <Layers puts={row.puts} size={30} /> : null}
        </div>
        <div className="shots">
          {inside.map(({ on, shot }) => (
            <Tile
              key={shot.id}
              className={`${on.apart.length ? "out" : ""} ${picked === shot.id ? "picked" : ""}`}
              aria-pressed={picked === shot.id}
              aria-label={`${shot.number} ${shot.name}${said(on)}`}
              onPress={(e) => props.onPick(shot.id, e.shiftKey)}
            >
              <img src={stillOf(project.id, shot)} alt="" loading="lazy" style={around(shot.frame.part)} />
              <span>
                {shot.number}
                {FIGURES.map((what) => (
                  <Mark key={what} on={on} scene={scene} what={what} />
                ))}
              </span>
            </Tile>
          ))}
        </div>
      </Row>
      {open ? (
        <Closer
          key={open.shot.id}
          project={project}
          shot={open.shot}
          on={open.on}
          scene={scene}
          doing={props.doing}
          onTrim={() => props.onTrim(open.shot.id)}
          onBeside={(other) => props.onBeside(open.shot.id, other)}
          onClose={props.onClose}
        />
      ) : null}
    </div>
  );
}

function Shots({ data }: { data: Project }) {
  const id = data.id;
  const wall = useQuery(askedOfProject.wall(id));
  const doing = useDoing(data);
  const [search, setSearch] = useSearchParams();
  const [picked, setPicked] = useState<number | null>(null);
  const [pair, setPair] = useState<number[]>([]);
  const [trimming, setTrimming] = useState<number | null>(null);
  const now = Number(search.get("now")) || null;
  const then = Number(search.get("then")) || null;
  const byId = useMemo(() => new Map(data.shots.map((s) => [s.id, s])), [data.shots]);
  const out = useMemo(
    () => (wall.data ?? []).flatMap((s) => s.shots).filter((s) => s.apart.length),
    [wall.data],
  );
  useEffect(() => {
    document.title = `Wall of ${data.name} · Saucer`;
  }, [data.name]);
  const pick = (shot: number, several: boolean) => {
    if (several && picked !== null && picked !== shot) setPair([picked, shot]);
    else setPicked(picked === shot ? null : shot);
  };
  useNext(out, picked, setPicked);
  const wrong = trouble(doing);
  const shown = trimming === null ? undefined : byId.get(trimming);
  const scenes = (wall.data ?? []).filter((s) => s.shots.length);
  return (
    <Page>
      <ProjectBar project={id} />
      <Wrong error={wrong} onDismiss={() => forget(doing)} />
      <Body>
        <main>
          <div className="head">
            <h1>{data.name}</h1>
            <Quiet>
              {data.shots.length} shots in {data.scenes.length}{" "}
              {data.scenes.length === 1 ? "scene" : "scenes"}
            </Quiet>
            <Grow />
            <Quiet>under each shot: skin, grey, tone; the bar is its scene</Quiet>
            {out.length ? (
              <span className="warn" role="status">
                {out.length} to look at
              </span>
            ) : null}
          </div>
          {wall.data ? null : <Waiting query={wall} what="wall" />}
          {scenes.map((scene) => (
            <SceneRow
              key={scene.scene ?? 0}
              project={data}
              scene={scene}
              byId={byId}
              picked={picked}
              doing={doing}
              onPick={pick}
              onTrim={setTrimming}
              onBeside={(one, other) => setPair([one, other])}
              onClose={() => setPicked(null)}
            />
          ))}
          {wall.data && !scenes.length ? (
            <Empty title="No shots yet">Add shots in the rows; they hang here under their looks.</Empty>
          ) : null}
          <div className="keys">
            <span>
              <KeyCap>N</KeyCap> next to look at
            </span>
            <span>
              <KeyCap>Tab</KeyCap> shot
            </span>
            <span>
              <KeyCap>Shift</KeyCap> and press: two shots beside each other
            </span>
          </div>
        </main>
        {now && then ? (
          <RollOut project={data} now={now} then={then} doing={doing} onDone={() => setSearch({})} />
        ) : (
          <aside aria-label="Newer revisions">
            <Offers project={data} doing={doing} />
          </aside>
        )}
      </Body>
      {pair.length === 2 ? (
        <TwoShots
          project={data}
          shots={pair.map((p) => byId.get(p)).filter((s): s is Shot => !!s)}
          onClose={() => setPair([])}
        />
      ) : null}
      {shown ? (
        <ShotSheet
          key={shown.id}
          project={data}
          shot={shown}
          doing={doing}
          copied={null}
          onCopy={() => undefined}
          onClose={() => setTrimming(null)}
        />
      ) : null}
    </Page>
  );
}
