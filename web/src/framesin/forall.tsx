/** What is asked once, for all pictures of an intake. */
import { useState } from "react";
import { declared } from "../api/declared";
import type { EncodingKey, Intake } from "../api/types";
import { Button } from "../kit/button";
import { EncodingChoice } from "../kit/encodingchoice";
import { Apart, Fields, Quiet } from "../kit/layout";
import { Tags } from "../kit/tags";
import { Text } from "../kit/text";
import type { IntakeActs } from "./acts";
import { willBeKept } from "./judging";

const MIDDLE = { x: 0.5, y: 0.5 };

export function ForAll({ intake, acts }: { intake: Intake; acts: IntakeActs }) {
  const [light, setLight] = useState("");
  const [encoding, setEncoding] = useState<EncodingKey>(declared.usual);
  const read = intake.files.filter((file) => file.stage === "read");
  const unsure = read.filter((file) => file.unsure);
  const kept = read.filter(willBeKept);
  const moved = kept.filter((file) => file.part_by !== "hand");
  const ids = (files: Intake["files"]) => files.map((file) => file.id);
  return (
    <Fields as="section" aria-label="Asked once, for all">
      <h2>Asked once, for all</h2>
      <div>
        <Quiet>Sets</Quiet>
        <Tags
          label="Sets of all"
          add="+ set"
          adding="Put all into a set"
          longest={60}
          tags={intake.sets}
          onChange={(sets) => acts.sets.mutate(sets)}
        />
      </div>
      <Text label="Light" hint="noon, dusk, fire …" value={light} onChange={setLight} maxLength={40} />
      <Button
        isDisabled={!kept.length || !light.trim()}
        onPress={() => acts.say(ids(kept), { light: light.trim() })}
      >
        Say it of {kept.length}
      </Button>
      <Apart>
        <Quiet>Where unsure, read as</Quiet>
        <Quiet>
          {read.length - unsure.length} of {read.length} are sure
        </Quiet>
      </Apart>
      <EncodingChoice label="Where unsure, read as" hidden chosen={encoding} onChange={setEncoding} />
      <Button isDisabled={!unsure.length} onPress={() => acts.say(ids(unsure), { encoding })}>
        Use for {unsure.length}
      </Button>
      <Apart>
        <Quiet>Small cards</Quiet>
        <Button
          look="quiet"
          isDisabled={!moved.length}
          onPress={() => acts.say(ids(moved), { part: MIDDLE })}
        >
          show the middle of all
        </Button>
      </Apart>
    </Fields>
  );
}
