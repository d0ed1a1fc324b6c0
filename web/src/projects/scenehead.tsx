/** The head of a scene among the rows: its name, what is put on it, and what can be done to it. */
import { useState } from "react";
import { Menu, MenuItem, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import type { Project, Scene } from "../api/types";
import { Button } from "../kit/button";
import { Grow, Quiet } from "../kit/layout";
import { Menued } from "../kit/menued";
import { Sheet } from "../kit/sheet";
import { Text } from "../kit/text";
import type { Doing } from "./doing";
import { Layers } from "./layers";
import { Tick } from "./tick";

const Head = styled.div`
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 14px 8px 8px 0;
  border-bottom: 1px solid var(--line);
  h2 {
    font-size: 14px;
    color: var(--t1);
  }
`;

export function SceneHead(props: {
  project: Project;
  scene: Scene | null;
  shots: number[];
  chosen: Set<number>;
  doing: Doing;
  onChoose: (shots: number[], on: boolean) => void;
  onAssign: () => void;
}) {
  const { scene, doing, project } = props;
  const [naming, setNaming] = useState(false);
  const picked = props.shots.filter((s) => props.chosen.has(s)).length;
  const name = scene?.name ?? "In no scene";
  const puts = scene ? scene.puts : null;
  const place = scene ? project.scenes.findIndex((s) => s.id === scene.id) : 0;
  const act = (key: string) => {
    if (!scene) return;
    if (key === "name") setNaming(true);
    if (key === "assign") props.onAssign();
    if (key === "inherit") doing.assign.mutate({ scenes: [scene.id], how: "inherit", layers: [] });
    if (key === "up") doing.changeScene.mutate({ scene: scene.id, place });
    if (key === "down") doing.changeScene.mutate({ scene: scene.id, place: place + 2 });
    if (key === "apart") doing.removeScene.mutate(scene.id);
  };
  return (
    <Head>
      <Tick
        aria-label={`Choose all of ${name}`}
        isDisabled={!props.shots.length}
        isSelected={picked > 0 && picked === props.shots.length}
        isIndeterminate={picked > 0 && picked < props.shots.length}
        onChange={(on) => props.onChoose(props.shots, on)}
      />
      <h2>{name}</h2>
      <Quiet>
        {props.shots.length} {props.shots.length === 1 ? "shot" : "shots"}
      </Quiet>
      <Grow />
      {puts ? <Layers puts={puts} size={28} /> : scene ? <Quiet>nothing of its own</Quiet> : null}
      {scene ? (
        <MenuTrigger>
          <Button look="quiet">
            <span>
              Scene <span className="unseen">{name}</span> ▾
            </span>
          </Button>
          <Menued placement="bottom end">
            <Menu aria-label={`What to do with ${name}`} onAction={(key) => act(String(key))}>
              <MenuItem id="assign">Put a look on it</MenuItem>
              {puts ? <MenuItem id="inherit">Take its own look off</MenuItem> : null}
              <MenuItem id="name">Rename</MenuItem>
              {place > 0 ? <MenuItem id="up">Move up</MenuItem> : null}
              {place < project.scenes.length - 1 ? <MenuItem id="down">Move down</MenuItem> : null}
              <MenuItem id="apart">Take apart, shots stay</MenuItem>
            </Menu>
          </Menued>
        </MenuTrigger>
      ) : null}
      {naming && scene ? (
        <NameScene
          title="Rename the scene"
          name={scene.name}
          onClose={() => setNaming(false)}
          onName={(said) =>
            doing.changeScene.mutate({ scene: scene.id, name: said }, { onSettled: () => setNaming(false) })
          }
        />
      ) : null}
    </Head>
  );
}

export function NameScene(props: {
  title: string;
  name: string;
  onClose: () => void;
  onName: (name: string) => void;
}) {
  const [name, setName] = useState(props.name);
  return (
    <Sheet title={props.title} width={380} onClose={props.onClose}>
      <Text label="Name of the scene" value={name} onChange={setName} maxLength={120} autoFocus />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" isDisabled={!name.trim()} onPress={() => props.onName(name)}>
          Keep
        </Button>
      </footer>
    </Sheet>
  );
}
