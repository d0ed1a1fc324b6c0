/** The left column of the catalogue: on which frame looks are shown, and what they are narrowed by. */
import { useState } from "react";
import { DropZone, FileTrigger } from "react-aria-components";
import styled from "styled-components";
import { declared } from "../api/declared";
import { formOf, got, server } from "../api/client";
import { useEncodingLabel } from "../api/queries";
import type { Frame, FilterValues } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";

import { FrameChoice } from "../kit/framechoice";

import { Switch } from "../kit/switch";

import { Trouble } from "../kit/trouble";
import { around } from "../kit/partshown";
import { useScales } from "./asked";
import { type Filters, type Several } from "./filters";
import { Spread } from "./spread";
import { Kind, Tags } from "./kinds";
import { Searches, KeepSearch } from "./searches";

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
        {frame ? (
          <img
            src={`/api/frames/${frame.id}/still?width=128&v=${frame.version}`}
            alt=""
            style={around(frame.part)}
          />
        ) : null}
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
