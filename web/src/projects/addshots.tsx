/** Shots for a project: from the frames, from stills that are dropped in, or cut from a clip. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { DropZone, FileTrigger, ListBox, ListBoxItem } from "react-aria-components";
import { Link, useNavigate } from "react-router";
import { declared } from "../api/declared";
import { turnOf } from "../kit/turn";
import styled from "styled-components";
import { useFrames } from "../api/queries";
import type { Clip, EncodingKey, Project } from "../api/types";
import { intakePath } from "../framesin/back";
import { send } from "../framesin/sending";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { EncodingChoice } from "../kit/encodingchoice";
import { Empty } from "../kit/empty";
import { Grow, Level, Quiet, Said, Warned } from "../kit/layout";
import { RateChoice } from "../kit/ratechoice";
import { Segments } from "../kit/segments";
import { isClip } from "../kit/sequence";
import { Sheet } from "../kit/sheet";
import { Waiting } from "../kit/waiting";
import { around } from "../kit/partshown";
import { askedOfProject, UNDER_WAY } from "./asked";
import { filesOf, inSequences, useBringing, type Brought, type Dropped } from "./bringing";
import type { Doing } from "./doing";
import { Tick } from "./tick";

const Grid = styled(ListBox)`
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 12px;
  max-height: 52vh;
  overflow: auto;
  padding: 4px;
`;
const Tile = styled(ListBoxItem)`
  cursor: pointer;
  outline: none;
  padding: 6px;
  border-radius: 6px;
  border: 1px solid transparent;
  &[data-selected] {
    border-color: var(--accent);
    background: var(--g2);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--accent);
  }
  img {
    width: 100%;
    aspect-ratio: 16/9;
    object-fit: cover;
    border-radius: 3px;
    display: block;
    margin-bottom: 5px;
  }
`;
const Drop = styled(DropZone)`
  border: 1px dashed var(--g4);
  border-radius: 8px;
  padding: 26px;
  display: grid;
  gap: 10px;
  justify-items: center;
  text-align: center;
  color: var(--t2);
  &[data-drop-target] {
    border-color: var(--accent);
    background: var(--g2);
  }
`;
const List = styled.ul`
  list-style: none;
  padding: 0;
  max-height: 30vh;
  overflow: auto;
  li {
    display: flex;
    gap: 10px;
    align-items: center;
    padding: 7px 0;
    border-bottom: 1px solid var(--line);
  }
  a {
    color: var(--accent);
  }
`;

const { pictures: STILLS, clips: CLIPS } = declared;

const FROM = [
  ["files", "Stills and clips"],
  ["frames", "Frames that are here"],
] as const;

/** How far a clip is, or what it is. */
function clipWords({ facts, cuts, job }: Clip): string {
  if (facts) {
    const parts = `${cuts.length} ${cuts.length === 1 ? "shot" : "shots"}`;
    return `${facts.width} × ${facts.height}, ${facts.frames} frames, ${facts.seconds} s, ${parts}`;
  }
  if (!UNDER_WAY.has(job.state)) return "";
  if (job.state === "waiting") return turnOf(job) ?? "";
  return `being looked through${job.total ? `, ${job.done} of ${job.total} frames` : ""}`;
}

function Clips({ project }: { project: number }) {
  const { data = [] } = useQuery(askedOfProject.clips);
  if (!data.length) return null;
  return (
    <>
      <h2>Clips that are here</h2>
      <List aria-label="Clips">
        {data.map((c) => (
          <li key={c.id}>
            <span>
              {c.name}
              <br />
              <Quiet>{clipWords(c)}</Quiet>
              {c.job.state === "failed" ? <Warned>{c.job.reason}</Warned> : null}
            </span>
            <Grow />
            {c.facts ? <Link to={`/projects/${project}/clip/${c.id}`}>Look at its cuts</Link> : null}
          </li>
        ))}
      </List>
    </>
  );
}

