/** Who works on a project, and by which rules its pictures are read. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { CheckboxGroup } from "react-aria-components";
import styled from "styled-components";
import { declared } from "../api/declared";
import { got, server } from "../api/client";
import { useMe } from "../api/queries";
import { useWrite } from "../api/writes";
import type { EncodingKey, Project } from "../api/types";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { EncodingChoice } from "../kit/encodingchoice";
import { Quiet, Said } from "../kit/layout";
import { Sheet } from "../kit/sheet";
import { Switch } from "../kit/switch";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";
import { askedOfProject } from "./asked";
import { Tick } from "./tick";

const People = styled(CheckboxGroup)`
  display: grid;
  gap: 8px;
`;
const Rules = styled.div`
  display: grid;
  gap: 8px;
  .rule {
    display: grid;
    grid-template-columns: 110px 1fr 170px 28px;
    gap: 8px;
    align-items: end;
  }
`;
type Rule = Project["reading"][number];
const BY = [
  { key: "name", label: "File name" },
  { key: "folder", label: "Folder" },
  { key: "tag", label: "Tag in the file" },
] as const;

export function Members(props: { project: Project; onClose: () => void }) {
  const { project } = props;
  const { data: me } = useMe();
  const people = useQuery(askedOfProject.people);
  const [name, setName] = useState(project.name);
  const [note, setNote] = useState(project.note);
  const [members, setMembers] = useState(project.members.map((m) => String(m.id)));
  const [isPrivate, setPrivate] = useState(project.private);
  const [rules, setRules] = useState<Rule[]>(project.reading);
  const keep = useWrite(
    () =>
      got(
        server.PATCH("/api/projects/{project_id}", {
          params: { path: { project_id: project.id } },
          body: {
            name,
            note,
            reading: rules.filter((r) => r.pattern.trim()),
            ...(me?.may_lead ? { members: members.map(Number), private: isPrivate } : {}),
          },
        }),
      ),
    ["project", "projects"],
    props.onClose,
  );
  const change = (k: number, said: Partial<Rule>) =>
    setRules(rules.map((r, i) => (i === k ? { ...r, ...said } : r)));
  return (
    <Sheet title="Members and rules" width={640} onClose={props.onClose}>
      <Text label="Name of the project" value={name} onChange={setName} maxLength={120} />
      <Text label="Note" lines={2} value={note} onChange={setNote} maxLength={4000} />
      <h2>Who changes it</h2>
      <Said>
        {members.length
          ? "These people and all leads."
          : isPrivate
            ? "Leads alone."
            : "Nobody is named: everybody may."}
        {isPrivate ? "" : " Everybody may look."}
      </Said>
      <People aria-label="Members" value={members} onChange={setMembers} isDisabled={!me?.may_lead}>
        {(people.data ?? []).map((p) => (
          <Tick key={p.id} value={String(p.id)}>
            {p.name} <Quiet>{p.role}</Quiet>
          </Tick>
        ))}
      </People>
      {me?.may_lead ? (
        <>
          <Switch label="Private" on={isPrivate} onChange={setPrivate} />
          <Said>
            {isPrivate
              ? "Its members and leads alone see it, with its clips, deliveries and feeds, what was done in it, and looks that are kept to it."
              : project.private
                ? "What was kept to it, looks too, is there for everybody from then on."
                : "Everybody in the team sees it."}
          </Said>
        </>
      ) : null}
      <h2>How pictures that come in are read</h2>
      <Rules>
        {rules.map((r, k) => (
          <div className="rule" key={k}>
            <Choice label="By" chosen={r.by} options={BY} onChange={(by) => change(k, { by })} />
            <Text
              label="fits the pattern"
              hint="*_log*"
              value={r.pattern}
              onChange={(pattern) => change(k, { pattern })}
              maxLength={120}
            />
            <EncodingChoice
              label="is encoded as"
              chosen={r.encoding}
              onChange={(encoding: EncodingKey) => change(k, { encoding })}
            />
            <Button
              look="icon"
              aria-label={`Remove rule ${k + 1}`}
              onPress={() => setRules(rules.filter((_, i) => i !== k))}
            >
              ✕
            </Button>
          </div>
        ))}
        <span>
          <Button
            onPress={() => setRules([...rules, { by: "name", pattern: "", encoding: declared.usual_log }])}
          >
            Add a rule
          </Button>
        </span>
      </Rules>
      <Trouble error={keep.error ?? people.error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" isDisabled={!name.trim() || keep.isPending} onPress={() => keep.mutate()}>
          Keep
        </Button>
      </footer>
    </Sheet>
  );
}
