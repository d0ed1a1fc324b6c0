/**
 * Ways to begin where a look has no step yet: each is shown on the frame before it is taken, and one undo
 * takes it back.
 */
import { useQuery } from "@tanstack/react-query";
import { memo, useEffect, useState, type ReactNode } from "react";
import { Dialog, DialogTrigger, ListBox, ListBoxItem } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { declared } from "../api/declared";
import { asked, client, useCatalogue, useKinds } from "../api/queries";
import type { BorrowedLut, Frame, Group, Kind, Look, Preset, Revision, Step, StepOf } from "../api/types";
import { Button } from "../kit/button";
import { Menued } from "../kit/menued";
import { Switch } from "../kit/switch";
import { Trouble } from "../kit/trouble";
import { Column } from "./column";
import { BringIn, wearing } from "./kinds/lut";
import { useLooksToPick, useTablesToPick } from "./kinds/pickable";
import { PickList, type Pickable } from "./kinds/picker";
import { usePresets } from "./presets";
import { copy, create } from "./steps";
import { useBench } from "./store";
import { Thumb } from "./thumb";
import { view } from "./view";
import { Said } from "../kit/layout";

const Ways = styled.div`
  display: grid;
  gap: 8px;
  margin-bottom: 20px;
  > h2 {
    display: flex;
    justify-content: space-between;
    font-weight: 600;
  }
  > h2 span {
    font-weight: 400;
  }
  .groups {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 10px 8px;
    outline: none;
  }
  .groups [role="option"] {
    cursor: pointer;
    outline: none;
    min-width: 0;
  }
  .groups img,
  .groups i {
    display: block;
    width: 100%;
    aspect-ratio: 16 / 9;
    object-fit: cover;
    border-radius: 3px;
    background: var(--g0);
  }
  .groups [data-hovered] img,
  .groups [data-hovered] i {
    box-shadow: 0 0 0 1.5px var(--t2);
  }
  .groups [data-focus-visible] img,
  .groups [data-focus-visible] i {
    box-shadow:
      0 0 0 2px var(--g1),
      0 0 0 3.5px var(--t1);
  }
  b {
    display: block;
    font-weight: 560;
    margin-top: 4px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  small {
    display: block;
    color: var(--t2);
    font-size: 11.5px;
  }
  .way a {
    white-space: nowrap;
  }
  .way {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 10px;
    padding: 8px 0;
    border-top: 1px solid var(--line);
  }
  .way b {
    margin: 0;
  }
`;
/** Looks that begin with those ways, as the core begins them; null where one is of no use to what comes in. */
const begun = async ({ input, output }: Look, ways: Step[][]) =>
  got(server.POST("/api/begun", { body: { input, output, ways } }));

/** The one look that begins with that step, for a draft that has none. */
async function begunWith(draft: Look, step: Step): Promise<Look> {
  const [look] = await begun(draft, [[step]]);
  return { ...draft, steps: look?.steps ?? [step] };
}

/**
 * Nothing is pointed at: the frame is shown as it comes in, also where an empty look could not be computed to
 * what goes out.
 */
function unseen(): void {
  const { draft } = useBench.getState();
  view({
    preview:
      draft.steps.length || draft.input === draft.output
        ? null
        : { name: "", look: { ...draft, output: draft.input } },
  });
}

/** A ready-made group as the one step of a look. */
const asStep = (preset: Preset): Step => {
  const group = preset.content as unknown as Group;
  return { ...group, id: "begin", label: group.label || preset.name };
};

function take(name: string, look: Look): void {
  view({ preview: null });
  useBench.getState().change(`Begin with ${name}`, () => look);
  const last = look.steps.at(-1);
  useBench.getState().choose(new Set(last ? [last.id] : []));
}

