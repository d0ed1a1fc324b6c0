/** Who holds how much: files and work under way, of people and projects. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import styled from "styled-components";
import type { Held } from "../api/types";
import { bytes } from "../kit/bytes";
import { Quiet, Said } from "../kit/layout";
import { Waiting } from "../kit/waiting";
import { askedOfPeople } from "./asked";
import { Block } from "./list";

const Rows = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
`;
const Row = styled.li`
  padding: 7px 0;
  border-top: 1px solid var(--line);
`;
const Name = styled.div`
  display: flex;
  justify-content: space-between;
  gap: 10px;
  font-variant-numeric: tabular-nums;
`;
const Parts = styled.small`
  display: block;
  color: var(--t2);
  font-size: 12px;
`;
/** As wide as the share of the limit, or of who holds the most. */
const Share = styled.div`
  height: 3px;
  margin: 5px 0 4px;
  border-radius: 2px;
  background: var(--g3);
  &::before {
    content: "";
    display: block;
    height: 100%;
    width: var(--share);
    border-radius: 2px;
    background: var(--t3);
  }
  &[data-full]::before {
    background: var(--warn);
  }
`;
/** From this share of a limit on the bar says so. */
const NEARLY = 0.9;

const partWords = (held: Held) =>
  held.parts
    .filter((p) => p.count)
    .map((p) => `${p.count.toLocaleString("en-GB")} ${p.what}`)
    .join(", ") || "nothing";

function List(props: { held: readonly Held[]; limit: number | null }) {
  const most = props.limit === null ? Math.max(1, ...props.held.map((h) => h.bytes)) : props.limit * 1e9;
  return (
    <Rows>
      {props.held.map((h) => (
        <Row key={h.id}>
          <Name>
            <b>{h.name}</b>
            <span>{bytes(h.bytes)}</span>
          </Name>
          <Share
            style={{ "--share": `${Math.min(100, (100 * h.bytes) / most).toFixed(1)}%` }}
            data-full={(props.limit !== null && h.bytes > NEARLY * most) || undefined}
          />
          <Parts>{partWords(h)}</Parts>
        </Row>
      ))}
    </Rows>
  );
}

const limitWords = (limit: number | null, who: string) =>
  limit === null ? "" : `at most ${bytes(limit * 1e9)} ${who}`;

export function Holdings() {
  const query = useQuery(askedOfPeople.holdings);
  const data = query.data;
  return (
    <Block aria-label="Room taken">
      <header>
        <h2>Room taken</h2>
        <Link to="/people/bin">The bin</Link>
      </header>
      {data ? (
        <>
          <h3>
            by people <Quiet>{limitWords(data.person_limit, "a person")}</Quiet>
          </h3>
          <List held={data.people} limit={data.person_limit} />
          <h3>
            by projects <Quiet>{limitWords(data.project_limit, "a project")}</Quiet>
          </h3>
          {data.projects.length ? (
            <List held={data.projects} limit={data.project_limit} />
          ) : (
            <Said>There is no project yet.</Said>
          )}
        </>
      ) : (
        <Waiting query={query} what="room taken" />
      )}
    </Block>
  );
}
