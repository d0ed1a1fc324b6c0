/** The left column of the catalogue: on which frame looks are shown, and what they are narrowed by. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { DropZone, FileTrigger, ToggleButton, ToggleButtonGroup, type Key } from "react-aria-components";
import styled from "styled-components";
import { declared } from "../api/declared";
import { formOf, got, server } from "../api/client";
import { useEncodingLabel, useMe } from "../api/queries";
import type { Counted, Frame, FilterValues } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Fields } from "../kit/layout";
import { FrameChoice } from "../kit/framechoice";
import { Sheet } from "../kit/sheet";
import { Switch } from "../kit/switch";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";
import { askedOf, catalogueChanged, useScales } from "./asked";
import { filtersOf, type Filters, type Several } from "./filters";
import { Spread } from "./spread";

const Column = styled.aside`
  width: 216px;
  flex: none;
  border-right: 1px solid var(--line);
  background: var(--g1);
  padding: 14px 16px;
  overflow-y: auto;
  display: flex;
  flex-direction: column;
  gap: 16px;
  .shown {
    display: flex;
    gap: 10px;
    align-items: center;
    color: var(--t2);
    font-size: 12px;
  }
  .shown img {
    width: 64px;
    height: 36px;
    object-fit: cover;
    border-radius: 3px;
  }
  .fornow {
    margin: -10px -8px 0;
    border-radius: 6px;
    border: 1px dashed transparent;
    outline-offset: 0;
  }
  .fornow button {
    height: 24px;
    font-size: 12px;
  }
  .fornow[data-drop-target] {
    border-color: var(--accent);
  }
  h2 {
    display: flex;
    justify-content: space-between;
    align-items: center;
    margin-bottom: 5px;
  }
  h2 button {
    height: 20px;
    padding: 0 6px;
    font-size: 12px;
    font-weight: 400;
  }
  .rows {
    display: flex;
    flex-direction: column;
  }
  .rows button {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    background: none;
    border: 0;
    padding: 3px 6px;
    margin: 0 -6px;
    cursor: pointer;
    border-radius: 4px;
    color: var(--t2);
    text-align: left;
  }
  .rows button > span:first-child {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .chips {
    display: flex;
    flex-wrap: wrap;
    gap: 5px;
  }
  .chips button {
    border: 0;
    border-radius: 12px;
    padding: 3px 10px;
    background: var(--g3);
    color: var(--t2);
    cursor: pointer;
    font-size: 12px;
    max-width: 100%;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .follows {
    font-style: italic;
  }
  .rows button[data-hovered],
  .chips button[data-hovered] {
    color: var(--t1);
  }
  .rows button[data-selected],
  .chips button[data-selected] {
    color: var(--t1);
    background: var(--g4);
    font-weight: 600;
  }
`;

/** Tags that stand there without being asked for. */
const TAGS = 12;

/** One kind to narrow by: values with how many looks each would leave. */
function Kind(props: {
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
function Tags(props: { tags: Counted[]; by: Filters }) {
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
        <div style={{ marginTop: 7 }}>
          <Text
            label="Find a tag"
            hidden
            search
            hint={`${others} more tags`}
            value={word}
            onChange={setWord}
            maxLength={40}
          />
        </div>
      ) : null}
    </section>
  );
}

/** A name for what the catalogue is narrowed to now: a search of one's own, or a collection that it keeps. */
function KeepSearch(props: { by: Filters; onClose: () => void }) {
  const [name, setName] = useState("");
  const [shared, setShared] = useState(false);
  const { data: me } = useMe();
  const search = filtersOf(props.by.search).toString();
  const keep = useMutation({
    mutationFn: async () => {
      if (shared) await got(server.POST("/api/collections", { body: { name, search } }));
      else await got(server.POST("/api/catalogue/searches", { body: { name, search } }));
    },
    onSuccess: () => {
      void catalogueChanged();
      props.onClose();
    },
  });
  return (
    <Sheet title="Keep this search" width={420} onClose={props.onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          keep.mutate();
        }}
      >
        <Fields>
          <Text label="Name" value={name} onChange={setName} maxLength={80} autoFocus required />
          {me?.may_design ? (
            <Switch label="For everybody, as a collection that follows it" on={shared} onChange={setShared} />
          ) : null}
          <Trouble error={keep.error} />
        </Fields>
        <footer>
          <Button onPress={props.onClose}>Cancel</Button>
          <Button look="main" type="submit" isDisabled={!name.trim() || keep.isPending}>
            Keep
          </Button>
        </footer>
      </form>
    </Sheet>
  );
}

/** Searches that one kept. */
function Searches({ by }: { by: Filters }) {
  const { data } = useQuery(askedOf.searches);
  const drop = useMutation({
    mutationFn: (id: number) =>
      got(server.DELETE("/api/catalogue/searches/{search_id}", { params: { path: { search_id: id } } })),
    onSuccess: catalogueChanged,
  });
  const now = filtersOf(by.search).toString();
  if (!data?.length) return null;
  return (
    <section>
      <h2>Kept searches</h2>
      <div className="rows">
        {data.map((s) => (
          <span key={s.id} style={{ display: "flex" }}>
            <ToggleButton
              style={{ flex: 1 }}
              isSelected={new URLSearchParams(s.search).toString() === now}
              onChange={(on) => (on ? by.open(s.search) : by.clear())}
            >
              <span>{s.name}</span>
            </ToggleButton>
            <Button look="icon" aria-label={`Let go of ${s.name}`} onPress={() => drop.mutate(s.id)}>
              ✕
            </Button>
          </span>
        ))}
      </div>
    </section>
  );
}

