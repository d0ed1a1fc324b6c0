/** Look: a pinned revision of another look, inside the step. */
import { useState } from "react";
import { api } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import type { Look, StepOf } from "../../api/types";
import { Choice } from "../../kit/controls";
import { Saucer, saucerOf } from "../../kit/saucer";
import { Trouble } from "../../kit/sheet";
import type { EditorProps } from "./editor";
import { RampPlot } from "./plot";

export function LookEditor({ step, trace, encodings, change }: EditorProps<"look">) {
  const { data } = useCatalogue("", [], "");
  const [error, setError] = useState<unknown>(null);
  const cards = data?.cards ?? [];
  const label = (key: string) => encodings.find((e) => e.key === key)?.label ?? key;
  const card = cards.find((c) => c.revision.id === step.revision);
  const use = async (id: number) => {
    const from = cards.find((c) => c.revision.id === id)?.revision;
    if (!from) return;
    try {
      const look = await api.get<Look>(`/revisions/${id}/recipe`);
      setError(null);
      change("look", (s: StepOf<"look">) => ({ ...s, look: look as never, revision: id, name: `${from.look_name} r${from.number}` }));
    } catch (problem) {
      setError(problem);
    }
  };
  return (
    <div style={{ display: "grid", gap: 12 }}>
      <RampPlot trace={trace} label="Grey ramp through the look" />
      <Choice
        label="Look" empty="Choose a look" chosen={card ? String(card.revision.id) : null} onChange={(id) => void use(Number(id))}
        options={cards.map((c) => ({ key: String(c.revision.id), label: c.name, note: `r${c.revision.number}, ${c.revision.status}` }))}
      />
      {step.look ? (
        <div style={{ display: "flex", gap: 12, alignItems: "center", color: "var(--t2)" }}>
          {card ? <Saucer src={saucerOf(card.revision)} size={56} /> : null}
          <span>{step.name}<br />{label(step.look.input ?? "")} → {label(step.look.output ?? "")}, held as it was when chosen</span>
        </div>
      ) : null}
      <Trouble error={error} />
    </div>
  );
}
