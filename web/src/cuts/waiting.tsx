/** Events that have no clip: what the list says of each, and the clip that somebody chooses. */
import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import type { Cut, CutStretch } from "../api/types";
import { Choice } from "../kit/choice";
import { Quiet } from "../kit/layout";
import { askedOfProject } from "../projects/asked";
import { waitingOf } from "./judging";

const Box = styled.section`
  h2 {
    font-size: 13px;
    font-weight: 600;
    color: var(--warn);
    display: inline;
    margin-right: 9px;
  }
  ul {
    list-style: none;
    padding: 0;
    margin-top: 8px;
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 132px;
    gap: 2px 10px;
    align-items: center;
    padding: 7px 0;
    border-top: 1px solid var(--line);
    font-size: 12px;
  }
  strong {
    font-size: 13px;
    font-weight: 600;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;
const Told = styled(Quiet)`
  grid-column: 1 / -1;
  font-variant-numeric: tabular-nums;
`;

/** onChoose: with the place of the event. */
export function WaitingEvents(props: {
  cut: Cut;
  disabled: boolean;
  onChoose: (place: number, clip: number) => void;
}) {
  const events = waitingOf(props.cut);
  const clips = useQuery({ ...askedOfProject.clips, enabled: events.length > 0 });
  if (!events.length) return null;
  const names =
    clips.data?.filter((clip) => clip.facts).map((clip) => ({ id: clip.id, name: clip.name })) ?? [];
  return (
    <Box aria-label="Events that wait for a clip">
      <h2>
        {events.length} {events.length === 1 ? "event waits" : "events wait"} for a clip
      </h2>
      <Quiet>each becomes a shot when its clip comes</Quiet>
      <ul>
        {events.map((event) => (
          <li key={event.place}>
            <strong title={event.name}>{event.name}</strong>
            <Choice
              label={`Clip of ${event.name}`}
              hidden
              empty="Choose a clip"
              disabled={props.disabled}
              chosen={null}
              options={optionsOf(event, names)}
              onChange={(clip) => props.onChoose(event.place, clip)}
            />
            <Told>{[event.reel, event.range, event.why].filter(Boolean).join(" · ")}</Told>
          </li>
        ))}
      </ul>
    </Box>
  );
}

/** Clips that may be it stand first. */
function optionsOf(event: CutStretch, names: { id: number; name: string }[]) {
  const asked = new Set(event.asked.map((clip) => clip.id));
  return [
    ...event.asked.map((clip) => ({ key: clip.id, label: clip.name, note: "may be it" })),
    ...names.filter((clip) => !asked.has(clip.id)).map((clip) => ({ key: clip.id, label: clip.name })),
  ];
}
