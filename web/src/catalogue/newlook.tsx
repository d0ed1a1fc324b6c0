/** Starting a look: from nothing, or from another look's newest revision. */
import { useState } from "react";
import { FileTrigger } from "react-aria-components";
import { useNavigate } from "react-router";
import { formOf, got, server } from "../api/client";
import { asked, client, useCatalogue } from "../api/queries";
import type { BroughtIn, EncodingKey, Revision } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { EncodingChoice } from "../kit/encodingchoice";
import { Level, Said } from "../kit/layout";
import { Text } from "../kit/text";
import { Sheet } from "../kit/sheet";
import { Trouble } from "../kit/trouble";
import { declared } from "../api/declared";

/** `from`: the revision that the look is to be a variation of; chosen here where none is given. */
export function NewLook(props: { onClose: () => void; from?: Revision }) {
  const [name, setName] = useState("");
  const [chosen, setChosen] = useState("");
  const [input, setInput] = useState<EncodingKey>(declared.usual);
  const { data: looks } = useCatalogue();
  const [brought, setBrought] = useState<BroughtIn | null>(null);
  const navigate = useNavigate();
  const from = props.from ?? looks?.cards.find((c) => String(c.revision.id) === chosen)?.revision;
  const begin = async () => {
    const draft = from
      ? await client.fetchQuery(asked.recipe(from.id))
      : await client.fetchQuery(asked.begun(input));
    // A variation knows its parent and what both began as.
    return from
      ? got(
          server.POST("/api/looks/{look_id}/variations", {
            params: { path: { look_id: from.look_id } },
            body: { name, draft },
          }),
        )
      : got(server.POST("/api/looks", { body: { name, draft } }));
  };
  const start = useWrite(begin, ["worked"], (made) => void navigate(`/bench/${made.id}`));
  const bring = useWrite(
    (file: File) => got(server.POST("/api/looks/recipe", { body: formOf(file) })),
    ["worked", "luts", "encodings"],
    (made) => {
      if (made.said.length) setBrought(made);
      else void navigate(`/bench/${made.id}`);
    },
  );
  if (brought)
    return (
      <Sheet title={`“${brought.name}” is here`} width={420} onClose={props.onClose}>
        {brought.said.map((line) => (
          <Said key={line}>{line}</Said>
        ))}
        <footer>
          <Button look="main" autoFocus onPress={() => void navigate(`/bench/${brought.id}`)}>
            Open it
          </Button>
        </footer>
      </Sheet>
    );
  return (
    <Sheet title={props.from ? "A variation" : "New look"} width={420} onClose={props.onClose}>
      <Text label="Name" value={name} onChange={setName} required autoFocus maxLength={120} />
      {props.from ? (
        <Said>
          A variation of {props.from.look_name} r{props.from.number}.
        </Said>
      ) : (
        <Choice
          label="Start from"
          chosen={chosen}
          onChange={setChosen}
          options={[
            { key: "", label: "nothing" },
            ...(looks?.cards ?? []).map((c) => ({
              key: String(c.revision.id),
              label: c.name,
              note: `r${c.revision.number}`,
            })),
          ]}
        />
      )}
      {from ? null : <EncodingChoice label="Comes in as" chosen={input} onChange={setInput} />}
      <Level>
        <span>or</span>
        <FileTrigger acceptedFileTypes={[".json"]} onSelect={(files) => files?.[0] && bring.mutate(files[0])}>
          <Button isDisabled={bring.isPending}>{bring.isPending ? "Reading …" : "Bring in a recipe"}</Button>
        </FileTrigger>
        <span>a .saucer.json file, with all it borrows</span>
      </Level>
      <Trouble error={start.error ?? bring.error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" isDisabled={!name.trim() || start.isPending} onPress={() => start.mutate()}>
          Start
        </Button>
      </footer>
    </Sheet>
  );
}
