/** Look: a pinned revision of another look, inside the step. */
import { useState } from "react";
import { asked, client, useCatalogue } from "../../api/queries";
import type { Look, StepOf } from "../../api/types";
import { Saucer, saucerOf } from "../../kit/saucer";
import { Fields, Level } from "../../kit/layout";
import { Trouble } from "../../kit/trouble";
import { replace } from "../steps";
import { useBench } from "../store";
import type { EditorProps, StepView } from "./kind";
import { useLooksToPick } from "./pickable";
import { Picker } from "./picker";
import { RampPlot } from "./plot";

function LookEditor({ step, trace, encodings, change }: EditorProps<"look">) {
  const { data } = useCatalogue();
  const [error, setError] = useState<unknown>(null);
  const cards = data?.cards ?? [];
  const label = (key: string) => encodings.find((e) => e.key === key)?.label ?? key;
  const card = cards.find((c) => c.revision.id === step.revision);
  const wearing =
    (id: number, from: string, look: Look) =>
    (s: StepOf<"look">): StepOf<"look"> => ({
      ...s,
      look: look as unknown as StepOf<"look">["look"],
      revision: id,
      name: from,
    });
  const named = (id: number) => {
    const from = cards.find((c) => c.revision.id === id)?.revision;
    return from ? `${from.look_name} r${from.number}` : "";
  };
  const recipe = (id: number) => client.fetchQuery(asked.recipe(id));
  const items = useLooksToPick(cards, async (c) => {
    const look = await recipe(c.revision.id);
    return replace(useBench.getState().draft, step.id, (s) =>
      wearing(c.revision.id, c.name, look)(s as StepOf<"look">),
    );
  });
  const use = async (id: number) => {
    try {
      change("look", wearing(id, named(id), await recipe(id)));
      setError(null);
    } catch (problem) {
      setError(problem);
    }
  };
  return (
    <Fields>
      <RampPlot trace={trace} label="Grey ramp through the look" />
      <Picker
        label="Look"
        shown={step.name || "Choose a look"}
        onTake={(id) => void use(Number(id))}
        items={items}
      />
      {step.look ? (
        <Level>
          {card ? <Saucer src={saucerOf(card.revision)} size={56} /> : null}
          <span>
            {step.name}
            <br />
            {label(step.look.input ?? "")} → {label(step.look.output ?? "")}, held as it was when chosen
          </span>
        </Level>
      ) : null}
      <Trouble error={error} />
    </Fields>
  );
}

export const look: StepView<"look"> = { Editor: LookEditor, summary: (step) => step.name || "none chosen" };
