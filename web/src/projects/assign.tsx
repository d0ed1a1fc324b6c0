/** Choosing a revision for shots, seen on the first of them. */
import { useState } from "react";
import { ListBox, ListBoxItem } from "react-aria-components";
import styled from "styled-components";
import { useCatalogue, useKinds } from "../api/queries";
import type { Parameter, Shot } from "../api/types";
import { Amount } from "../kit/amount";
import { Button } from "../kit/button";
import { Text } from "../kit/text";
import { Saucer, saucerOf } from "../kit/saucer";
import { Sheet } from "../kit/sheet";
import { Waiting } from "../kit/waiting";
import { Grow } from "../kit/layout";

const Looks = styled(ListBox)`
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 12px;
  max-height: 52vh;
  overflow: auto;
  padding: 4px;
  .look {
    border-radius: 6px;
    cursor: pointer;
    outline: none;
    padding: 6px;
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
  .look img.pic {
    width: 100%;
    aspect-ratio: 16/9;
    object-fit: cover;
    border-radius: 3px;
    display: block;
  }
  .look > div {
    display: flex;
    gap: 8px;
    align-items: center;
    padding-top: 6px;
  }
  small {
    color: var(--t2);
    display: block;
  }
`;

export function Assign(props: { shots: Shot[]; onClose: () => void; onAssign: (revision: number | null, strength: number) => void }) {
  const [q, setQ] = useState("");
  const looks = useCatalogue(q);
  const { data: kinds } = useKinds();
  const first = props.shots[0];
  const [revision, setRevision] = useState<number | null>(first?.revision?.id ?? null);
  const [strength, setStrength] = useState(first?.revision ? first.strength : 1);
  const parameter = (kinds?.[0]?.parameters as { properties: Record<string, Parameter> } | undefined)?.properties.strength;
  const count = props.shots.length;
  const cards = looks.data?.cards.filter((c) => c.revision.status !== "retired") ?? [];
  return (
    <Sheet title={`Assign a look to ${count === 1 ? (first?.name ?? "") : `${count} shots`}`} width={760} onClose={props.onClose}>
      <Text label="Search looks" hidden search hint="Search looks" value={q} onChange={setQ} autoFocus />
      {looks.data ? (
        <Looks
          aria-label="Looks"
          layout="grid"
          selectionMode="single"
          selectedKeys={revision === null ? [] : [revision]}
          onSelectionChange={(keys) => {
            const [k] = keys === "all" ? [] : [...keys];
            setRevision(k === undefined ? null : Number(k));
          }}
          renderEmptyState={() => <p>No look fits.</p>}
        >
          {cards.map((c) => (
            <ListBoxItem key={c.revision.id} id={c.revision.id} textValue={c.name} className="look">
              {first ? (
                <img
                  className="pic"
                  src={`/api/revisions/${c.revision.id}/still?frame=${first.frame.id}&width=320&v=${c.revision.digest.slice(0, 8)}${first.frame.version}`}
                  alt=""
                  loading="lazy"
                />
              ) : null}
              <div>
                <Saucer src={saucerOf(c.revision)} size={30} />
                <span>
                  {c.name}
                  <small>
                    r{c.revision.number}, {c.revision.status}
                  </small>
                </span>
              </div>
            </ListBoxItem>
          ))}
        </Looks>
      ) : (
        <Waiting query={looks} what="looks" />
      )}
      {parameter ? <Amount parameter={parameter} value={strength} onChange={setStrength} /> : null}
      <footer>
        <Button look="quiet" onPress={() => props.onAssign(null, 1)}>
          Take the look off
        </Button>
        <Grow />
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" isDisabled={revision === null} onPress={() => props.onAssign(revision, strength)}>
          Assign
        </Button>
      </footer>
    </Sheet>
  );
}
