/** The draft for all that need not follow every movement of a hand: the picture and the control come first. */
import { useEffect, useState } from "react";
import type { Look } from "../api/types";
import { flatten } from "./steps";
import { useBench } from "./store";

/** After so long without a change it follows, and after so long in any case. */
const PAUSE = 140;
const LONGEST = 420;

/** What people see at once when it changes: which steps there are, in which order, on or off, and the ends. */
const shape = (look: Look) =>
  `${look.input} ${look.output} ${flatten(look.steps).map((r) => `${r.step.id}${r.step.on}${r.parent}${r.step.label}`).join(" ")}`;

export function useCalmDraft(): Look {
  const [draft, setDraft] = useState(() => useBench.getState().draft);
  useEffect(() => {
    let timer = 0;
    let since = 0;
    let shown = shape(useBench.getState().draft);
    setDraft(useBench.getState().draft);
    const stop = useBench.subscribe((now, last) => {
      if (now.draft === last.draft) return;
      const next = shape(now.draft);
      if (next !== shown) {
        shown = next;
        setDraft(now.draft);
      }
      const time = performance.now();
      if (!timer) since = time;
      clearTimeout(timer);
      timer = window.setTimeout(() => {
        timer = 0;
        setDraft(useBench.getState().draft);
      }, Math.max(0, Math.min(PAUSE, since + LONGEST - time)));
    });
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, []);
  return draft;
}
