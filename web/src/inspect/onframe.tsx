/** A table or look on a frame, beside another one. */

import { useState } from "react";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import { useCatalogue, useLuts } from "../api/queries";
import type { Inspection } from "../api/types";
import { Choice } from "../kit/choice";

import { Three } from "./apart";

import { differenceOf, nameOf, stillOf, subjectOf, type Subject } from "./subject";

/**
 * A frame before and after, or under the one and the other; pressing a picture shows the first in the place
 * of the second.
 */
export function OnFrame(props: {
  subject: Subject;
  other: Subject | null;
  frame: { id: number; name: string; version: string };
  names: [string, string];
}) {
  const { subject, other, frame } = props;
  const [held, setHeld] = useState(false);
  const first = other
    ? stillOf(other, frame.id, 480)
    : `/api/frames/${frame.id}/still?width=480&v=${frame.version}`;
  const second = stillOf(subject, frame.id, 480);
  return (
    <Three>
      <figure>
        <img src={first} alt={`${frame.name}, ${props.names[0]}`} />
        <figcaption>{props.names[0]}</figcaption>
      </figure>
      <figure>
        <Blink
          aria-label="Hold to see the first picture here"
          onPressStart={() => setHeld(true)}
          onPressEnd={() => setHeld(false)}
        >
          <img src={held ? first : second} alt={`${frame.name}, ${held ? props.names[0] : props.names[1]}`} />
        </Blink>
        <figcaption>
          {held ? props.names[0] : props.names[1]} <span>hold to blink</span>
        </figcaption>
      </figure>
      <figure>
        <img
          src={differenceOf(subject, other, frame.id, 480)}
          alt="How far apart they are: white from ΔE 20"
        />
        <figcaption>
          difference <span>white = ΔE 20</span>
        </figcaption>
      </figure>
    </Three>
  );
}

const Blink = styled(AriaButton)`
  border: 0;
  padding: 0;
  background: none;
  width: 100%;
  cursor: pointer;
  display: block;
`;

/** What it is held against: nothing, a look of the catalogue, or a LUT. */
export function Compare(props: {
  subject: Subject;
  other: Subject | null;
  nearest: Inspection["nearest"];
  onChoose: (other: Subject | null) => void;
}) {
  const luts = useLuts().data ?? [];
  const looks = useCatalogue().data?.cards ?? [];
  const near = new Map(props.nearest.map((n) => [n.look, n.apart]));
  const options = [
    { key: "none", label: "nothing" },
    ...looks
      .map((c) => ({
        key: `look/${c.id}`,
        label: c.name,
        note: near.has(c.id) ? `ΔE ${near.get(c.id)?.toFixed(1)}` : "look",
      }))
      .sort((a, b) => Number(b.note.startsWith("ΔE")) - Number(a.note.startsWith("ΔE"))),
    ...luts.map((l) => ({ key: `lut/${l.id}`, label: l.name, note: "LUT" })),
  ].filter((o) => o.key !== nameOf(props.subject));
  return (
    <>
      held against
      <Choice
        look="bare"
        hidden
        label="Held against"
        chosen={props.other ? nameOf(props.other) : "none"}
        options={options}
        onChange={(key) => {
          const [kind, id] = key.split("/");
          props.onChoose(subjectOf(kind, id));
        }}
      />
    </>
  );
}
