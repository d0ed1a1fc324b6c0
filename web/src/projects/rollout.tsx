/**
 * Another revision for shots: each now, then, and where they differ, the biggest change first; all, some or
 * none go over.
 */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { got, server } from "../api/client";
import type { Project, Revision, Shot, ShotChange } from "../api/types";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Grow, Quiet, Said } from "../kit/layout";
import { Saucer, saucerOf } from "../kit/saucer";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { around } from "../kit/partshown";
import { askedOfLook } from "../look/asked";
import { askedOfProject, stillOf } from "./asked";
import type { Doing } from "./doing";
import { RollOutMotion } from "./rolloutmotion";
import { Tick } from "./tick";

const Box = styled.aside`
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding-bottom: 0 !important;
  .which {
    display: flex;
    gap: 10px;
    align-items: center;
  }
  .three {
    display: grid;
    grid-template-columns: 1fr 1fr 1fr;
    gap: 4px;
  }
  .three img {
    width: 100%;
    aspect-ratio: 16/9;
    object-fit: cover;
    border-radius: 3px;
    display: block;
    background: var(--field);
  }
  .heads {
    color: var(--t2);
    font-size: 12px;
  }
  ul {
    list-style: none;
    padding: 0;
    display: grid;
    gap: 10px;
  }
  .name {
    display: flex;
    gap: 8px;
    padding-bottom: 4px;
    align-items: center;
    min-width: 0;
  }
  footer {
    position: sticky;
    bottom: 0;
    background: var(--g1);
    border-top: 1px solid var(--line);
    margin: 0 -16px;
    padding: 10px 16px;
    display: flex;
    gap: 8px;
    flex-wrap: wrap;
  }
`;

/** ΔE that the difference picture shows as white. */
const FULL = 6;

/** A shot now, then, and where they differ; a shot of a clip can be played. */
function Changed(props: {
  project: number;
  shot: Shot;
  now: Revision;
  then: Revision;
  change: ShotChange;
  taken: boolean;
  onTake: (on: boolean) => void;
  onPlay: () => void;
}) {
  const { shot, now, then, change } = props;
  const query = `now=${now.id}&revision=${then.id}&width=192&v=${shot.version}`;
  const at = `/api/projects/${props.project}/shots/${shot.id}`;
  return (
    <li>
      <div className="name">
        <Tick isSelected={props.taken} onChange={props.onTake}>
          {shot.number} · {shot.name}
        </Tick>
        <Grow />
        <Quiet>
          ΔE {change.mean.toFixed(1)}, up to {change.most.toFixed(1)}
        </Quiet>
        {shot.frame.clip === null ? null : (
          <Button look="quiet" aria-label={`Play ${shot.name} now and then`} onPress={props.onPlay}>
            Play
          </Button>
        )}
      </div>
      <div className="three">
        <img
          src={stillOf(props.project, shot, 192)}
          alt={`${shot.name} now`}
          loading="lazy"
          style={around(shot.frame.part)}
        />
        <img
          src={`${at}/then?${query}`}
          alt={`${shot.name} with r${then.number}`}
          loading="lazy"
          style={around(shot.frame.part)}
        />
        <img
          src={`${at}/apart?${query}&full=${FULL}`}
          alt={`${shot.name}, difference`}
          loading="lazy"
          style={around(shot.frame.part)}
        />
      </div>
    </li>
  );
}

export function RollOut(props: {
  project: Project;
  now: number;
  then: number;
  doing: Doing;
  onDone: () => void;
}) {
  const { project, doing } = props;
  const [then, setThen] = useState(props.then);
  const now = useQuery({
    queryKey: ["revision", props.now],
    queryFn: () =>
      got(server.GET("/api/revisions/{revision_id}", { params: { path: { revision_id: props.now } } })),
  });
  const other = useQuery({
    queryKey: ["revision", then],
    queryFn: () =>
      got(server.GET("/api/revisions/{revision_id}", { params: { path: { revision_id: then } } })),
  });
  const history = useQuery({ ...askedOfLook.history(now.data?.look_id ?? 0), enabled: !!now.data });
  const changed = useQuery(askedOfProject.changed(project.id, props.now, then));
  const [played, setPlayed] = useState<Shot | null>(null);
  const [without, setWithout] = useState<Set<number>>(new Set());
  const rows = changed.data ?? [];
  const wanted = rows.filter((r) => !without.has(r.shot)).map((r) => r.shot);
  const others = (history.data ?? []).map((h) => h.revision).filter((r) => r.id !== props.now);
  const next = other.data;
  const successor = next && now.data && next.look_id !== now.data.look_id;
  const go = (shots: number[]) =>
    doing.rollOut.mutate({ now: props.now, then, shots }, { onSuccess: props.onDone });
  const by = new Map(project.shots.map((s) => [s.id, s]));
  if (!now.data) return <Box aria-label="Another revision">{<Waiting query={now} what="revision" />}</Box>;
  return (
    <Box aria-label="Another revision">
      <div className="which">
        {next ? <Saucer src={saucerOf(next)} size={36} /> : null}
        <span>
          <b>
            {next?.look_name ?? now.data.look_name} r{next?.number ?? ""}{" "}
            {successor ? "succeeds it" : next && next.number < now.data.number ? "is older" : "is newer"}
          </b>
          <br />
          <Quiet>
            {rows.length} {rows.length === 1 ? "shot is" : "shots are"} on{" "}
            {successor ? `${now.data.look_name} ` : ""}r{now.data.number}
          </Quiet>
        </span>
        <Grow />
        <Choice
          look="bare"
          hidden
          label="Which revision"
          chosen={String(then)}
          onChange={(key) => setThen(Number(key))}
          options={[...others, ...(next && !others.some((r) => r.id === next.id) ? [next] : [])].map((r) => ({
            key: String(r.id),
            label: r.look_id === now.data.look_id ? `r${r.number}` : `${r.look_name} r${r.number}`,
            note: r.status,
          }))}
        />
      </div>
      <div className="three heads">
        <span>now, r{now.data.number}</span>
        <span>r{next?.number}</span>
        <span>white: ΔE {FULL}</span>
      </div>
      {changed.data ? null : <Waiting query={changed} what="change of each shot" />}
      {changed.data && !rows.length ? <Said>No shot is on r{now.data.number} any more.</Said> : null}
      <ul aria-label="What would change">
        {rows.map((r) => {
          const shot = by.get(r.shot);
          return shot && now.data && next ? (
            <Changed
              key={r.shot}
              project={project.id}
              shot={shot}
              now={now.data}
              then={next}
              change={r}
              taken={!without.has(r.shot)}
              onTake={(on) =>
                setWithout((last) => new Set(on ? [...last].filter((s) => s !== r.shot) : [...last, r.shot]))
              }
              onPlay={() => setPlayed(shot)}
            />
          ) : null;
        })}
      </ul>
      <Trouble error={changed.error ?? history.error} />
      {played && next ? (
        <RollOutMotion
          project={project.id}
          shot={played}
          now={now.data}
          then={next}
          full={FULL}
          onClose={() => setPlayed(null)}
        />
      ) : null}
      <footer>
        <Button look="main" isDisabled={!wanted.length || doing.rollOut.isPending} onPress={() => go(wanted)}>
          Accept {wanted.length === rows.length ? `all ${rows.length}` : `${wanted.length} of ${rows.length}`}
        </Button>
        <Button isDisabled={doing.rollOut.isPending} onPress={() => go([])}>
          Stay on r{now.data.number}
        </Button>
        <Button look="quiet" onPress={props.onDone}>
          Close
        </Button>
      </footer>
    </Box>
  );
}
