/**
 * What the draft is held against: the original, its revisions, states set aside, other looks, a reference
 * picture.
 */
import { useState } from "react";
import { Collection, Header, Menu, MenuItem, MenuSection, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import { got, server } from "../api/client";
import { asked, client, useCatalogue } from "../api/queries";
import type { Frame, LookRecord } from "../api/types";
import { Button } from "../kit/button";
import { Menued } from "../kit/menued";
import { Saucer, saucerOf } from "../kit/saucer";
import { Trouble } from "../kit/trouble";
import { setAside, useStates } from "./states";
import { useBench } from "./store";
import { RIVALS, toggleRival, useView, view, type Rival } from "./view";

const Centred = styled(Menu)`
  outline: none;
  [role="menuitem"] {
    align-items: center;
  }
  .held {
    width: 12px;
  }
`;

interface Offer {
  id: string;
  name: string;
  note?: string;
  saucer?: string;
  make: () => Promise<Rival>;
}

/** The menu of what to hold the draft against; `single`: only one at a time, and no reference pictures. */
export function RivalMenu(props: { record: LookRecord; frames: Frame[]; single: boolean }) {
  const { record } = props;
  const rivals = useView((s) => s.rivals);
  const states = useStates((s) => s.states);
  const { data } = useCatalogue();
  const [error, setError] = useState<unknown>(null);
  const revision = (id: number, name: string) => async (): Promise<Rival> => ({
    key: `revision-${id}`,
    name,
    look: await client.fetchQuery(asked.recipe(id)),
  });
  const sections: { title: string; items: Offer[] }[] = [
    {
      title: "States set aside",
      items: states.map((s) => ({
        id: `state-${s.name}`,
        name: s.name,
        make: () => Promise.resolve({ key: `state-${s.name}`, name: s.name, look: s.look }),
      })),
    },
    {
      title: "Revisions of this look",
      items: record.revisions.map((r) => ({
        id: `revision-${r.id}`,
        name: `r${r.number}`,
        note: r.note.slice(0, 40),
        make: revision(r.id, `r${r.number}`),
      })),
    },
    {
      title: "Kin",
      items: [...(record.parent ? [record.parent] : []), ...record.variations].map((k) => ({
        id: `look-${k.id}`,
        name: k.name,
        note: k.id === record.parent?.id ? "parent" : "variation",
        make: async () => ({
          key: `look-${k.id}`,
          name: k.name,
          look: (await got(server.GET("/api/looks/{look_id}", { params: { path: { look_id: k.id } } })))
            .draft,
        }),
      })),
    },
    {
      title: "Other looks",
      items: (data?.cards ?? [])
        .filter((c) => c.revision.look_id !== record.id)
        .map((c) => ({
          id: `revision-${c.revision.id}`,
          name: c.name,
          note: `r${c.revision.number}`,
          saucer: saucerOf(c.revision),
          make: revision(c.revision.id, `${c.name} r${c.revision.number}`),
        })),
    },
    {
      title: "A reference picture, as it is",
      items: props.single
        ? []
        : props.frames.map((f) => ({
            id: `frame-${f.id}`,
            name: f.name,
            make: () => Promise.resolve({ key: `frame-${f.id}`, name: f.name, look: null, frame: f.id }),
          })),
    },
  ].filter((s) => s.items.length);
  const all = sections.flatMap((s) => s.items);
  const take = async (key: string) => {
    setError(null);
    if (key === "aside") {
      setAside(useBench.getState().draft);
      return;
    }
    if (key === "none") {
      view({ rivals: [] });
      return;
    }
    try {
      const rival = await all.find((o) => o.id === key)!.make();
      if (props.single) view({ rivals: rivals.some((r) => r.key === rival.key) ? [] : [rival] });
      else toggleRival(rival);
    } catch (problem) {
      setError(problem);
    }
  };
  const against = rivals.find((r) => r.look);
  const label = props.single
    ? against
      ? `against ${against.name}`
      : "against the original"
    : rivals.length
      ? `${rivals.length} of ${RIVALS}`
      : "choose what";
  return (
    <>
      <MenuTrigger>
        <Button look="quiet" aria-label={`Held against: ${label}`}>
          {label.length > 24 ? `${label.slice(0, 23)}…` : label} ▾
        </Button>
        <Menued placement="top start">
          <Centred aria-label="Hold against" onAction={(key) => void take(String(key))}>
            <MenuSection id="own">
              <MenuItem id="aside">Set the draft aside as a state</MenuItem>
              {rivals.length ? (
                <MenuItem id="none">{props.single ? "Against the original" : "Take all away"}</MenuItem>
              ) : null}
            </MenuSection>
            {sections.map((s) => (
              <MenuSection key={s.title} id={s.title}>
                <Header>{s.title}</Header>
                <Collection items={s.items}>
                  {(o) => (
                    <MenuItem id={o.id} textValue={o.name}>
                      <span className="held">{rivals.some((r) => r.key === o.id) ? "✓" : ""}</span>
                      {o.saucer ? <Saucer src={o.saucer} size={20} /> : null}
                      {o.name}
                      {o.note ? <small>{o.note}</small> : null}
                    </MenuItem>
                  )}
                </Collection>
              </MenuSection>
            ))}
          </Centred>
        </Menued>
      </MenuTrigger>
      <Trouble error={error} />
    </>
  );
}
