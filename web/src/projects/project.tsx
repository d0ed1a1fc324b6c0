/** A project: its shots as rows by scene, what is on them, and what was done. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { Menu, MenuItem, MenuTrigger } from "react-aria-components";
import { useParams } from "react-router";
import styled from "styled-components";
import { useEncodingLabel, useProject } from "../api/queries";
import type { Project as Whole, Trim } from "../api/types";
import { Followed } from "../cuts/followed";
import { Button } from "../kit/button";
import { Empty } from "../kit/empty";
import { Grow, Quiet } from "../kit/layout";
import { Menued } from "../kit/menued";
import { Page, TopBar } from "../kit/topbar";
import { NO_TRIM } from "../kit/trim";
import { Waiting } from "../kit/waiting";
import { Wrong } from "../kit/wrong";
import { AddShots } from "./addshots";
import { askedOfProject } from "./asked";
import { byScene } from "./byscene";
import { Assign, type Target } from "./assign";
import { ProjectAside } from "./aside";
import { ProjectBar } from "./bar";
import { forget, trouble, useDoing, type Doing } from "./doing";
import { Members } from "./members";
import { NameScene, SceneHead } from "./scenehead";
import { ShotRow } from "./shotrow";
import { ShotSheet } from "./shotsheet";
import { Tick } from "./tick";

const Body = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
  main {
    flex: 1;
    overflow-y: auto;
    padding: 0 18px 14px;
    min-width: 0;
  }
  ul {
    list-style: none;
    padding: 0;
  }
`;

const Head = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 12px 0;
  border-bottom: 1px solid var(--line);
  position: sticky;
  top: 0;
  background: var(--g0);
  z-index: 1;
  small,
  > span {
    color: var(--t2);
    white-space: nowrap;
  }
  h1 {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;

/** The project by the address, or what is to be said while it is on its way. */
export function useShownProject(): { id: number; data: Whole | undefined; waiting: React.ReactNode } {
  const id = Number(useParams().id);
  const project = useProject(id);
  const waiting = (
    <Page>
      <TopBar />
      <main>
        <Waiting query={project} what="project" />
      </main>
    </Page>
  );
  return { id, data: project.data, waiting };
}

export default function Project() {
  const { data, waiting } = useShownProject();
  return data ? <Rows data={data} /> : waiting;
}

interface Copied {
  trim: Trim;
  from: string;
}

/** What can be done with the trims of the chosen shots. */
function TrimMenu(props: {
  project: Whole;
  ids: number[];
  doing: Doing;
  copied: Copied | null;
  onCopy: (copied: Copied) => void;
}) {
  const { ids, doing, copied } = props;
  const first = props.project.shots.find((s) => s.id === ids[0]);
  const act = (key: string) => {
    if (key === "copy" && first) props.onCopy({ trim: first.trim, from: first.name });
    if (key === "none") doing.trim.mutate({ shots: ids, trim: NO_TRIM });
    if (!copied) return;
    const { trim, from } = copied;
    if (key === "paste") doing.trim.mutate({ shots: ids, trim, words: `trim of ${from} on ${ids.length}` });
    if (key === "balance")
      doing.trim.mutate({
        ...{ shots: ids, trim, parts: ["balance"] },
        words: `balance of ${from} on ${ids.length}`,
      });
  };
  return (
    <MenuTrigger>
      <Button isDisabled={!ids.length}>Trim ▾</Button>
      <Menued placement="bottom end">
        <Menu aria-label="Trim of the chosen shots" onAction={(key) => act(String(key))}>
          {first ? <MenuItem id="copy">Copy from {first.name}</MenuItem> : null}
          {copied ? <MenuItem id="paste">Paste that of {copied.from}</MenuItem> : null}
          {copied ? <MenuItem id="balance">Paste its balance alone</MenuItem> : null}
          <MenuItem id="none">No trim</MenuItem>
        </Menu>
      </Menued>
    </MenuTrigger>
  );
}

/** Into which scene the chosen shots go. */
function SceneMenu(props: { project: Whole; ids: number[]; doing: Doing; onNew: () => void }) {
  const { project, ids, doing } = props;
  return (
    <MenuTrigger>
      <Button isDisabled={!ids.length}>Scene ▾</Button>
      <Menued placement="bottom end">
        <Menu
          aria-label="Scene of the chosen shots"
          onAction={(key) =>
            key === "new"
              ? props.onNew()
              : doing.gather.mutate({ shots: ids, scene: key === "none" ? null : Number(key) })
          }
        >
          {project.scenes.map((s) => (
            <MenuItem key={s.id} id={String(s.id)}>
              {s.name}
            </MenuItem>
          ))}
          <MenuItem id="none">None</MenuItem>
          <MenuItem id="new">New scene …</MenuItem>
        </Menu>
      </Menued>
    </MenuTrigger>
  );
}

