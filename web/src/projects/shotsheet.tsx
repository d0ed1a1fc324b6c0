/** One shot: its trim, done before the look, while the finished picture is seen. */
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import styled from "styled-components";
import { got, server } from "../api/client";
import { asked, useEncodingLabel, useKinds } from "../api/queries";
import type { Look, Parameter, Shot, Trim } from "../api/types";
import { TrimFields } from "../frames/trimfields";
import { Amount } from "../kit/amount";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Segments } from "../kit/segments";
import { Text } from "../kit/text";
import { Sheet } from "../kit/sheet";
import { Trouble } from "../kit/trouble";
import { useFeed, useTrouble, type Wish } from "../viewer/live";
import { Stage, type Mode } from "../viewer/stage";
import { Grow } from "../kit/layout";

const Layout = styled.div`
  display: grid;
  grid-template-columns: 1fr 250px;
  gap: 20px;
  height: min(66vh, 560px);
  .left {
    display: flex;
    flex-direction: column;
    gap: 10px;
    min-width: 0;
    min-height: 0;
  }
  .right {
    display: flex;
    flex-direction: column;
    gap: 10px;
    overflow-y: auto;
    padding-right: 7px;
  }
  p {
    color: var(--t2);
  }
`;

const NONE: Trim = { exposure: 0, temperature: 0, tint: 0, contrast: 1 };

export function ShotSheet(props: { project: number; shot: Shot; onClose: () => void; onRemove: () => void }) {
  const { shot } = props;
  const { revision } = shot;
  const [name, setName] = useState(shot.name);
  const [trim, setTrim] = useState<Trim>(shot.trim);
  const [strength, setStrength] = useState(shot.strength);
  const [mode, setMode] = useState<Mode>("look");
  const { data: kinds } = useKinds();
  const label = useEncodingLabel();
  const parameter = (kinds?.[0]?.parameters as { properties: Record<string, Parameter> } | undefined)?.properties.strength;
  const recipe = useQuery({ ...asked.recipe(revision?.id ?? 0), enabled: revision !== null });
  const look = useMemo<Look | undefined>(
    () => (revision ? recipe.data : { input: shot.frame.encoding, output: shot.frame.encoding, steps: [] }),
    [revision, recipe.data, shot.frame.encoding],
  );
  const wish = useMemo<Wish | null>(
    () => (look ? { look, strength, trim, frame: shot.frame.id, traces: false } : null),
    [look, strength, trim, shot.frame.id],
  );
  const feed = useFeed(wish);
  const trouble = useTrouble(feed);
  const keep = useWrite(
    () =>
      got(
        server.PATCH("/api/projects/{project_id}/shots/{shot_id}", {
          params: { path: { project_id: props.project, shot_id: shot.id } },
          body: { name, trim, strength },
        }),
      ),
    ["project"],
    props.onClose,
  );
  return (
    <Sheet
      title={`Shot ${shot.number} · ${shot.name}`}
      note={`${label(shot.frame.encoding)}${revision ? `, under ${revision.look_name} r${revision.number}` : ""}`}
      width={1100}
      onClose={props.onClose}
    >
      <Layout>
        <div className="left">
          <Stage
            frame={shot.frame}
            input={shot.frame.encoding}
            feed={feed}
            mode={mode}
            wish={wish}
            trimmed={false}
            name={revision ? "trim and look" : "trim"}
          />
          <div>
            <Segments
              label="Show"
              options={
                [
                  ["original", "Before"],
                  ["look", "After"],
                  ["split", "Split"],
                ] as const
              }
              chosen={mode}
              onChange={setMode}
            />
          </div>
        </div>
        <div className="right">
          <h2>Trim of this shot</h2>
          <p>Done before the look; the look stays as it is.</p>
          <TrimFields trim={trim} onChange={setTrim} />
          <div style={{ display: "flex", gap: 6 }}>
            <Button look="quiet" onPress={() => setTrim(NONE)}>
              No trim
            </Button>
            <Button look="quiet" onPress={() => setTrim(shot.frame.trim)}>
              As the frame
            </Button>
          </div>
          {revision && parameter ? (
            <>
              <h2>Look</h2>
              <Amount label="Strength of the look" parameter={parameter} value={strength} onChange={setStrength} />
            </>
          ) : null}
          <Text label="Name of the shot" value={name} onChange={setName} maxLength={120} />
          <Trouble error={keep.error ?? recipe.error ?? trouble} />
          <Grow />
          <Button look="quiet" onPress={props.onRemove}>
            Take the shot out
          </Button>
          <Button look="main" isDisabled={!name.trim()} onPress={() => keep.mutate()}>
            Keep
          </Button>
        </div>
      </Layout>
    </Sheet>
  );
}
