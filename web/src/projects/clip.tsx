/** A clip and where it is cut: shots that were found are corrected by hand, then taken into the project. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useWrite } from "../api/writes";
import type { Clip, EncodingKey, Project } from "../api/types";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { EncodingChoice } from "../kit/encodingchoice";
import { Grow, Quiet, Said, Warned } from "../kit/layout";
import { NumberBox } from "../kit/numberbox";
import { Page } from "../kit/topbar";
import { ToBin } from "../kit/tobin";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { Fields } from "../player/fields";
import { askedOfProject, UNDER_WAY } from "./asked";
import { ProjectBar } from "./bar";
import { useShownProject } from "./project";
import { Tick } from "./tick";

const Body = styled.main`
  padding: 14px 18px;
  display: flex;
  flex-direction: column;
  gap: 14px;
  .head,
  .line {
    display: flex;
    gap: 14px;
    align-items: center;
    flex-wrap: wrap;
  }
  ul {
    list-style: none;
    padding: 0;
  }
  li {
    display: grid;
    grid-template-columns: 26px 150px minmax(0, 1fr) 216px;
    gap: 14px;
    align-items: center;
    padding: 10px 0;
    border-bottom: 1px solid var(--line);
  }
  .here {
    width: 128px;
    height: 72px;
    object-fit: cover;
    border-radius: 3px;
  }
  small {
    color: var(--t2);
    display: block;
  }
`;

const Strip = styled.span`
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  gap: 4px;
  img {
    width: 100%;
    aspect-ratio: 16/9;
    object-fit: cover;
    border-radius: 3px;
    background: var(--field);
    display: block;
  }
`;
const Acts = styled.span`
  display: flex;
  align-items: center;
  gap: 6px;
`;

/** Frames that show what a shot is: its first, its last, and three between. */
const shownOf = (first: number, last: number) =>
  [0, 0.25, 0.5, 0.75, 1].map((t) => Math.round(first + t * (last - first)));

export default function ClipScreen() {
  const { data, waiting } = useShownProject();
  const clip = useQuery(askedOfProject.clip(Number(useParams().clip)));
  useEffect(() => {
    document.title = `${clip.data?.name ?? "Clip"} · Saucer`;
  }, [clip.data?.name]);
  if (!data) return waiting;
  return (
    <Page>
      <ProjectBar project={data.id} />
      {!clip.data ? (
        <main>
          <Waiting query={clip} what="clip" />
        </main>
      ) : clip.data.facts ? (
        <Cuts key={clip.data.encoding} project={data} clip={clip.data} />
      ) : (
        <Body>
          <h1>{clip.data.name}</h1>
          {UNDER_WAY.has(clip.data.job.state) ? (
            <Said role="status">
              Looking it through
              {clip.data.job.total ? `: ${clip.data.job.done} of ${clip.data.job.total} frames` : " …"}
            </Said>
          ) : (
            <Warned role="alert">
              {clip.data.job.reason || "Looking it through was stopped. Bring it in again."}
            </Warned>
          )}
        </Body>
      )}
    </Page>
  );
}

const stillOf = (clip: Clip, frame: number) =>
  `/api/clips/${clip.id}/still?frame=${frame}&width=192&v=${clip.encoding}`;

/** Takes parts of the clip into the project; a worker cuts them. scene: into which. */
function useTaking(project: Project, clip: Clip, scene: number | null) {
  const navigate = useNavigate();
  const [job, setJob] = useState<number | null>(null);
  const follow = useQuery({
    queryKey: ["jobs", job],
    queryFn: () => got(server.GET("/api/jobs/{job_id}", { params: { path: { job_id: job! } } })),
    enabled: job !== null,
    refetchInterval: (query) => (UNDER_WAY.has(query.state.data?.state ?? "waiting") ? 500 : false),
  });
  const take = useWrite(
    (firsts: number[]) =>
      got(
        server.POST("/api/projects/{project_id}/cut", {
          params: { path: { project_id: project.id } },
          body: { clip: clip.id, firsts, scene },
        }),
      ),
    [],
    (made) => setJob(made.id),
  );
  const done = follow.data?.state === "done";
  const arrive = useWrite(
    () => Promise.resolve(),
    ["project", "projects"],
    () => void navigate(`/projects/${project.id}`),
  );
  const arrived = arrive.mutate;
  useEffect(() => {
    if (done) arrived();
  }, [done, arrived]);
  const busy = take.isPending || (job !== null && UNDER_WAY.has(follow.data?.state ?? "waiting"));
  return { take, follow, busy };
}

