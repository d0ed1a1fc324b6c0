/** Who may do what: the table that the server's rules ask. */
import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { useMe } from "../api/queries";
import { askedOfPeople } from "./asked";
import { Block } from "./list";

const WORDS = { all: "own and others’", own: "own only", asks: "asks a lead", no: "no" } as const;
type Reach = keyof typeof WORDS;

function Sign({ reach }: { reach: Reach }) {
  return (
    <svg width="14" height="14" viewBox="-7 -7 14 14" aria-hidden>
      {reach === "all" ? <circle r="5.5" fill="var(--t1)" /> : null}
      {reach === "own" ? (
        <>
          <circle r="5" fill="none" stroke="var(--t1)" />
          <path d="M0 -5A5 5 0 0 0 0 5Z" fill="var(--t1)" />
        </>
      ) : null}
      {reach === "asks" ? (
        <>
          <circle r="5" fill="none" stroke="var(--warn)" strokeWidth="1.4" />
          <circle r="2" fill="var(--warn)" />
        </>
      ) : null}
      {reach === "no" ? <path d="M-3 0H3" stroke="var(--t3)" /> : null}
    </svg>
  );
}

const Box = styled.div`
  .legend {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 14px;
    color: var(--t2);
    font-size: 12px;
    margin-bottom: 8px;
  }
  .legend span {
    display: inline-flex;
    align-items: center;
    gap: 6px;
  }
  table {
    width: 100%;
    border-collapse: collapse;
    font-size: 12.5px;
  }
  th {
    font-weight: 400;
    text-align: left;
    padding: 5px 0;
  }
  th small {
    display: block;
    color: var(--t2);
    font-size: 11.5px;
  }
  thead th {
    color: var(--t2);
    font-size: 12px;
  }
  thead th + th,
  td {
    text-align: center;
    width: 62px;
  }
  thead .you {
    color: var(--t1);
    font-weight: 600;
  }
  tbody tr {
    border-top: 1px solid var(--line);
  }
  td svg {
    vertical-align: middle;
  }
`;
const COLUMNS = ["applier", "designer", "lead"] as const;
const CALLED = { applier: "editor", designer: "designer", lead: "lead" } as const;

export function MayTable() {
  const { data: me } = useMe();
  const { data: rows = [] } = useQuery(askedOfPeople.may);
  const mine = me?.may_lead ? "lead" : me?.may_design ? "designer" : "applier";
  return (
    <Block aria-label="Who may do what">
      <header>
        <h2>Who may do what</h2>
      </header>
      <Box>
        <div className="legend">
          {(Object.keys(WORDS) as Reach[]).map((reach) => (
            <span key={reach}>
              <Sign reach={reach} />
              {WORDS[reach]}
            </span>
          ))}
        </div>
        <table>
          <thead>
            <tr>
              <th scope="col">
                <span className="unseen">Operation</span>
              </th>
              {COLUMNS.map((c) => (
                <th key={c} scope="col" className={c === mine ? "you" : ""}>
                  {CALLED[c]}
                  {c === mine ? ", you" : ""}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.key}>
                <th scope="row">
                  {row.words}
                  {row.own ? <small>own: {row.own}</small> : null}
                </th>
                {COLUMNS.map((c) => (
                  <td key={c}>
                    <Sign reach={row[c] as Reach} />
                    <span className="unseen">{WORDS[row[c] as Reach]}</span>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Box>
    </Block>
  );
}
