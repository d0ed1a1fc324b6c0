/** What the bench shows of a kind of step; each kind has one file that says it. */
import type { ComponentType } from "react";
import type { Encoding, Kind, StepOf, Step } from "../../api/types";
import type { Trace } from "../../viewer/table";

export interface EditorProps<K extends Step["kind"]> {
  step: StepOf<K>;
  kind: Kind;
  trace: Trace | undefined;
  encodings: Encoding[];
  /**
   * Puts a changed step in the place of this one; `what` names the change in the list of what can be undone.
   */
  change: (what: string, change: (step: StepOf<K>) => StepOf<K>) => void;
}

/** A trace drawn small, in a box `WIDE` units wide. */
export type Thumb = ComponentType<{ trace: Trace | undefined; high: number }>;

export interface StepView<K extends Step["kind"]> {
  Editor: ComponentType<EditorProps<K>>;
  /** The step in a few words, for its row; `label` names an encoding. */
  summary: (step: StepOf<K>, label: (encoding: string) => string) => string;
  /** Where the lines of its trace do not say what it does. */
  Thumb?: Thumb;
}
