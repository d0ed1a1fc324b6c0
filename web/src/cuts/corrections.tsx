/** Events for which the list has an ASC CDL: each is taken as the trim of its shot, or left. */
import styled from "styled-components";
import type { Cut, CutStretch, Trim } from "../api/types";
import { Button } from "../kit/button";
import { Quiet } from "../kit/layout";
import { around } from "../kit/partshown";
import { Segments } from "../kit/segments";
import { CHANNELS, NO_TRIM } from "../kit/trim";
import { carryingOf } from "./judging";

const Box = styled.section`
  h2 {
    font-size: 13px;
    font-weight: 600;
    color: var(--t1);
    margin-right: 9px;
  }
  header {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 2px 6px;
  }
  ul {
    list-style: none;
    padding: 0;
    margin-top: 8px;
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 5px 10px;
    align-items: center;
    padding: 8px 0;
    border-top: 1px solid var(--line);
    font-size: 12px;
  }
  strong {
    display: block;
    font-size: 13px;
    font-weight: 600;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;
const Two = styled.div`
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
  figure {
    margin: 0;
  }
  img {
    display: block;
    width: 100%;
    height: 58px;
    object-fit: cover;
    border-radius: 3px;
    background: var(--field);
  }
  figcaption {
    color: var(--t2);
  }
`;

const slopes = (trim: Trim) => `slope ${CHANNELS.map((c) => trim[c].slope.toFixed(2)).join(" ")}`;

const trimmedOf = (project: number, shot: number, trim: Trim) =>
  `/api/projects/${project}/shots/${shot}/trimmed?width=240&trim=${encodeURIComponent(JSON.stringify(trim))}`;

/** onTake: with the places of all events whose CDL is to be the trim. */
export function Corrections(props: {
  project: number;
  cut: Cut;
  disabled: boolean;
  onTake: (places: number[]) => void;
}) {
  const events = carryingOf(props.cut);
  if (!events.length) return null;
  const taken = events.filter((event) => event.taken).map((event) => event.place);
  const can = events.filter((event) => event.cdl && event.clip !== null).map((event) => event.place);
  const say = (place: number, on: boolean) =>
    props.onTake(on ? [...taken, place] : taken.filter((one) => one !== place));
  return (
    <Box aria-label="CDLs of the list">
      <header>
        <h2>
          {events.length} {events.length === 1 ? "event carries" : "events carry"} a CDL
        </h2>
        <Quiet>offered as trims, instead of those that are there:</Quiet>
        <Button look="quiet" isDisabled={props.disabled} onPress={() => props.onTake(can)}>
          take all
        </Button>
        <Button look="quiet" isDisabled={props.disabled} onPress={() => props.onTake([])}>
          leave all
        </Button>
      </header>
      <ul>
        {events.map((event) => (
          <OneCorrection key={event.place} {...props} event={event} onSay={(on) => say(event.place, on)} />
        ))}
      </ul>
    </Box>
  );
}

function OneCorrection(props: {
  project: number;
  event: CutStretch;
  disabled: boolean;
  onSay: (on: boolean) => void;
}) {
  const { event, project } = props;
  return (
    <li>
      <div>
        <strong title={event.name}>
          {event.number} · {event.name}
        </strong>
        <Quiet>{event.cdl ? slopes(event.cdl) : "beyond what a trim has"}</Quiet>
      </div>
      {event.cdl && event.clip !== null ? (
        <Segments
          label={`The CDL of ${event.name}`}
          chosen={event.taken ? "take" : "leave"}
          onChange={(key) => !props.disabled && props.onSay(key === "take")}
          options={[
            ["take", "as its trim"],
            ["leave", "leave"],
          ]}
        />
      ) : null}
      {event.cdl && event.shot !== null ? (
        <Two>
          <figure>
            <img
              src={trimmedOf(project, event.shot, event.trim ?? NO_TRIM)}
              alt=""
              loading="lazy"
              style={around(event.part)}
            />
            <figcaption>its trim</figcaption>
          </figure>
          <figure>
            <img
              src={trimmedOf(project, event.shot, event.cdl)}
              alt=""
              loading="lazy"
              style={around(event.part)}
            />
            <figcaption>the CDL</figcaption>
          </figure>
        </Two>
      ) : null}
    </li>
  );
}
