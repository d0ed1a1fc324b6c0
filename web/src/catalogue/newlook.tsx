/** Starting a look: from nothing, or from another look's newest revision. */
import { useState } from "react";
import { useNavigate } from "react-router";
import { server, whole } from "../api/client";
import { asked, client, useCatalogue, useEncodings } from "../api/queries";
import type { EncodingKey, Look, LookRecord } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { EncodingChoice } from "../kit/encodingchoice";
import { Text } from "../kit/text";
import { Sheet } from "../kit/sheet";
import { Trouble } from "../kit/trouble";
import { newId } from "../bench/steps";

export function NewLook(props: { onClose: () => void; from?: number }) {
  const [name, setName] = useState("");
  const [from, setFrom] = useState(String(props.from ?? ""));
  const [input, setInput] = useState<EncodingKey>("bt709_display");
  const { data: encodings = [] } = useEncodings();
  const { data: looks } = useCatalogue("", [], "");
  const navigate = useNavigate();
  const begin = async () => {
    const card = looks?.cards.find((c) => String(c.revision.id) === from);
    const scene = encodings.find((e) => e.key === input)?.referred === "scene";
    const fresh = {
      input,
      output: "bt709_display",
      steps: scene
        ? [{ kind: "scene_to_display", id: newId() }]
        : input === "bt709_display"
          ? []
          : [{ kind: "encode", id: newId(), to: "bt709_display" }],
    } as unknown as Look;
    const draft = card ? await client.fetchQuery(asked.recipe(card.revision.id)) : fresh;
    const note = card ? `Started from ${card.name} r${card.revision.number}.` : "";
    return whole<LookRecord>(server.POST("/api/looks", { body: { name, note, draft } }));
  };
  const start = useWrite(begin, ["worked"], (made) => void navigate(`/bench/${made.id}`));
  return (
    <Sheet title="New look" width={420} onClose={props.onClose}>
      <Text label="Name" value={name} onChange={setName} required autoFocus maxLength={120} />
      <Choice
        label="Start from"
        chosen={from}
        onChange={setFrom}
        options={[
          { key: "", label: "nothing" },
          ...(looks?.cards ?? []).map((c) => ({ key: String(c.revision.id), label: c.name, note: `r${c.revision.number}` })),
        ]}
      />
      {from ? null : <EncodingChoice label="Comes in as" chosen={input} onChange={setInput} />}
      <Trouble error={start.error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" isDisabled={!name.trim() || start.isPending} onPress={() => start.mutate()}>
          Start
        </Button>
      </footer>
    </Sheet>
  );
}
