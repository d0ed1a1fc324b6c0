/** What every editor is given. */
import type { Encoding, Kind, StepOf, Step } from "../../api/types";
import type { Trace } from "../../viewer/table";

export interface EditorProps<K extends Step["kind"]> {
  step: StepOf<K>;
  kind: Kind;
  trace: Trace | undefined;
  encodings: Encoding[];
  change: (what: string, change: (step: StepOf<K>) => StepOf<K>) => void;
}
