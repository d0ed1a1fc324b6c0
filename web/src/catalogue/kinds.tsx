/** Values of a kind of filter, to be chosen. */
import { useState } from "react";
import { ToggleButton, ToggleButtonGroup, type Key } from "react-aria-components";

import type { Counted } from "../api/types";

import { Text } from "../kit/text";

import { type Filters } from "./filters";
import styled from "styled-components";

const Find = styled.div`
  margin-top: 7px;
`;

/** Tags that stand there without being asked for. */
const TAGS = 12;

/** One kind to narrow by: values with how many looks each would leave. */
export function Kind(props: {
  name: string;
  options: readonly Counted[];
  chosen: string[];
  several?: boolean;
  chips?: boolean;
  label?: (name: string) => string;
  /** Whether what it holds follows a search. */
  follows?: (name: string) => boolean;
  onChoose: (names: string[]) => void;
  children?: React.ReactNode;
}) {
  const label = props.label ?? ((name: string) => name);
  // What is chosen can be let go of, also where it leaves nothing.
  const gone = props.chosen
    .filter((name) => !props.options.some((o) => o.name === name))
    .map((name) => ({ name, count: 0 }));
  const options = [...props.options, ...gone];
  if (!options.length && !props.children) return null;
  return (
    <section>
      <h2>
        {props.name}
        {props.children}
      </h2>
      <ToggleButtonGroup
        className={props.chips ? "chips" : "rows"}
        aria-label={props.name}
        selectionMode={props.several ? "multiple" : "single"}
        selectedKeys={props.chosen}
        orientation={props.chips ? "horizontal" : "vertical"}
        onSelectionChange={(keys: Set<Key>) => props.onChoose([...keys].map(String))}
      >
        {options.map((o) => (
          <ToggleButton key={o.name} id={o.name}>
            <span
              className={props.follows?.(o.name) ? "follows" : ""}
              title={props.follows?.(o.name) ? "follows a search" : undefined}
            >
              {label(o.name)}
            </span>
            {/* The space parts the two for who hears them. */}
            {props.chips ? null : <> {<span>{o.count.toLocaleString("en")}</span>}</>}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </section>
  );
}

/** The most used tags, and the others behind a field. */
export function Tags(props: { tags: Counted[]; by: Filters }) {
  const [word, setWord] = useState("");
  const chosen = props.by.all("tag");
  const lower = word.trim().toLowerCase();
  const shown = lower ? props.tags.filter((t) => t.name.includes(lower)) : props.tags;
  const first = shown.slice(0, lower ? 40 : TAGS);
  const others = props.tags.length - TAGS;
  return (
    <section>
      <Kind
        name="Tags"
        chips
        several
        options={first.filter((t) => !chosen.includes(t.name) || first.includes(t))}
        chosen={chosen}
        onChoose={(names) => {
          // Tags that are out of sight stay chosen.
          props.by.putAll("tag", names);
          setWord("");
        }}
      />
      {others > 0 ? (
        <Find>
          <Text
            label="Find a tag"
            hidden
            search
            hint={`${others} more tags`}
            value={word}
            onChange={setWord}
            maxLength={40}
          />
        </Find>
      ) : null}
    </section>
  );
}
