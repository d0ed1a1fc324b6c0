/** The reel as one band by scene: shots as wide as they are long, where it plays, and the notes on it. */
import { useQueries } from "@tanstack/react-query";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import { useStore } from "zustand";
import type { ReelNote } from "../api/types";
import { Quiet } from "../kit/layout";
import { around } from "../kit/partshown";
import { stillOf } from "../projects/asked";
import type { Figure } from "../projects/plot";
import { askedOfReel } from "./asked";
import { EvenLine } from "./line";
import type { Reel } from "./reeling";
import type { Stretch, Take } from "./takes";

/** Pixels of the shortest shot. */
const LEAST = 18;

const Scroll = styled.div`
  display: flex;
  gap: 10px;
  overflow-x: auto;
  padding: 2px 2px 4px;
  scrollbar-width: thin;
`;
const Part = styled.section`
  min-width: 0;
  h2 {
    font-size: 12.5px;
    font-weight: 600;
    height: 20px;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;
const Shots = styled.div`
  display: flex;
  gap: 1px;
`;
const Cell = styled(AriaButton)`
  position: relative;
  padding: 0;
  border: 0;
  background: none;
  cursor: pointer;
  min-width: ${LEAST}px;
  color: var(--t2);
  font-size: 11.5px;
  text-align: left;
  outline: none;
  img {
    display: block;
    width: 100%;
    height: 34px;
    object-fit: cover;
    border-radius: 2px;
    background: var(--field);
  }
  &[aria-current="true"] {
    color: var(--t1);
    img {
      box-shadow: 0 0 0 2px var(--t1);
    }
  }
  &[data-focus-visible] img {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
  .note {
    position: absolute;
    top: 8px;
    width: 18px;
    height: 18px;
    margin-left: -9px;
    border-radius: 50%;
    border: 1.5px solid var(--white);
    background: var(--over);
    color: var(--white);
    font-size: 11px;
    line-height: 15px;
    text-align: center;
  }
  .note[data-settled] {
    opacity: 0.5;
  }
`;
const Head = styled.span`
  position: absolute;
  top: -3px;
  width: 2px;
  height: 40px;
  margin-left: -1px;
  background: var(--white);
  pointer-events: none;
`;

function Playhead({ reel, take }: { reel: Reel; take: Take }) {
  const share = useStore(reel.state, (s) =>
    take.rate ? (s.number - take.first) / Math.max(take.last - take.first, 1) : s.shown / take.seconds,
  );
  return <Head style={{ left: `${Math.min(Math.max(share, 0), 1) * 100}%` }} />;
}

interface Props {
  project: number;
  stretches: readonly Stretch[];
  reel: Reel;
  /** The shot that is shown. */
  here: number | null;
  notes: readonly ReelNote[];
  what: Figure;
  onGo: (shot: number) => void;
}

function OneShot(props: Props & { take: Take }) {
  const { take, reel, here, notes } = props;
  const { shot } = take;
  const on = notes.map((note, k) => ({ note, number: k + 1 })).filter(({ note }) => note.shot === shot.id);
  const left = (note: ReelNote) =>
    take.rate ? (note.first - take.first) / Math.max(take.last - take.first, 1) : 0.5;
  return (
    <Cell
      style={{ flex: `${take.seconds} 1 0` }}
      aria-current={here === shot.id}
      onPress={(e) => {
        const share =
          e.pointerType === "keyboard" || e.pointerType === "virtual" ? 0 : e.x / e.target.clientWidth;
        reel.seek(take.begin + Math.min(Math.max(share, 0), 0.999) * take.seconds);
      }}
    >
      <img
        src={stillOf(props.project, shot, 160)}
        alt=""
        loading="lazy"
        draggable={false}
        style={around(shot.frame.part)}
      />
      {shot.number}
      <span className="unseen">
        {" "}
        {shot.name}
        {on.length ? `, ${on.length} ${on.length === 1 ? "note" : "notes"}` : ""}
      </span>
      {on.map(({ note, number }) => (
        <span
          key={note.id}
          className="note"
          aria-hidden
          data-settled={note.settled_by ? true : undefined}
          style={{ left: `${Math.min(Math.max(left(note), 0.1), 0.9) * 100}%` }}
        >
          {number}
        </span>
      ))}
      {here === shot.id ? <Playhead reel={reel} take={take} /> : null}
    </Cell>
  );
}

export function Band(props: Props) {
  const { project, stretches } = props;
  const cuts = useQueries({
    queries: stretches.map(({ scene }) => askedOfReel.scene(project, scene?.id ?? 0)),
  });
  return (
    <Scroll>
      {stretches.map(({ scene, takes }, k) => {
        const seconds = takes.reduce((sum, t) => sum + t.seconds, 0);
        const on = cuts[k]?.data;
        return (
          <Part
            key={scene?.id ?? 0}
            aria-label={scene?.name ?? "In no scene"}
            style={{ flex: `${seconds} 1 ${takes.length * (LEAST + 1)}px` }}
          >
            <h2>{scene?.name ?? "In no scene"}</h2>
            <Shots>
              {takes.map((take) => (
                <OneShot key={take.shot.id} {...props} take={take} />
              ))}
            </Shots>
            {on ? (
              <EvenLine scene={on} takes={takes} what={props.what} onGo={props.onGo} />
            ) : (
              <Quiet role="status">
                {cuts[k]?.error ? "its cuts cannot be measured" : "measuring its cuts …"}
              </Quiet>
            )}
          </Part>
        );
      })}
    </Scroll>
  );
}
