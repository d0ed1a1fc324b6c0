/** What every editor is given. */
import type { Encoding, Kind, StepOf, Step } from "../../api/types";
import type { Live, Trace } from "../../viewer/table";

export interface EditorProps<K extends Step["kind"]> {
  step: StepOf<K>;
  kind: Kind;
  trace: Trace | undefined;
  live: Live | null;
  encodings: Encoding[];
  change: (what: string, change: (step: StepOf<K>) => StepOf<K>) => void;
}
