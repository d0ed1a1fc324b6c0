/** What the files of the shots are called, by parts, and which of them would have one name. */
import styled from "styled-components";
import type { Outlook, Plan } from "../api/types";
import { Button } from "../kit/button";
import { Quiet, Warned } from "../kit/layout";
import { NameParts } from "../kit/nameparts";

const Box = styled.section`
  display: grid;
  gap: 8px;
  align-content: start;
  min-width: 0;
  h2 {
    padding-bottom: 8px;
    border-bottom: 1px solid var(--line);
  }
  ol {
    list-style: none;
    padding: 0;
    display: grid;
    gap: 3px;
  }
  li {
    display: grid;
    grid-template-columns: 30px 1fr;
    color: var(--t2);
    overflow-wrap: anywhere;
  }
  li b {
    font-weight: 400;
    color: var(--t1);
  }
  li.same,
  li.same b {
    color: var(--warn);
  }
`;

type Part = Plan["names"][number];
const PARTS: Record<Part, string> = {
  project: "project",
  scene: "scene",
  number: "number",
  shot: "shot name",
  look: "look",
  revision: "revision",
  out: "encoding",
};
const SHOWN = 4;

export function Names(props: {
  plan: Plan;
  outlook: Outlook | undefined;
  onChange: (said: Partial<Plan>) => void;
}) {
  const { plan, onChange } = props;
  const names = props.outlook?.names ?? [];
  const same = names.filter((n) => n.same.length);
  const shown = [...same, ...names.filter((n) => !n.same.length)].slice(0, SHOWN);
  return (
    <Box aria-label="File names">
      <h2>
        File names<small>of shots, stills and clips</small>
      </h2>
      <NameParts parts={plan.names} all={PARTS} onChange={(parts) => onChange({ names: parts })} />
      <ol aria-label="How files will be called">
        {shown.map((n) => (
          <li key={n.number} className={n.same.length ? "same" : ""}>
            {n.number}
            <b>{n.name}</b>
          </li>
        ))}
      </ol>
      {names.length > SHOWN ? <Quiet>and {names.length - shown.length} more</Quiet> : null}
      {props.outlook?.clash ? (
        <>
          <Warned role="alert">{props.outlook.clash}</Warned>
          <span>
            {plan.names.includes("number") ? null : (
              <Button onPress={() => onChange({ names: ["number", ...plan.names] })}>
                Put the number in
              </Button>
            )}{" "}
            {plan.names.includes("out") || plan.encodings.length < 2 ? null : (
              <Button onPress={() => onChange({ names: [...plan.names, "out"] })}>Put the encoding in</Button>
            )}
          </span>
        </>
      ) : null}
    </Box>
  );
}
