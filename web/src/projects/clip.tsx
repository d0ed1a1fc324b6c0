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
  .strip {
    display: grid;
    grid-template-columns: repeat(5, minmax(0, 1fr));
    gap: 4px;
  }
  .strip img {
    width: 100%;
    aspect-ratio: 16/9;
    object-fit: cover;
    border-radius: 3px;
    background: #111;
    display: block;
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
  .acts {
    display: flex;
    align-items: center;
    gap: 6px;
  }
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
          body: { clip: clip.id, firsts, scene: scene === "0" ? null : Number(scene) },
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
  const cuts = clip.cuts;
  const ends = cuts.map((_, k) => (cuts[k + 1] ?? facts.frames) - 1);
  const wanted = cuts.filter((c) => !without.has(c));
  const still = (frame: number, width: number) =>
    `/api/clips/${clip.id}/still?frame=${frame}&width=${width}&v=${clip.encoding}`;
  const move = (from: number, to: number) => change.mutate({ cuts: cuts.map((c) => (c === from ? to : c)) });
  const busy = take.isPending || (job !== null && UNDER_WAY.has(follow.data?.state ?? "waiting"));
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
          <li key={first} aria-label={`Part ${k + 1}`}>
            <Tick
              aria-label={`Take part ${k + 1}`}
              isSelected={!without.has(first)}
              onChange={(on) =>
                setWithout((last) => new Set(on ? [...last].filter((c) => c !== first) : [...last, first]))
              }
            />
            <span>
              <b>Part {k + 1}</b>
              <small>
                frames {first}–{ends[k]}, {ends[k]! - first + 1} in all
              </small>
            </span>
            <span className="strip">
              {shownOf(first, ends[k]!).map((frame, i) => (
                <img key={i} src={still(frame, 192)} alt={`frame ${frame}`} loading="lazy" />
              ))}
            </span>
            <span className="acts">
              {k ? (
                <>
                  begins at
                  <NumberBox
                    label={`First frame of part ${k + 1}`}
                    value={first}
                    low={cuts[k - 1]! + 1}
                    high={ends[k]!}
                    fine={1}
                    digits={0}
                    onChange={(v) => v !== first && move(first, v)}
                  />
                  <Button
                    look="quiet"
                    onPress={() => change.mutate({ cuts: cuts.filter((c) => c !== first) })}
                  >
                    No cut here
                  </Button>
                </>
              ) : null}
            </span>
          </li>
        ))}
      </ul>
      <div className="line">
        <img className="here" src={still(at, 192)} alt={`frame ${at}`} />
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
