/** What a step is called. */
import type { Kind, Step } from "../api/types";

export const titleOf = (step: Step, kinds: Kind[]): string =>
  step.label || kinds.find((k) => k.kind === step.kind)?.title || step.kind;
