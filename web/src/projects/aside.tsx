/**
 * Beside the rows: newer revisions that offer themselves, how even the shots are, what is put on the whole,
 * and what was done.
 */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Project, Wall } from "../api/types";
import { Button } from "../kit/button";
import { Apart, Quiet, Said } from "../kit/layout";
import { Saucer, saucerOf } from "../kit/saucer";
import { Segments } from "../kit/segments";
import { longAgo } from "../kit/when";
import { askedOfProject } from "./asked";
import type { Doing } from "./doing";
import { Layers } from "./layers";
import { Evenness, type Figure } from "./plot";

const Box = styled.aside`
  width: 292px;
  flex: none;
  border-left: 1px solid var(--line);
  background: var(--g1);
  padding: 14px 16px;
  overflow-y: auto;
  display: flex;
  flex-direction: column;
  gap: 20px;
  section {
    display: grid;
    gap: 8px;
    min-width: 0;
  }
  ul {
    list-style: none;
    padding: 0;
  }
  li {
    padding: 7px 0;
    border-bottom: 1px solid var(--line);
  }
  li small {
    color: var(--t2);
    display: block;
  }
  .undone {
    color: var(--t3);
    text-decoration: line-through;
  }
  a.go {
    color: var(--accent);
  }
`;

const Offered = styled.section`
  display: grid;
  gap: 8px;
  a {
    color: var(--accent);
  }
  .offer {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 4px 10px;
    align-items: center;
  }
  .offer small {
    color: var(--t2);
    display: block;
  }
`;

export function Offers(props: { project: Project; doing: Doing }) {
  const { data = [] } = useQuery(askedOfProject.offers(props.project.id));
  if (!data.length) return null;
  return (
    <Offered aria-label="Newer revisions">
      <h2>Newer revisions</h2>
      {data.map((o) => (
        <div key={`${o.now.id} ${o.then.id}`}>
          <div className="offer">
            <Saucer src={saucerOf(o.then)} size={36} />
            <span>
              <b>
                {o.then.look_name} r{o.then.number}
              </b>
              <small>
                {o.shots.length} {o.shots.length === 1 ? "shot is" : "shots are"} on r{o.now.number}
              </small>
            </span>
          </div>
          <Said>
            <small>{o.words.slice(0, 3).join("; ")}</small>
          </Said>
          <Apart>
            <Link to={`/projects/${props.project.id}/wall?now=${o.now.id}&then=${o.then.id}`}>
              Look at the {o.shots.length}
            </Link>
            <Button
              look="quiet"
              onPress={() => props.doing.rollOut.mutate({ now: o.now.id, then: o.then.id, shots: [] })}
            >
              Stay on r{o.now.number}
            </Button>
          </Apart>
        </div>
      ))}
    </Offered>
  );
}

export function ProjectAside(props: {
  project: Project;
  wall: Wall[] | undefined;
  doing: Doing;
  onOpen: (shot: number) => void;
  onWhole: () => void;
}) {
  const { project, doing } = props;
  const [what, setWhat] = useState<Figure>("tone");
  const name = (shot: number) => project.shots.find((s) => s.id === shot)?.name ?? "";
  const out = (props.wall ?? []).flatMap((s) => s.shots).filter((s) => s.apart.length).length;
  return (
    <Box aria-label="About the project">
      {project.note ? <Said>{project.note}</Said> : null}
      <section aria-label="On the whole project">
        <h2>On the whole project</h2>
        <Apart>
          {project.puts ? (
            <Layers puts={project.puts} size={32} />
          ) : (
            <Quiet>nothing; scenes and shots have their own</Quiet>
          )}
          <Button look="quiet" onPress={props.onWhole}>
            {project.puts ? "Change" : "Put a look on"}
          </Button>
        </Apart>
      </section>
      <Offers project={project} doing={doing} />
      {props.wall && project.shots.length > 2 ? (
        <section aria-label="Evenness under the looks">
          <Apart>
            <h2>Evenness under the looks</h2>
            <Segments
              label="Figure"
              chosen={what}
              onChange={setWhat}
              options={
                [
                  ["tone", "tone"],
                  ["grey", "grey"],
                  ["skin", "skin"],
                ] as const
              }
            />
          </Apart>
          <Evenness wall={props.wall} what={what} name={name} onOpen={props.onOpen} />
          <Quiet>
            {out ? (
              <Link className="go" to={`/projects/${project.id}/wall`}>
                {out} to look at on the wall
              </Link>
            ) : (
              "no shot stands out of its scene"
            )}
          </Quiet>
        </section>
      ) : null}
      <section aria-label="What was done">
        <h2>What was done</h2>
        {project.changes.length ? (
          <ul>
            {project.changes.slice(0, 12).map((c) => (
              <li key={c.id}>
                <Apart>
                  <span className={c.undone ? "undone" : ""}>{c.words}</span>
                  {c.undone || c.kind === "stay" ? null : (
                    <Button
                      look="quiet"
                      aria-label={`Undo: ${c.words}`}
                      onPress={() => doing.undo.mutate(c.id)}
                    >
                      Undo
                    </Button>
                  )}
                </Apart>
                <small>
                  {c.made_by}, {longAgo(Date.parse(c.made_at))}
                </small>
              </li>
            ))}
          </ul>
        ) : (
          <Quiet>nothing yet</Quiet>
        )}
      </section>
    </Box>
  );
}
