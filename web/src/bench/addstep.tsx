/** Kinds of step to add: a menu that is searched, and the plain list where a look has no step yet. */
import { useRef } from "react";
import {
  Autocomplete,
  Collection,
  Dialog,
  Header,
  Input,
  Menu,
  MenuItem,
  MenuSection,
  SearchField,
  useFilter,
} from "react-aria-components";
import styled from "styled-components";
import { declared } from "../api/declared";
import type { Kind, Preset } from "../api/types";
import { Button } from "../kit/button";
import { Menued } from "../kit/menued";
import { Tip } from "../kit/tip";
import { usePresets } from "./presets";

const PURPOSES: [string, string][] = [
  ["tone", "Tone"],
  ["colour", "Colour"],
  ["mix", "Mix"],
  ["convert", "Convert"],
  ["borrow", "Borrow"],
  ["group", "Together"],
];

const Finder = styled.div`
  width: 290px;
  padding: 4px;
  input {
    width: 100%;
    height: 30px;
    border: 1px solid var(--g4);
    border-radius: var(--r);
    background: var(--g0);
    padding: 0 9px;
    margin-bottom: 4px;
  }
  [role="menu"] {
    outline: none;
  }
  [role="menuitem"] {
    flex-direction: column;
    gap: 0 !important;
    padding: 5px 10px;
  }
  header {
    padding: 7px 10px 2px;
    font-size: 11.5px;
    color: var(--t2);
    font-weight: 600;
  }
`;

/**
 * Where a step is to go: after a row, at the beginning (the empty id), at the end (null); and what was
 * pressed.
 */
export interface Opening {
  after: string | null;
  from: Element;
}

/** The searchable menu of kinds, and of groups kept as presets; one for all places. */
export function AddStep(props: {
  opening: Opening | null;
  kinds: Kind[];
  onClose: () => void;
  onAdd: (kind: Kind) => void;
  onPreset: (preset: Preset) => void;
}) {
  const { contains } = useFilter({ sensitivity: "base" });
  const { data: groups = [] } = usePresets("group", declared.usual);
  const { opening } = props;
  const from = useRef<Element | null>(null);
  if (opening) from.current = opening.from;
  // What a kind says of itself counts only where no name fits.
  const fits = (text: string, word: string) => {
    const named =
      props.kinds.some((k) => contains(k.title, word)) || groups.some((g) => contains(g.name, word));
    return contains(named ? (text.split(": ")[0] ?? text) : text, word);
  };
  return (
    <Menued
      placement="bottom start"
      triggerRef={from}
      isOpen={!!opening}
      onOpenChange={(open) => !open && props.onClose()}
    >
      <Dialog aria-label="Add a step">
        <Finder>
          <Autocomplete filter={fits}>
            <SearchField aria-label="Find a step" autoFocus>
              <Input placeholder="Find a step" />
            </SearchField>
            <Menu
              aria-label="Kinds of step"
              onAction={(key) => {
                const kind = props.kinds.find((k) => k.kind === key);
                const preset = groups.find((g) => `group-${g.id}-${g.name}` === key);
                if (kind) props.onAdd(kind);
                else if (preset) props.onPreset(preset);
                props.onClose();
              }}
            >
              {PURPOSES.map(([purpose, title]) => (
                <MenuSection key={purpose}>
                  <Header>{title}</Header>
                  <Collection items={props.kinds.filter((k) => k.purpose === purpose)}>
                    {(k: Kind) => (
                      <MenuItem id={k.kind} textValue={`${k.title}: ${k.summary}`}>
                        {k.title}
                        <small>{k.summary}</small>
                      </MenuItem>
                    )}
                  </Collection>
                </MenuSection>
              ))}
              <MenuSection>
                <Header>Groups ready made</Header>
                <Collection items={groups.map((g) => ({ ...g, key: `group-${g.id}-${g.name}` }))}>
                  {(g) => (
                    <MenuItem id={g.key} textValue={g.name}>
                      {g.name}
                      <small>{[g.owner, g.note].filter(Boolean).join(" · ")}</small>
                    </MenuItem>
                  )}
                </Collection>
              </MenuSection>
            </Menu>
          </Autocomplete>
        </Finder>
      </Dialog>
    </Menued>
  );
}

const Kinds = styled.section`
  padding: 10px 10px 4px 14px;
  border-top: 1px solid var(--line);
  margin-top: 12px;
  h3 {
    font-size: 11.5px;
    font-weight: 400;
    color: var(--t2);
    margin: 8px 0 1px;
  }
  div {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 0 4px;
  }
  .long {
    grid-column: 1 / -1;
  }
  div button {
    padding: 0 4px;
    height: 25px;
    font-weight: 400;
    color: var(--t1);
    white-space: nowrap;
  }
`;
/** A longer name takes a line for itself. */
const HALF_A_LINE = 13;

/** Every kind by its purpose, to begin with. */
export function StepByStep({ kinds, onAdd }: { kinds: Kind[]; onAdd: (kind: Kind) => void }) {
  return (
    <Kinds aria-label="Step by step">
      <h2>Step by step</h2>
      {PURPOSES.map(([purpose, title]) => {
        const some = kinds.filter((k) => k.purpose === purpose);
        return some.length ? (
          <section key={purpose} aria-label={title}>
            <h3>{title}</h3>
            <div>
              {some.map((k) => (
                <span key={k.kind} className={k.title.length > HALF_A_LINE ? "long" : ""}>
                  <Tip name={k.summary} delay={500}>
                    <Button look="quiet" onPress={() => onAdd(k)}>
                      {k.title}
                    </Button>
                  </Tip>
                </span>
              ))}
            </div>
          </section>
        ) : null;
      })}
    </Kinds>
  );
}