/** A picture of one's own to see looks on, for now: nobody else sees it. */
function ForNow(props: { frame: Frame | null; onFrame: (id: number) => void }) {
  const { frame } = props;
  const bring = useWrite(
    (file: File) => {
      return got(
        server.POST("/api/frames", {
          body: formOf(file, { name: file.name.slice(0, 120), passing: "true" }),
        }),
      );
    },
    ["frames"],
    (made) => props.onFrame(made.id),
  );
  const keep = useWrite(
    (id: number) =>
      got(
        server.PATCH("/api/frames/{frame_id}", {
          params: { path: { frame_id: id } },
          body: { passing: false } as never,
        }),
      ),
    ["frames"],
  );
  return (
    <DropZone
      className="fornow"
      aria-label="Drop a picture to see looks on it"
      onDrop={(e) => {
        const item = e.items.find((i) => i.kind === "file");
        if (item?.kind === "file") void item.getFile().then((file) => bring.mutate(file));
      }}
    >
      {frame?.passing ? (
        <Button look="quiet" isDisabled={keep.isPending} onPress={() => keep.mutate(frame.id)}>
          Keep it as a frame
        </Button>
      ) : (
        <FileTrigger
          acceptedFileTypes={declared.pictures}
          onSelect={(files) => files?.[0] && bring.mutate(files[0])}
        >
          <Button look="quiet" isDisabled={bring.isPending}>
            {bring.isPending ? "Reading …" : "A picture of yours, for now"}
          </Button>
        </FileTrigger>
      )}
      <Trouble error={bring.error ?? keep.error} />
    </DropZone>
  );
}

export function Aside(props: {
  by: Filters;
  data: FilterValues | undefined;
  all: Frame[];
  frame: Frame | null;
  onFrame: (id: number) => void;
}) {
  const { by, data, frame } = props;
  const { data: scales = [] } = useScales();
  const [keeping, setKeeping] = useState(false);
  const [more, setMore] = useState(false);
  const label = useEncodingLabel();
  const several = (kind: Several) => ({
    several: true,
    chosen: by.all(kind),
    onChoose: (names: string[]) => by.putAll(kind, names),
  });
  const lights = data?.lights ?? [];
  const ranged = by.all("range").map((r) => r.split(":")[0]);
  const drawn = scales.filter((s, k) => k < 5 || more || ranged.includes(s.key));
  return (
    <Column aria-label="Narrow down">
      <div className="shown">
        {frame ? <img src={`/api/frames/${frame.id}/still?width=128&v=${frame.version}`} alt="" /> : null}
        <span>
          <FrameChoice all={props.all} frame={frame} onChoose={props.onFrame} />
        </span>
      </div>
      <ForNow frame={frame} onFrame={props.onFrame} />
      <Kind
        name="Mine"
        options={[
          { name: "favourites", count: 0 },
          { name: "recent", count: 0 },
        ]}
        chips
        chosen={by.get("mine") ? [by.get("mine")] : []}
        onChoose={([one]) => by.put("mine", one ?? null)}
      />
      <Kind
        name="Collections"
        options={data?.collections ?? []}
        chosen={by.get("collection") ? [by.get("collection")] : []}
        follows={(name) => data?.collections.find((c) => c.name === name)?.kept ?? false}
        onChoose={([one]) => by.put("collection", one ?? null)}
      />
      <Searches by={by} />
      <section>
        <h2>
          What it does
          <Button look="quiet" onPress={() => setMore(!more)} aria-expanded={more}>
            {more ? "fewer" : "more"}
          </Button>
        </h2>
        {data
          ? drawn.map((s) => (
              <Spread
                key={s.key}
                scale={s}
                by={by}
                all={data.all_bars[s.key] ?? []}
                found={data.bars[s.key] ?? []}
              />
            ))
          : null}
      </section>
      {lights.length ? (
        <Kind
          name="Light"
          chips
          several
          options={lights}
          chosen={by.all("tag").filter((t) => lights.some((l) => l.name === t))}
          onChoose={(names) =>
            by.putAll("tag", [...by.all("tag").filter((t) => !lights.some((l) => l.name === t)), ...names])
          }
        />
      ) : null}
      <Kind name="Status" options={data?.statuses ?? []} {...several("status")} />
      <Tags tags={data?.tags ?? []} by={by} />
      <Kind name="May be passed on" options={data?.rights ?? []} {...several("rights")} />
      <Kind
        name="Made"
        options={data?.origins ?? []}
        chosen={by.get("origin") ? [by.get("origin")] : []}
        onChoose={([one]) => by.put("origin", one ?? null)}
      />
      <Kind name="Maker" options={data?.makers ?? []} {...several("maker")} />
      <Kind
        name="Used in"
        options={(data?.projects ?? []).map((p) => ({ name: String(p.id), count: p.count }))}
        label={(id) => data?.projects.find((p) => String(p.id) === id)?.name ?? id}
        chosen={by.get("project") ? [by.get("project")] : []}
        onChoose={([one]) => by.put("project", one ?? null)}
      />
      <Kind name="Expects" options={data?.expects ?? []} label={label} {...several("expects")} />
      {frame ? (
        <Switch
          label={`fits ${frame.name}`}
          on={by.get("fits") !== ""}
          onChange={(on) => by.put("fits", on ? String(frame.id) : null)}
        />
      ) : null}
      <label>
        <h2>Kept since</h2>
        <input
          type="date"
          value={by.get("since")}
          onChange={(e) => by.put("since", e.target.value || null)}
        />
      </label>
      {by.set ? <Button onPress={() => setKeeping(true)}>Keep this search</Button> : null}
      {keeping ? <KeepSearch by={by} onClose={() => setKeeping(false)} /> : null}
    </Column>
  );
}
