/** A cut: what it would change, side by side with what the project has; or the one that it follows. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState, type KeyboardEvent } from "react";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import { client } from "../api/queries";
import type { Cut, Project } from "../api/types";
import { Empty } from "../kit/empty";
import { Grow, Quiet } from "../kit/layout";
import { Segments } from "../kit/segments";
import { Page } from "../kit/topbar";
import { Waiting } from "../kit/waiting";
import { ProjectBar } from "../projects/bar";
import { useShownProject } from "../projects/project";
import { useCutActs } from "./acts";
import { askedOfCuts, taking } from "./asked";
import { Bands } from "./bands";
import { Corrections } from "./corrections";
import { CutFoot } from "./cutfoot";
import { countsOf, isShown, keyOf, VIEWS, type View } from "./judging";
import { Rows } from "./rows";
import { WaitingEvents } from "./waiting";

const Body = styled.main`
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) clamp(280px, 29vw, 460px);
  grid-template-rows: auto auto minmax(0, 1fr) auto;
  &.alone {
    grid-template-columns: minmax(0, 1fr);
  }
  > header,
  > section:first-of-type {
    grid-column: 1 / -1;
  }
`;
const Head = styled.header`
  display: flex;
  align-items: baseline;
  gap: 12px;
  padding: 11px 18px 6px;
  white-space: nowrap;
  overflow: hidden;
`;
const What = styled.div`
  display: flex;
  flex-direction: column;
  min-height: 0;
  > header {
    display: flex;
    align-items: center;
    gap: 12px;
    padding: 8px 18px 4px;
  }
  h2 {
    font-size: 13px;
    font-weight: 600;
    color: var(--t1);
    white-space: nowrap;
  }
`;
const Side = styled.aside`
  border-left: 1px solid var(--line);
  padding: 12px 16px;
  overflow-y: auto;
  display: grid;
  gap: 20px;
  align-content: start;
`;

const NAMES: Record<View, string> = {
  changed: "Changed",
  moved: "Moved",
  longer: "Longer",
  shorter: "Shorter",
  new: "New",
  gone: "Gone",
  all: "All",
};

export default function CutPage() {
  const { data, waiting } = useShownProject();
  return data ? <OfProject project={data} /> : waiting;
}

function OfProject({ project }: { project: Project }) {
  const id = Number(useParams().cut);
  const query = useQuery({
    ...askedOfCuts.one(project.id, id),
    refetchInterval: (q) => (taking(q.state.data) ? 700 : false),
  });
  const cut = query.data;
  const number = cut?.number ?? null;
  useEffect(() => {
    document.title = `${number ? `Cut ${number}` : "A new cut"} · ${project.name} · Saucer`;
  }, [number, project.name]);
  // Once it was taken, all of the project is another.
  useEffect(() => {
    if (number !== null) void client.invalidateQueries({ queryKey: ["project", project.id] });
  }, [number, project.id]);
  return (
    <Page>
      <ProjectBar project={project.id} />
      {cut ? <Loaded project={project} cut={cut} /> : <Waiting query={query} what="cut" />}
    </Page>
  );
}

/** N goes to the next event that waits for a clip. */
function goesToWaiting(e: KeyboardEvent<HTMLElement>) {
  if (e.key.toLowerCase() !== "n" || e.ctrlKey || e.metaKey || e.altKey) return;
  if (e.target instanceof HTMLInputElement) return;
  const all = [...e.currentTarget.querySelectorAll<HTMLElement>("[data-waiting] button")];
  const at = all.findIndex((one) => one === document.activeElement);
  all[(at + 1) % Math.max(all.length, 1)]?.focus();
}

function Loaded({ project, cut }: { project: Project; cut: Cut }) {
  const taken = cut.number !== null;
  const many = countsOf(cut.changed);
  const [wanted, setView] = useState<View>("changed");
  const view = many[wanted] || taken ? wanted : "all";
  const shown = cut.changed.filter((row) => isShown(row, taken ? "all" : view));
  const [at, setAt] = useState("");
  const chosen = cut.changed.some((row) => keyOf(row) === at) ? at : shown[0] ? keyOf(shown[0]) : "";
  const acts = useCutActs(project.id, cut);
  const busy = taking(cut) || acts.say.isPending;
  const aside = cut.waiting > 0 || (!taken && cut.after.some((event) => event.carries));
  const choose = (place: number, clip: number) =>
    taken ? acts.fill.mutate({ place, clip }) : acts.say.mutate({ clips: [{ place, clip }] });
  return (
    <Body className={aside ? "" : "alone"} onKeyDown={goesToWaiting}>
      <Head>
        <h1>{taken ? `Cut ${cut.number}` : "A new cut"}</h1>
        <Quiet>{project.name}</Quiet>
        <Quiet>
          {cut.file_name}, {cut.kind}, {cut.unit} frames a second
        </Quiet>
        <Link to={`/projects/${project.id}/cuts`}>All cuts</Link>
        <Grow />
        {taken ? null : <Quiet>nothing is kept before you take it</Quiet>}
      </Head>
      <Bands project={project.id} cut={cut} chosen={chosen} onChoose={setAt} />
      <What>
        <header>
          <h2>{taken ? "Its events" : "What changes"}</h2>
          <Grow />
          {taken ? null : (
            <Segments
              label="Rows shown"
              chosen={view}
              onChange={setView}
              options={VIEWS.filter((key) => many[key] || key === "all" || key === "changed").map(
                (key) => [key, `${NAMES[key]} ${many[key]}`] as const,
              )}
            />
          )}
        </header>
        {shown.length ? (
          <Rows project={project.id} cut={cut} rows={shown} chosen={chosen} onChoose={setAt} />
        ) : (
          <Empty title="Nothing changes">
            This cut has the same events as the project, in the same order.
          </Empty>
        )}
      </What>
      {aside ? (
        <Side aria-label="What is asked" data-waiting>
          <WaitingEvents cut={cut} disabled={busy} onChoose={choose} />
          {taken ? null : (
            <Corrections
              project={project.id}
              cut={cut}
              disabled={busy}
              onTake={(corrections) => acts.say.mutate({ clips: [], corrections })}
            />
          )}
        </Side>
      ) : null}
      <CutFoot project={project.id} cut={cut} acts={acts} />
    </Body>
  );
}