export const Begin = memo(function Begin({ frame }: { frame: Frame | null }) {
  const draft = useBench((s) => s.draft);
  const { data: kinds = [] } = useKinds();
  const { data: presets } = usePresets("group", declared.usual);
  const { data: looks = [] } = useQuery({
    queryKey: ["begun", "groups", draft.input, draft.output, presets?.map((p) => [p.id, p.name])],
    queryFn: () =>
      begun(
        draft,
        (presets ?? []).map((p) => [asStep(p)]),
      ),
    enabled: presets !== undefined,
    staleTime: Infinity,
  });
  useEffect(unseen, [draft.input, draft.output]);
  useEffect(() => () => view({ preview: null }), []);
  const groups = (presets ?? []).flatMap((preset, k) => {
    const begins = looks[k];
    // Strength and finish of the draft stay as they are.
    const look = begins ? { ...draft, steps: begins.steps } : null;
    return look ? [{ preset, key: `${preset.id || "given"}-${preset.name}`, look }] : [];
  });
  const takeGroup = (key: string) => {
    const found = groups.find((g) => g.key === key);
    if (found) take(found.preset.name, { ...found.look, steps: found.look.steps.map(copy) });
  };
  return (
    <Column aria-label="Control">
      <header>
        <h1>Begin</h1>
        {frame ? <span>each shown on {frame.name}</span> : null}
      </header>
      {frame && groups.length ? (
        <Ways>
          <h2>
            With a ready-made group <span>{groups.length}</span>
          </h2>
          <ListBox
            className="groups"
            aria-label="Ready-made groups"
            layout="grid"
            selectionMode="none"
            items={groups}
            onAction={(key) => takeGroup(String(key))}
            onPointerLeave={unseen}
            onBlur={unseen}
          >
            {({ preset, key, look }) => (
              <ListBoxItem
                id={key}
                textValue={preset.name}
                onHoverStart={() => view({ preview: { name: preset.name, look } })}
                onFocus={() => view({ preview: { name: preset.name, look } })}
              >
                <Thumb frame={frame} look={look} mark={`${draft.input} ${draft.output} ${key}`} width={160} />
                <b>{preset.name}</b>
                <small>
                  {[preset.owner, preset.note].filter(Boolean).join(" · ") ||
                    `${(preset.content as unknown as Group).steps.length} steps`}
                </small>
              </ListBoxItem>
            )}
          </ListBox>
        </Ways>
      ) : null}
      <Ways>
        <h2>With something that exists</h2>
        <FromLook kinds={kinds} />
        <FromTable kinds={kinds} />
        <div className="way">
          <span>
            <b>From elsewhere</b>
            <small>files and packs, a carrier, a pair of pictures</small>
          </span>
          <Link to="/catalogue/bring-in">Bring in</Link>
        </div>
      </Ways>
      <Said>
        Pointing or the arrows show one on the frame, a click or Enter takes it. Single steps are in the
        order, beside.
      </Said>
    </Column>
  );
});

interface Given {
  kinds: Kind[];
}

/** A button that opens a list to begin with one of; `seen` of a line is the look that it would be. */
function Choosing(props: { label: string; items: Pickable[]; empty: string; above: ReactNode }) {
  const [open, setOpen] = useState(false);
  const [error, setError] = useState<unknown>(null);
  const use = async (key: string) => {
    setOpen(false);
    const item = props.items.find((i) => i.key === key);
    try {
      if (item) take(item.name, await item.seen());
    } catch (problem) {
      setError(problem);
    }
  };
  return (
    <>
      <DialogTrigger isOpen={open} onOpenChange={setOpen}>
        <Button aria-label={props.label}>Choose</Button>
        <Menued placement="bottom end">
          <Dialog aria-label={props.label}>
            <PickList
              label={props.label}
              items={props.items}
              empty={props.empty}
              above={props.above}
              rest={unseen}
              onTake={(key) => void use(key)}
            />
          </Dialog>
        </Menued>
      </DialogTrigger>
      <Trouble error={error} />
    </>
  );
}

function FromLook({ kinds }: Given) {
  const { data } = useCatalogue();
  const [whole, setWhole] = useState(false);
  const cards = data?.cards ?? [];
  const holder = kinds.find((k) => k.kind === "look");
  const made = async (from: Revision): Promise<Look> => {
    const look = await client.fetchQuery(asked.recipe(from.id));
    const draft = useBench.getState().draft;
    if (!whole || !holder)
      return {
        ...draft,
        input: look.input,
        output: look.output,
        steps: look.steps.map(copy),
        strength: look.strength,
      };
    const held = {
      ...create(holder),
      look,
      revision: from.id,
      name: `${from.look_name} r${from.number}`,
    } as unknown as Step;
    return { ...draft, input: look.input, output: look.output, steps: [held] };
  };
  const items = useLooksToPick(cards, (c) => made(c.revision));
  return (
    <div className="way">
      <span>
        <b>Another look</b>
        <small>its steps as a copy, or held whole; {cards.length} in the catalogue</small>
      </span>
      <Choosing
        label="Begin with another look"
        empty="No look has a revision yet."
        items={items}
        above={<Switch label="Hold it whole, in one step" on={whole} onChange={setWhole} />}
      />
    </div>
  );
}

function FromTable({ kinds }: Given) {
  const [bringing, setBringing] = useState(false);
  const [error, setError] = useState<unknown>(null);
  const kind = kinds.find((k) => k.kind === "lut");
  const through = async (lut: BorrowedLut): Promise<Look> => {
    const { draft } = useBench.getState();
    return kind ? begunWith(draft, wearing(create(kind) as StepOf<"lut">, lut)) : draft;
  };
  const items = useTablesToPick(through);
  return (
    <>
      <div className="way">
        <span>
          <b>A table</b>
          <small>a LUT of the catalogue, or one you bring in</small>
        </span>
        <Choosing
          label="Begin with a table"
          empty="No LUT was brought in yet."
          items={items}
          above={<Button onPress={() => setBringing(true)}>Bring in a LUT</Button>}
        />
      </div>
      {bringing ? (
        <BringIn
          onClose={() => setBringing(false)}
          onDone={(lut) => void through(lut).then((look) => take(lut.name, look), setError)}
        />
      ) : null}
      <Trouble error={error} />
    </>
  );
}