/** Above the rows: how many there are, and what can be done with the chosen ones. ids: of those. */
function RowsHead(props: {
  project: Whole;
  ids: number[];
  doing: Doing;
  copied: Copied | null;
  onCopy: (copied: Copied) => void;
  onAll: (on: boolean) => void;
  onAssign: () => void;
  onNewScene: () => void;
}) {
  const { project, ids, doing } = props;
  const { shots } = project;
  const looks = new Set(shots.flatMap((s) => s.layers.map((l) => l.revision.look_id))).size;
  return (
    <Head>
      <Tick
        aria-label="Choose all shots"
        isSelected={shots.length > 0 && ids.length === shots.length}
        isIndeterminate={ids.length > 0 && ids.length < shots.length}
        onChange={props.onAll}
      />
      <h1>{project.name}</h1>
      <small>
        {shots.length} {shots.length === 1 ? "shot" : "shots"} · {looks} {looks === 1 ? "look" : "looks"} in
        use
      </small>
      <Followed project={project.id} />
      <Grow />
      {ids.length ? <span role="status">{ids.length} chosen</span> : null}
      <Button isDisabled={!ids.length} onPress={props.onAssign}>
        Put a look on
      </Button>
      <TrimMenu project={project} ids={ids} doing={doing} copied={props.copied} onCopy={props.onCopy} />
      <SceneMenu project={project} ids={ids} doing={doing} onNew={props.onNewScene} />
    </Head>
  );
}

function Rows({ data }: { data: Whole }) {
  const id = data.id;
  const label = useEncodingLabel();
  const doing = useDoing(data);
  const wall = useQuery(askedOfProject.wall(id));
  const [chosen, setChosen] = useState<Set<number>>(new Set());
  const [sheet, setSheet] = useState<"" | "add" | "scene" | "members">("");
  const [target, setTarget] = useState<Target | null>(null);
  const [open, setOpen] = useState<number | null>(null);
  const [copied, setCopied] = useState<Copied | null>(null);
  useEffect(() => {
    document.title = `${data.name} · Saucer`;
  }, [data.name]);
  const standing = useMemo(
    () => new Map(wall.data?.flatMap((s) => s.shots).map((s) => [s.shot, s])),
    [wall.data],
  );
  const shots = data.shots;
  const ids = shots.filter((s) => chosen.has(s.id)).map((s) => s.id);
  const choose = (which: number[], on: boolean) =>
    setChosen((last) => new Set(on ? [...last, ...which] : [...last].filter((s) => !which.includes(s))));
  const shown = shots.find((s) => s.id === open);
  const wrong = trouble(doing);
  return (
    <Page>
      <ProjectBar project={id}>
        {data.private ? <Quiet>private</Quiet> : null}
        <Button onPress={() => setSheet("members")}>
          Members{data.members.length ? ` ${data.members.length}` : ""}
        </Button>
        <Button look="main" onPress={() => setSheet("add")}>
          Add shots
        </Button>
      </ProjectBar>
      <Wrong error={wrong} onDismiss={() => forget(doing)} />
      <Body>
        <main>
          <RowsHead
            project={data}
            ids={ids}
            doing={doing}
            copied={copied}
            onCopy={setCopied}
            onAll={(on) => setChosen(new Set(on ? shots.map((s) => s.id) : []))}
            onAssign={() => setTarget({ shots: ids, scenes: [], whole: false })}
            onNewScene={() => setSheet("scene")}
          />
          {byScene(data).map(({ scene, shots: inside }) => (
            <section key={scene?.id ?? 0} aria-label={scene?.name ?? "In no scene"}>
              {data.scenes.length ? (
                <SceneHead
                  project={data}
                  scene={scene}
                  shots={inside.map((s) => s.id)}
                  chosen={chosen}
                  doing={doing}
                  onChoose={choose}
                  onAssign={() => scene && setTarget({ shots: [], scenes: [scene.id], whole: false })}
                />
              ) : null}
              <ul aria-label={scene ? `Shots of ${scene.name}` : "Shots"}>
                {inside.map((s) => (
                  <ShotRow
                    key={s.id}
                    project={id}
                    shot={s}
                    on={standing.get(s.id)}
                    chosen={chosen.has(s.id)}
                    label={label}
                    onChoose={(on) => choose([s.id], on)}
                    onOpen={() => setOpen(s.id)}
                  />
                ))}
              </ul>
            </section>
          ))}
          {shots.length ? null : (
            <Empty
              title="No shots yet"
              action={
                <Button look="main" onPress={() => setSheet("add")}>
                  Add shots
                </Button>
              }
            >
              Shots are stills, or parts of a clip, with a trim and a look of their own.
            </Empty>
          )}
        </main>
        <ProjectAside
          project={data}
          wall={wall.data}
          doing={doing}
          onOpen={setOpen}
          onWhole={() => setTarget({ shots: [], scenes: [], whole: true })}
        />
      </Body>
      {target ? (
        <Assign
          project={data}
          target={target}
          pending={doing.assign.isPending}
          onClose={() => setTarget(null)}
          onAssign={(how, layers) =>
            doing.assign.mutate(
              { ...target, how, layers },
              // What went wrong is told at the top of the page, so the sheet closes either way.
              {
                onSettled: () => {
                  setTarget(null);
                  setChosen(new Set());
                },
              },
            )
          }
        />
      ) : null}
      {sheet === "add" ? <AddShots project={data} doing={doing} onClose={() => setSheet("")} /> : null}
      {sheet === "members" ? <Members project={data} onClose={() => setSheet("")} /> : null}
      {sheet === "scene" ? (
        <NameScene
          title={`A scene of ${ids.length} ${ids.length === 1 ? "shot" : "shots"}`}
          name=""
          onClose={() => setSheet("")}
          onName={(name) => doing.addScene.mutate({ name, shots: ids }, { onSettled: () => setSheet("") })}
        />
      ) : null}
      {shown ? (
        <ShotSheet
          key={shown.id}
          project={data}
          shot={shown}
          doing={doing}
          copied={copied}
          onCopy={(trim) => setCopied({ trim, from: shown.name })}
          onClose={() => setOpen(null)}
        />
      ) : null}
    </Page>
  );
}
