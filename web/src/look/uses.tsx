/** Where a look is used, and the files that were baked of it. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import styled from "styled-components";
import { bytes } from "../kit/bytes";
import { Quiet } from "../kit/layout";
import { askedOfLook } from "./asked";

const Rows = styled.ul`
  list-style: none;
  padding: 0;
  li {
    display: flex;
    justify-content: space-between;
    gap: 10px;
    padding: 2px 0;
  }
  li > :first-child {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;

export function UsedIn({ look }: { look: number }) {
  const { data: uses = [] } = useQuery(askedOfLook.uses(look));
  return (
    <section aria-label="Used in">
      <h2>Used in</h2>
      {uses.length ? (
        <Rows>
          {uses.map((u) => (
            <li key={`${u.project}-${u.revision}`}>
              <Link to={`/projects/${u.project}`}>{u.name}</Link>
              <Quiet>
                {u.shots} {u.shots === 1 ? "shot" : "shots"} on r{u.revision}:{" "}
                {u.names.slice(0, 3).join(", ")}
                {u.names.length > 3 ? " …" : ""}
              </Quiet>
            </li>
          ))}
        </Rows>
      ) : (
        <Quiet>no project yet</Quiet>
      )}
    </section>
  );
}

export function FilesBaked({ look }: { look: number }) {
  const { data: bakes = [] } = useQuery(askedOfLook.bakes(look));
  return (
    <section aria-label="Files">
      <h2>Files baked</h2>
      {bakes.length ? (
        <Rows>
          {bakes.slice(0, 8).map((b) => (
            <li key={b.id}>
              <a href={`/api/bakes/${b.id}/file`}>{b.name}</a>
              <Quiet>{bytes(b.bytes)}</Quiet>
            </li>
          ))}
        </Rows>
      ) : (
        <Quiet>none yet</Quiet>
      )}
    </section>
  );
}
