/** The cuts of a project: where a list comes in, those that are looked at, and those that were taken. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { declared } from "../api/declared";
import type { CutLine, Project } from "../api/types";
import { FileDrop } from "../kit/filedrop";
import { Grow, Level, Quiet, Said } from "../kit/layout";
import { RateChoice } from "../kit/ratechoice";
import { Page } from "../kit/topbar";
import { Trouble } from "../kit/trouble";
import { longAgo } from "../kit/when";
import { ProjectBar } from "../projects/bar";
import { useShownProject } from "../projects/project";
import { useSendList } from "./acts";
import { askedOfCuts } from "./asked";

const Body = styled.main`
  overflow-y: auto;
  padding: 18px;
  display: grid;
  gap: 18px;
  align-content: start;
  max-width: 900px;
  width: 100%;
  margin: 0 auto;
  h2 {
    font-size: 13px;
    font-weight: 600;
    margin-bottom: 4px;
  }
`;
const Lines = styled.ul`
  display: grid;
  list-style: none;
  padding: 0;
`;
const Line = styled(Link)`
  display: flex;
  gap: 14px;
  align-items: baseline;
  padding: 11px 4px;
  border-top: 1px solid var(--line);
  text-decoration: none;
  color: var(--t1);
  &:hover {
    background: var(--g2);
  }
  strong {
    font-weight: 600;
  }
  em {
    font-style: normal;
    color: var(--accent);
  }
`;

export default function Cuts() {
  const { data, waiting } = useShownProject();
  return data ? <Shown project={data} /> : waiting;
}

function Shown({ project }: { project: Project }) {
  const cuts = useQuery(askedOfCuts.all(project.id));
  const [rate, setRate] = useState(declared.usual_rate);
  const send = useSendList(project.id);
  useEffect(() => {
    document.title = `Cuts of ${project.name} · Saucer`;
  }, [project.name]);
  const open = cuts.data?.filter((cut) => cut.number === null) ?? [];
  const taken = cuts.data?.filter((cut) => cut.number !== null) ?? [];
  return (
    <Page>
      <ProjectBar project={project.id} />
      <Body>
        <header>
          <h1>Cuts of {project.name}</h1>
          <Said>
            A cut list says which frames of which clips stand where. What it changes is shown first; looks,
            trims and notes stay with their source.
          </Said>
        </header>
        <FileDrop
          button={send.isPending ? "Reading …" : "Choose a cut list"}
          said="or drop it here: OpenTimelineIO (.otio), or a CMX 3600 list (.edl)"
          suffixes={declared.cut_lists}
          onFile={(file) => send.mutate({ file, rate })}
        />
        <Level>
          <RateChoice look="inline" chosen={rate} onChange={setRate} />
          <span>for a CMX 3600 list, which does not say it</span>
        </Level>
        <Trouble error={send.error} />
        {open.length ? <Listed title="Looked at, not taken yet" project={project.id} cuts={open} /> : null}
        {taken.length ? <Listed title="Taken" project={project.id} cuts={taken} /> : null}
      </Body>
    </Page>
  );
}

function Listed(props: { title: string; project: number; cuts: CutLine[] }) {
  return (
    <section aria-label={props.title}>
      <h2>{props.title}</h2>
      <Lines>
        {props.cuts.map((cut) => (
          <li key={cut.id}>
            <Line to={`/projects/${props.project}/cuts/${cut.id}`}>
              <strong>{cut.number ? `Cut ${cut.number}` : cut.file_name}</strong>
              <Quiet>
                {[cut.title, `${cut.events} events`, cut.waiting ? `${cut.waiting} without a clip` : ""]
                  .filter(Boolean)
                  .join(", ")}
              </Quiet>
              {cut.current ? <em>the project follows it</em> : null}
              <Grow />
              <Quiet>
                {cut.taken_by || cut.made_by}, {longAgo(Date.parse(cut.taken_at ?? cut.made_at))}
              </Quiet>
            </Line>
          </li>
        ))}
      </Lines>
    </section>
  );
}
