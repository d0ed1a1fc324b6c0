/**
 * Choosing looks for shots, a scene or the whole project, tried on the shots themselves before anything is
 * put on them.
 */
import { useState } from "react";
import { ListBox, ListBoxItem } from "react-aria-components";
import styled from "styled-components";
import { useCatalogue, useKinds } from "../api/queries";
import type { Card, Parameter, Project } from "../api/types";
import { Amount } from "../kit/amount";
import { Button } from "../kit/button";
import { Grow, Quiet } from "../kit/layout";
import { Saucer, saucerOf } from "../kit/saucer";
import { Segments } from "../kit/segments";
import { Sheet } from "../kit/sheet";
import { Text } from "../kit/text";
import { Waiting } from "../kit/waiting";
import { stillOf } from "./asked";

export interface Target {
  shots: number[];
  scenes: number[];
  whole: boolean;
}

const Layout = styled.div`
  display: grid;
  grid-template-columns: 300px 1fr;
  gap: 20px;
  height: min(62vh, 520px);
  .looks {
    display: flex;
    flex-direction: column;
    gap: 10px;
    min-height: 0;
  }
  .tried {
    overflow: auto;
    min-height: 0;
    display: flex;
    flex-direction: column;
    gap: 10px;
  }
  .grid {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
    gap: 12px;
  }
  figure img {
    width: 100%;
    aspect-ratio: 16/9;
    object-fit: cover;
    border-radius: 3px;
    display: block;
    background: var(--field);
  }
  figcaption {
    color: var(--t2);
    font-size: 12px;
    padding-top: 3px;
  }
`;
const Looks = styled(ListBox)`
  overflow: auto;
  flex: 1;
  min-height: 0;
  .look {
    display: flex;
    gap: 10px;
    align-items: center;
    padding: 6px;
    border-radius: 6px;
    cursor: pointer;
    outline: none;
    border: 1px solid transparent;
  }
  .look[data-hovered] {
    background: var(--g2);
  }
  .look[data-selected] {
    border-color: var(--accent);
    background: var(--g2);
  }
  .look[data-focus-visible] {
    outline: 2px solid var(--accent);
  }
  small {
    color: var(--t2);
    display: block;
    font-size: 12px;
  }
`;

/** Shots that a look is tried on at once. */
const TRIED = 12;

function where(project: Project, target: Target): string {
  if (target.whole) return "the whole project";
  const scene = project.scenes.find((s) => s.id === target.scenes[0]);
  if (scene) return scene.name;
  const one = project.shots.find((s) => s.id === target.shots[0]);
  return target.shots.length === 1 ? (one?.name ?? "") : `${target.shots.length} shots`;
}

export function Assign(props: {
  project: Project;
  target: Target;
  pending: boolean;
  onClose: () => void;
  onAssign: (how: "replace" | "stack" | "inherit", layers: { revision: number; strength: number }[]) => void;
}) {
  const { project, target } = props;
  const [q, setQ] = useState("");
  const looks = useCatalogue(q);
  const { data: kinds } = useKinds();
  const [card, setCard] = useState<Card | null>(null);
  const [strength, setStrength] = useState(1);
  const [how, setHow] = useState<"replace" | "stack">("replace");
  const parameter = (kinds?.[0]?.parameters as { properties: Record<string, Parameter> } | undefined)
    ?.properties.strength;
  const shots = project.shots.filter(
    (s) =>
      target.whole || target.shots.includes(s.id) || (s.scene !== null && target.scenes.includes(s.scene)),
  );
  const under = shots.some((s) => s.layers.length);
  const cards = looks.data?.cards.filter((c) => c.revision.status !== "retired") ?? [];
  const own = target.whole
    ? project.puts
    : target.scenes.length
      ? project.scenes.find((s) => s.id === target.scenes[0])?.puts
      : null;
  const hasOwn = own ?? (target.shots.length ? shots.some((s) => s.given_by === "shot") : false);
  const layers = card ? [{ revision: card.revision.id, strength }] : [];
  return (
    <Sheet title={`A look for ${where(project, target)}`} width={1020} onClose={props.onClose}>
      <Layout>
        <div className="looks">
          <Text label="Search looks" hidden search hint="Search looks" value={q} onChange={setQ} autoFocus />
          {looks.data ? (
            <Looks
              aria-label="Looks"
              selectionMode="single"
              selectedKeys={card ? [card.revision.id] : []}
              onSelectionChange={(keys) => {
                const [k] = keys === "all" ? [] : [...keys];
                setCard(cards.find((c) => c.revision.id === Number(k)) ?? null);
              }}
              renderEmptyState={() => <p>No look fits.</p>}
            >
              {cards.map((c) => (
                <ListBoxItem key={c.revision.id} id={c.revision.id} textValue={c.name} className="look">
                  <Saucer src={saucerOf(c.revision)} size={34} />
                  <span>
                    {c.name}
                    <small>
                      r{c.revision.number}, {c.revision.status}
                      {c.words[0] ? ` · ${c.words[0]}` : ""}
                    </small>
                  </span>
                </ListBoxItem>
              ))}
            </Looks>
          ) : (
            <Waiting query={looks} what="looks" />
          )}
          {parameter ? <Amount parameter={parameter} value={strength} onChange={setStrength} /> : null}
          <Segments
            label="How"
            stretch
            chosen={how}
            onChange={setHow}
            options={
              [
                ["replace", "Instead of what is there"],
                ["stack", "Over it"],
              ] as const
            }
          />
        </div>
        <div className="tried">
          <Quiet role="status">
            {card
              ? `${card.name} tried on ${Math.min(shots.length, TRIED)} of ${shots.length} ${shots.length === 1 ? "shot" : "shots"}; nothing is put on yet`
              : "Choose a look to try it here; the shots are shown as they are"}
          </Quiet>
          <div className="grid">
            {shots.slice(0, TRIED).map((s) => (
              <figure key={s.id}>
                <img
                  src={
                    card
                      ? `/api/projects/${project.id}/shots/${s.id}/trying?revision=${card.revision.id}&strength=${strength}&over=${how === "stack"}&width=320&v=${s.version}`
                      : stillOf(project.id, s)
                  }
                  alt={card ? `${s.name} under ${card.name}` : s.name}
                />
                <figcaption>
                  {s.number} · {s.name}
                </figcaption>
              </figure>
            ))}
          </div>
        </div>
      </Layout>
      <footer>
        {under ? (
          <Button look="quiet" onPress={() => props.onAssign("replace", [])}>
            No look here
          </Button>
        ) : null}
        {hasOwn && !target.whole ? (
          <Button look="quiet" onPress={() => props.onAssign("inherit", [])}>
            As around it
          </Button>
        ) : null}
        <Grow />
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" isDisabled={!card || props.pending} onPress={() => props.onAssign(how, layers)}>
          {how === "stack" ? "Stack it" : "Put it on"}
        </Button>
      </footer>
    </Sheet>
  );
}