/** A part of the clip between two cuts. place: from 0 on. */
function Part(props: {
  clip: Clip;
  place: number;
  taken: boolean;
  onTake: (on: boolean) => void;
  onCuts: (cuts: number[]) => void;
}) {
  const { clip, place, onCuts } = props;
  const { cuts } = clip;
  const first = cuts[place]!;
  const last = (cuts[place + 1] ?? clip.facts!.frames) - 1;
  const number = place + 1;
  const move = (to: number) => to !== first && onCuts(cuts.map((c) => (c === first ? to : c)));
  return (
    <li aria-label={`Part ${number}`}>
      <Tick aria-label={`Take part ${number}`} isSelected={props.taken} onChange={props.onTake} />
      <span>
        <b>Part {number}</b>
        <small>
          frames {first}–{last}, {last - first + 1} in all
        </small>
      </span>
      <Strip>
        {shownOf(first, last).map((frame, i) => (
          <img key={i} src={stillOf(clip, frame)} alt={`frame ${frame}`} loading="lazy" />
        ))}
      </Strip>
      <Acts>
        {place ? (
          <>
            begins at
            <NumberBox
              label={`First frame of part ${number}`}
              value={first}
              low={cuts[place - 1]! + 1}
              high={last}
              fine={1}
              digits={0}
              onChange={move}
            />
            <Button look="quiet" onPress={() => onCuts(cuts.filter((c) => c !== first))}>
              No cut here
            </Button>
          </>
        ) : null}
      </Acts>
    </li>
  );
}

function Cuts({ project, clip }: { project: Project; clip: Clip }) {
  const facts = clip.facts!;
  const navigate = useNavigate();
  const [without, setWithout] = useState<Set<number>>(new Set());
  const [at, setAt] = useState(Math.floor(facts.frames / 2));
  const [scene, setScene] = useState("0");
  const change = useWrite(
    (said: { cuts?: number[]; encoding?: EncodingKey }) =>
      got(server.PATCH("/api/clips/{clip_id}", { params: { path: { clip_id: clip.id } }, body: said })),
    ["clips"],
  );
  const { take, follow, busy } = useTaking(project, clip, scene === "0" ? null : Number(scene));
  const cuts = clip.cuts;
  const wanted = cuts.filter((c) => !without.has(c));
  return (
    <Body>
      <div className="head">
        <h1>{clip.name}</h1>
        <Quiet>
          {facts.width} × {facts.height} · {facts.depth} bit {facts.codec} · {facts.rate.replace("/1", "")}{" "}
          frames a second · {facts.frames} frames, {facts.seconds} s
          {facts.timecode ? ` · from ${facts.timecode}` : ""}
          {facts.sound ? ` · sound ${facts.sound}` : " · no sound"}
        </Quiet>
        <Grow />
        <EncodingChoice
          label="Encoded as"
          look="inline"
          chosen={clip.encoding}
          onChange={(encoding) => change.mutate({ encoding })}
        />
        <Fields clip={clip} />
        <ToBin
          what="clip"
          remove={() =>
            got(server.DELETE("/api/clips/{clip_id}", { params: { path: { clip_id: clip.id } } }))
          }
          stale={["clips", "project"]}
          onGone={() => void navigate(`/projects/${project.id}`)}
        />
      </div>
      {facts.doubts.map((d) => (
        <Warned key={d}>This clip {d}.</Warned>
      ))}
      <ul aria-label="Shots that were found">
        {cuts.map((first, k) => (
          <Part
            key={first}
            clip={clip}
            place={k}
            taken={!without.has(first)}
            onTake={(on) =>
              setWithout((last) => new Set(on ? [...last].filter((c) => c !== first) : [...last, first]))
            }
            onCuts={(next) => change.mutate({ cuts: next })}
          />
        ))}
      </ul>
      <div className="line">
        <img className="here" src={stillOf(clip, at)} alt={`frame ${at}`} />
        Cut also at frame
        <NumberBox
          label="Frame of another cut"
          value={at}
          low={1}
          high={facts.frames - 1}
          fine={1}
          digits={0}
          onChange={setAt}
        />
        <Button isDisabled={cuts.includes(at)} onPress={() => change.mutate({ cuts: [...cuts, at] })}>
          Cut there
        </Button>
        <Grow />
        {project.scenes.length ? (
          <Choice
            label="into the scene"
            look="inline"
            chosen={scene}
            onChange={setScene}
            options={[
              { key: "0", label: "none" },
              ...project.scenes.map((s) => ({ key: String(s.id), label: s.name })),
            ]}
          />
        ) : null}
        <Button look="main" isDisabled={!wanted.length || busy} onPress={() => take.mutate(wanted)}>
          {busy
            ? `Taking ${follow.data?.done ?? 0} of ${wanted.length}`
            : `Take ${wanted.length} ${wanted.length === 1 ? "shot" : "shots"}`}
        </Button>
      </div>
      <Trouble error={change.error ?? take.error ?? follow.error} />
      {follow.data?.state === "failed" ? <Warned role="alert">{follow.data.reason}</Warned> : null}
    </Body>
  );
}
