/** The keys of the bench while it is on the screen. */
import { useEffect } from "react";
import { OWN_SPACE } from "../player/keys";
import { MOVING, pressed, SEEING, WORKING, type BenchContext } from "./commands";

/** Where keys are letters, or belong to what is open. */
const OWN_KEYS =
  "input:not([type=range], [type=radio], [type=checkbox]), textarea, [role=dialog], [role=menu], [role=listbox], [contenteditable]";

/**
 * `context` must keep its identity while nothing changed. `hold`: whether the key that shows the original is
 * down.
 */
export function useKeys(context: BenchContext, hold: (down: boolean) => void): void {
  useEffect(() => {
    const down = (e: KeyboardEvent) => {
      if (e.target instanceof Element && e.target.closest(OWN_KEYS)) return;
      if (e.key === "o" && !e.ctrlKey && !e.metaKey && !e.altKey) hold(true);
      // A button that is in focus takes the space bar for itself.
      else if (e.key === " " && e.target instanceof Element && e.target.closest(OWN_SPACE)) return;
      else if (
        pressed([...SEEING, ...MOVING, ...WORKING], e, context) &&
        (e.ctrlKey || e.metaKey || e.key === " ")
      )
        e.preventDefault();
    };
    const up = (e: KeyboardEvent) => e.key === "o" && hold(false);
    // Before lists, which would take letters for the beginning of a row's name.
    window.addEventListener("keydown", down, true);
    window.addEventListener("keyup", up);
    return () => {
      window.removeEventListener("keydown", down, true);
      window.removeEventListener("keyup", up);
    };
  }, [context, hold]);
}
