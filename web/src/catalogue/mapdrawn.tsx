/** What was drawn around on the map. */
import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { useMe } from "../api/queries";
import { Button } from "../kit/button";
import type { Mark } from "./atlas";
import type { Filters } from "./filters";
import { IntoCollection } from "./intocollection";
import { APART } from "./maphand";
import { ROOM, useTray } from "./tray";

const Bar = styled.div`
  position: absolute;
  right: 12px;
  bottom: 12px;
  display: flex;
  align-items: center;
  gap: 8px;
  background: var(--g2);
  border: 1px solid var(--g4);
  border-radius: 18px;
  padding: 4px 6px 4px 14px;
  cursor: default;
`;

/** What can be done with the looks that were drawn around. */
export function Drawn(props: { chosen: Mark[]; by: Filters; axes: [string, string]; onClear: () => void }) {
  const { chosen, by } = props;
  const tray = useTray();
  const { data: me } = useMe();
  const navigate = useNavigate();
  const [naming, setNaming] = useState(false);
  const only = () => {
    // To three places, as the marks have them; an end that would cut one of them off is widened.
    const ends = (k: 0 | 1): [number, number] => {
      const values = chosen.map((m) => m.values[k]!);
      return [
        Number((Math.min(...values) - 0.001).toFixed(3)),
        Number((Math.max(...values) + 0.001).toFixed(3)),
      ];
    };
    const others = by.all("range").filter((r) => !props.axes.some((key) => r.startsWith(`${key}:`)));
    by.putAll("range", [...others, ...props.axes.map((key, k) => `${key}:${ends(k as 0 | 1).join(":")}`)]);
    props.onClear();
  };
  return (
    <Bar {...APART} role="group" aria-label="Drawn around">
      <strong>{chosen.length} drawn around</strong>
      {chosen.length <= ROOM ? (
        <Button onPress={() => tray.put([...tray.looks, ...chosen.map((m) => m.id)])}>To the tray</Button>
      ) : null}
      {me?.may_design ? <Button onPress={() => setNaming(true)}>To a collection</Button> : null}
      {chosen.length <= 40 ? (
        <Button
          onPress={() => void navigate(`/catalogue/sheet/new?${chosen.map((m) => `look=${m.id}`).join("&")}`)}
        >
          As a sheet
        </Button>
      ) : null}
      <Button onPress={only}>Only these</Button>
      <Button look="icon" aria-label="Let go of what was drawn around" onPress={props.onClear}>
        ✕
      </Button>
      {naming ? <IntoCollection looks={chosen.map((m) => m.id)} onClose={() => setNaming(false)} /> : null}
    </Bar>
  );
}
