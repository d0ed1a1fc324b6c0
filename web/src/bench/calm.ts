/** The draft for all that need not follow every movement of a hand: the picture and the control come first. */
import { useEffect, useState } from "react";
import type { Look } from "../api/types";
import { flatten } from "./steps";
import { useBench } from "./store";

const PAUSE = 160;

/** What people see at once when it changes: which steps there are, in which order, on or off, and the ends. */
const shape = (look: Look) =>
  `${look.input} ${look.output} ${flatten(look.steps).map((r) => `${r.step.id}${r.step.on}${r.parent}${r.step.label}`).join(" ")}`;

export function useCalmDraft(): Look {
  const [draft, setDraft] = useState(() => useBench.getState().draft);
  useEffect(() => {
    let timer = 0;
    let shown = shape(useBench.getState().draft);
    setDraft(useBench.getState().draft);
    const stop = useBench.subscribe((now, last) => {
      if (now.draft === last.draft) return;
      const next = shape(now.draft);
      if (next !== shown) {
        shown = next;
        setDraft(now.draft);
      }
      if (!timer) {
        timer = window.setTimeout(() => {
          timer = 0;
          setDraft(useBench.getState().draft);
        }, PAUSE);
      }
    });
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, []);
  return draft;
}
