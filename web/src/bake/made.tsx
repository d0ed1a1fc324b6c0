/** The files made so far: each can be taken for ever. */
import styled from "styled-components";
import type { Bake } from "../api/types";
import { Said, Warned } from "../kit/layout";
import { longAgo } from "../kit/when";
import { bytes } from "../kit/bytes";
import type { Method } from "./order";

const List = styled.ul`
  list-style: none;
  padding: 0;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    gap: 14px;
    padding: 6px 0;
    border-top: 1px solid var(--line);
    align-items: center;
  }
  b {
    font-weight: 560;
    overflow-wrap: anywhere;
  }
  small {
    color: var(--t2);
    font-size: 12px;
    display: block;
  }
  a {
    border: 1px solid var(--g4);
    border-radius: 15px;
    padding: 4px 13px;
    text-decoration: none;
    font-weight: 500;
  }
  a:hover {
    background: var(--g3);
  }
  .right {
    text-align: right;
    white-space: nowrap;
  }
`;

/** What a revision is out there as that the chosen table would not match. */
function differing(bakes: Bake[], revision: number | null, method: Method): string {
  const other = bakes.find((b) => b.revision_id === revision && b.method && b.method !== method);
  return other
    ? `r${other.revision_number} is out there ${other.method}: one that is ${method} will not match it to the digit.`
    : "";
}

export function Made(props: { bakes: Bake[]; revision: number | null; method: Method }) {
  const { bakes } = props;
  const warning = differing(bakes, props.revision, props.method);
  return (
    <section aria-label="Baked before">
      <h2>Baked before</h2>
      {bakes.length ? (
        <List>
          {bakes.map((b) => (
            <li key={b.id}>
              <span>
                <b>{b.name}</b>
                <small>
                  {[
                    b.label,
                    b.grid ? `${b.grid}, ${b.method}` : "",
                    b.code_range === "narrow" ? "narrow range" : "",
                    b.made_by,
                  ]
                    .filter(Boolean)
                    .join(" · ")}
                  , {longAgo(Date.parse(b.made_at))}
                </small>
              </span>
              <small className="right" title={`SHA-256 ${b.checksum}`}>
                {b.checksum.slice(0, 8)} · {bytes(b.bytes)}
                <br />
                {b.fetched ? `fetched ${b.fetched} ×` : "never fetched"}
              </small>
              <a href={`/api/bakes/${b.id}/file`} download aria-label={`Fetch ${b.name}`}>
                Fetch
              </a>
            </li>
          ))}
        </List>
      ) : (
        <Said>Nothing yet. What is baked stays here and never changes.</Said>
      )}
      {warning ? <Warned>{warning}</Warned> : null}
    </section>
  );
}
