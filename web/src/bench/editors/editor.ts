/** What every editor is given. */
import type { Encoding, Kind, StepOf, Step } from "../../api/types";
import type { Trace } from "../../viewer/table";

export interface EditorProps<K extends Step["kind"]> {
  step: StepOf<K>;
  kind: Kind;
  trace: Trace | undefined;
  encodings: Encoding[];
  /** Puts a changed step in the place of this one; `what` names the change in the list of what can be undone. */
  change: (what: string, change: (step: StepOf<K>) => StepOf<K>) => void;
}