/** Stills and clips that are dropped or chosen. */
function FromFiles({ project, onBusy }: { project: Project; onBusy: (busy: boolean) => void }) {
  const [said, setSaid] = useState(false);
  const [encoding, setEncoding] = useState<EncodingKey>(declared.usual_log);
  const [together, setTogether] = useState(true);
  const [rate, setRate] = useState(declared.usual_rate);
  const { sent, bring } = useBringing(project.id, said ? encoding : undefined, rate);
  const busy = bring.isPending;
  useEffect(() => onBusy(busy), [busy, onBusy]);
  const navigate = useNavigate();
  const take = async (files: Brought[]) => {
    const all = together ? await inSequences(files) : files;
    const stills = all.filter(({ file }) => !isClip(file.name));
    // Several stills are looked through and shown first, unless a person says what they are.
    const first = said || stills.length < 2 ? [] : stills;
    const atOnce = all.filter((one) => !first.includes(one));
    if (atOnce.length) await bring.mutateAsync(atOnce);
    await send(
      first.map(({ file, folder }) => ({ file, path: folder ? `${folder}/${file.name}` : file.name })),
      null,
      (id) => void navigate(intakePath(id)),
      project.id,
    );
  };
  return (
    <>
      <Drop
        onDrop={(e) => void filesOf(e.items as readonly Dropped[]).then(take)}
        aria-label="Stills and clips"
      >
        <FileTrigger
          allowsMultiple
          acceptedFileTypes={[...STILLS, ...CLIPS]}
          onSelect={(files) => void take([...(files ?? [])].map((file) => ({ file, folder: "" })))}
        >
          <Button>Choose files</Button>
        </FileTrigger>
        <span>
          or drop stills, clips and folders here; one still is a shot at once, several are shown to you first,
          a clip is cut first
        </span>
      </Drop>
      <Level>
        <Tick isSelected={said} onChange={setSaid}>
          all of them are encoded as
        </Tick>
        <EncodingChoice
          label="Encoding"
          hidden
          look="inline"
          disabled={!said}
          chosen={encoding}
          onChange={setEncoding}
        />
        {said ? null : <Quiet>else the project's rules, then the file itself tell</Quiet>}
      </Level>
      <Level>
        <Tick isSelected={together} onChange={setTogether}>
          numbered pictures of a folder are one clip
        </Tick>
        <RateChoice look="inline" chosen={rate} onChange={setRate} />
      </Level>
      {sent.length ? (
        <List aria-label="What was brought in">
          {sent.map((s) => (
            <li key={s.name}>
              <span>{s.name}</span>
              <Grow />
              <Quiet role="status">{s.state}</Quiet>
            </li>
          ))}
        </List>
      ) : null}
      <Clips project={project.id} />
    </>
  );
}

/** Frames that are here already. */
function FromFrames(props: { chosen: number[]; onChoose: (ids: number[]) => void }) {
  const frames = useFrames();
  if (!frames.data) return <Waiting query={frames} what="frames" />;
  const all = frames.data.filter((f) => !f.chart);
  if (!all.length)
    return (
      <Empty title="No frames yet">
        Bring pictures under Frames first, or drop them into the project as shots.
      </Empty>
    );
  return (
    <Grid
      aria-label="Frames"
      layout="grid"
      selectionMode="multiple"
      selectedKeys={props.chosen}
      onSelectionChange={(keys) =>
        props.onChoose(keys === "all" ? all.map((f) => f.id) : [...keys].map(Number))
      }
    >
      {all.map((f) => (
        <Tile key={f.id} id={f.id} textValue={f.name}>
          <img
            src={`/api/frames/${f.id}/still?width=320&v=${f.version}`}
            alt=""
            loading="lazy"
            style={around(f.part)}
          />
          {f.name}
        </Tile>
      ))}
    </Grid>
  );
}

export function AddShots(props: { project: Project; doing: Doing; onClose: () => void }) {
  const { project, doing } = props;
  const [from, setFrom] = useState<"files" | "frames">("files");
  const [chosen, setChosen] = useState<number[]>([]);
  const [scene, setScene] = useState("0");
  const [busy, setBusy] = useState(false);
  const add = () =>
    doing.addShots.mutate(
      { frames: chosen, scene: scene === "0" ? null : Number(scene) },
      { onSettled: props.onClose },
    );
  return (
    <Sheet title="Add shots" width={820} onClose={props.onClose}>
      <div>
        <Segments label="From" chosen={from} onChange={setFrom} options={FROM} />
      </div>
      {from === "files" ? (
        <FromFiles project={project} onBusy={setBusy} />
      ) : (
        <FromFrames chosen={chosen} onChoose={setChosen} />
      )}
      <footer>
        {from === "frames" && project.scenes.length ? (
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
        <Grow />
        {busy ? <Said role="status">Bringing in …</Said> : null}
        <Button onPress={props.onClose}>{from === "files" ? "Done" : "Cancel"}</Button>
        {from === "frames" ? (
          <Button look="main" isDisabled={!chosen.length} onPress={add}>
            Add {chosen.length || ""} {chosen.length === 1 ? "shot" : "shots"}
          </Button>
        ) : null}
      </footer>
    </Sheet>
  );
}
