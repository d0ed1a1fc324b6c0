/** One picture of an intake, closer: the part that small cards show, its name, its white balance. */
import { useState } from "react";
import type { IntakeFile } from "../api/types";
import { Choice } from "../kit/choice";
import { Fields, Quiet } from "../kit/layout";
import { PartChoice } from "../kit/partchoice";
import { Text } from "../kit/text";
import { White } from "../kit/white";
import type { IntakeActs } from "./acts";
import { toSay } from "./judging";

/** Pixels that a picture is shown in at most. */
const ROOM = { width: 238, height: 280 };
const BY = { skin: "around what looks like skin", detail: "where most is going on", hand: "by hand", "": "" };

export function Closer({ intake, file, acts }: { intake: number; file: IntakeFile; acts: IntakeActs }) {
  const said = toSay(file);
  const [part, setPart] = useState(file.part);
  const [greying, setGreying] = useState(false);
  const [name, setName] = useState(file.said_name);
  return (
    <Fields as="section" aria-label={`${file.name}, closer`}>
      <PartChoice
        name={file.name}
        source={(width) => `/api/intakes/${intake}/files/${file.id}/picture?width=${width}&v=${file.picture}`}
        size={file}
        room={ROOM}
        part={part}
        onMove={setPart}
        onPart={(next) => {
          setPart(next);
          acts.say([file.id], { part: next });
        }}
        onPlace={
          greying
            ? (place) => {
                setGreying(false);
                acts.grey.mutate({ file: file.id, ...place });
              }
            : undefined
        }
      />
      <Quiet>{[file.guess?.why, said.first, said.more].filter(Boolean).join("; ")}</Quiet>
      <Quiet>Small cards are cut {BY[file.part_by]}. Drag the ring, or press the arrow keys on it.</Quiet>
      <Text
        label="Name"
        hint={file.name.replace(/\.[^.]+$/, "")}
        value={name}
        onChange={setName}
        onDone={() => name !== file.said_name && acts.say([file.id], { name })}
        maxLength={120}
      />
      {file.parts.length ? (
        <Choice
          label="The part of the file that is read"
          options={file.parts.map((part, key) => ({ key: String(key), label: part }))}
          chosen={String(file.layer)}
          onChange={(key) => acts.say([file.id], { layer: Number(key) })}
        />
      ) : null}
      {file.raw ? (
        <White
          raw={file.raw}
          greying={greying}
          onGreying={setGreying}
          onWhite={(white) => acts.say([file.id], { white })}
        />
      ) : null}
    </Fields>
  );
}
