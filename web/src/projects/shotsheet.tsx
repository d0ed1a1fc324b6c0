/** One shot, large, and its trim, seen through the looks that are on it. */
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Menu, MenuItem, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useEncodingLabel } from "../api/queries";
import { useWrite } from "../api/writes";
import type { EncodingKey, Project, Shot, Trim } from "../api/types";
import { TrimFields } from "../frames/trimfields";
import { Button } from "../kit/button";
import { EncodingChoice } from "../kit/encodingchoice";
import { Apart, Quiet, Said } from "../kit/layout";
import { Menued } from "../kit/menued";
import { Segments } from "../kit/segments";
import { Sheet } from "../kit/sheet";
import { signed } from "../kit/signed";
import { Text } from "../kit/text";
import { NO_TRIM } from "../kit/trim";
import { Trouble } from "../kit/trouble";
import { useFeed, useTrouble, type Wish } from "../viewer/live";
import { PlayBar } from "../player/playbar";
import { useClip } from "../player/use";
import { Stage, type Mode } from "../viewer/stage";
import { askedOfProject, layerWords, readingWords } from "./asked";
import type { Doing } from "./doing";

const Layout = styled.div`
  display: grid;
  grid-template-columns: 1fr 264px;
  gap: 20px;
  height: min(70vh, 600px);
`;
const Part = styled.div`
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-width: 0;
  min-height: 0;
`;
const Scrolled = styled(Part)`
  flex: 1;
  overflow-y: auto;
  padding-right: 7px;
`;
const Acts = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`;
const SHOWS = [
  ["original", "Before"],
  ["look", "After"],
  ["split", "Split"],
] as const;

/** A suggested trim that waits to be used: where it leads, and from where. */
function Suggestion(props: {
  project: number;
  shot: Shot;
  hero: Shot | null;
  onUse: (trim: Trim) => void;
  onLeave: () => void;
}) {
  const { data, error, isPending } = useQuery(
    askedOfProject.suggested(props.project, props.shot.id, props.hero?.id),
  );
  const to = props.hero ? props.hero.name : "its scene";
  if (isPending) return <Said role="status">Finding the trim that brings it to {to} …</Said>;
  if (!data) return <Trouble error={error} />;
  return (
    <div role="group" aria-label="Suggested trim">
      <Said>
        Toward {to}: {readingWords(data.aim)}.
        <br />
        Now {readingWords(data.before)}; with it {readingWords(data.after)}.
        <br />
        {signed(data.trim.exposure - props.shot.trim.exposure)} stops, temperature{" "}
        {signed(data.trim.temperature, 0)}, tint {signed(data.trim.tint, 0)}.
      </Said>
      <Apart>
        <Button onPress={() => props.onUse(data.trim)}>See it</Button>
        <Button look="quiet" onPress={props.onLeave}>
          Leave it
        </Button>
      </Apart>
    </div>
  );
}

interface Props {
  project: Project;
  shot: Shot;
  doing: Doing;
  copied: { trim: Trim; from: string } | null;
  onCopy: (trim: Trim) => void;
  onClose: () => void;
}

/** Keeps what was changed of the shot: its name, how it is read, its trim. */
function useKeep(
  { project, shot, doing, onClose }: Props,
  { name, encoding, trim }: { name: string; encoding: EncodingKey; trim: Trim },
) {
  return useWrite(
    async () => {
      const said = {
        ...(name !== shot.name ? { name } : {}),
        ...(encoding !== shot.frame.encoding ? { encoding } : {}),
      };
      const path = { project_id: project.id, shot_id: shot.id };
      if (Object.keys(said).length)
        await got(
          server.PATCH("/api/projects/{project_id}/shots/{shot_id}", { params: { path }, body: said }),
        );
      if (JSON.stringify(trim) !== JSON.stringify(shot.trim))
        await doing.trim.mutateAsync({ shots: [shot.id], trim });
    },
    ["project", "projects"],
    onClose,
  );
}

/** Shots that a list offers to bring this one toward. */
const OFFERED = 60;

/** What can be done with the trim: brought toward other shots, copied, given to the scene. */
function TrimActs(props: {
  project: Project;
  shot: Shot;
  doing: Doing;
  trim: Trim;
  copied: Props["copied"];
  onTrim: (trim: Trim) => void;
  onCopy: () => void;
  onToward: (toward: Shot | "scene" | null) => void;
  onClose: () => void;
}) {
  const { project, shot, doing, trim, copied, onTrim } = props;
  const others = project.shots.filter((s) => s.id !== shot.id);
  const mates = others.filter((s) => s.scene === shot.scene);
  const scene = project.scenes.find((s) => s.id === shot.scene);
  const ripple = () =>
    doing.trim.mutate(
      {
        shots: [shot.id, ...mates.map((s) => s.id)],
        trim,
        words: `trim of ${shot.name} on all of ${scene?.name ?? "its kind"}`,
      },
      { onSuccess: props.onClose },
    );
  return (
    <Acts>
      <MenuTrigger>
        <Button>Bring toward ▾</Button>
        <Menued placement="bottom start">
          <Menu
            aria-label="Bring this shot toward"
            onAction={(key) =>
              props.onToward(key === "scene" ? "scene" : (others.find((s) => String(s.id) === key) ?? null))
            }
          >
            {mates.length ? <MenuItem id="scene">{scene ? scene.name : "The other shots"}</MenuItem> : null}
            {others.slice(0, OFFERED).map((s) => (
              <MenuItem key={s.id} id={String(s.id)}>
                {s.number} {s.name}
              </MenuItem>
            ))}
          </Menu>
        </Menued>
      </MenuTrigger>
      <Button look="quiet" onPress={() => onTrim(NO_TRIM)}>
        No trim
      </Button>
      <Button look="quiet" onPress={props.onCopy}>
        Copy
      </Button>
      {copied ? (
        <Button look="quiet" onPress={() => onTrim(copied.trim)}>
          Paste that of {copied.from}
        </Button>
      ) : null}
      {mates.length ? (
        <Button look="quiet" onPress={ripple}>
          Keep on all {mates.length + 1} of {scene?.name ?? "these"}
        </Button>
      ) : null}
    </Acts>
  );
}

export function ShotSheet(props: Props) {
  const { shot, project, doing } = props;
  const [name, setName] = useState(shot.name);
  const [trim, setTrim] = useState<Trim>(shot.trim);
  const [encoding, setEncoding] = useState<EncodingKey>(shot.frame.encoding);
  const [mode, setMode] = useState<Mode>("look");
  const [toward, setToward] = useState<Shot | "scene" | null>(null);
  const label = useEncodingLabel();
  const { data: look, error } = useQuery(askedOfProject.worn(project.id, shot));
  const { player, moving } = useClip(shot.frame, trim, shot.cut ?? null);
  const wish = useMemo<Wish | null>(
    () => (look ? { look, strength: 1, trim, frame: shot.frame.id, at: moving?.at, traces: false } : null),
    [look, trim, shot.frame.id, moving?.at],
  );
  const feed = useFeed(wish);
  const wrong = useTrouble(feed);
  const keep = useKeep(props, { name, encoding, trim });
  return (
    <Sheet
      title={`Shot ${shot.number} · ${shot.name}`}
      note={`${label(shot.frame.encoding)}${shot.layers.length ? `, under ${layerWords(shot)}` : ", no look yet"}`}
      width={1120}
      onClose={props.onClose}
    >
      <Layout>
        <Part>
          <Stage
            frame={shot.frame}
            input={shot.frame.encoding}
            feed={feed}
            mode={mode}
            wish={wish}
            trimmed={false}
            moving={moving}
            name={shot.layers.length ? "trim and look" : "trim"}
          />
          <PlayBar player={player} />
          <Apart>
            <Segments label="Show" options={SHOWS} chosen={mode} onChange={setMode} />
            {shot.cut ? (
              <Quiet>
                frames {shot.cut.first}–{shot.cut.last} of {shot.cut.name}
              </Quiet>
            ) : null}
          </Apart>
        </Part>
        <Part>
          <Scrolled>
            <h2>Trim of this shot</h2>
            <Said>Done before the look; the look stays as it is.</Said>
            <TrimFields trim={trim} onChange={setTrim} />
            <TrimActs
              {...{ project, shot, doing, trim }}
              copied={props.copied}
              onTrim={setTrim}
              onCopy={() => props.onCopy(trim)}
              onToward={setToward}
              onClose={props.onClose}
            />
            {toward ? (
              <Suggestion
                key={toward === "scene" ? 0 : toward.id}
                project={project.id}
                shot={shot}
                hero={toward === "scene" ? null : toward}
                onUse={setTrim}
                onLeave={() => setToward(null)}
              />
            ) : null}
            <EncodingChoice label="Read as, for this shot alone" chosen={encoding} onChange={setEncoding} />
            <Text label="Name of the shot" value={name} onChange={setName} maxLength={120} />
          </Scrolled>
          <Trouble error={keep.error ?? doing.trim.error ?? error ?? wrong} />
          <Apart>
            <Button
              look="quiet"
              onPress={() => doing.removeShot.mutate(shot.id, { onSettled: props.onClose })}
            >
              Take the shot out
            </Button>
            <Button look="main" isDisabled={!name.trim() || keep.isPending} onPress={() => keep.mutate()}>
              Keep
            </Button>
          </Apart>
        </Part>
      </Layout>
    </Sheet>
  );
}
