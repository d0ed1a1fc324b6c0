/** The keys that the reel is played by. */
import { useEffect, useLayoutEffect, useRef } from "react";
import { OWN_SPACE, TYPING } from "../player/keys";
import type { Reel } from "./reeling";

/** Frames of a long step. */
const LONG = 12;

export function useReelKeys(
  reel: Reel,
  does: { nextJump: () => void; pin: () => void; original: (held: boolean) => void; leave: () => void },
): void {
  const pressed = (e: KeyboardEvent) => {
    if (e.ctrlKey || e.metaKey || e.altKey || !(e.target instanceof Element)) return;
    if (e.target.closest(TYPING) || (e.key === " " && e.target.closest(OWN_SPACE))) return;
    if (document.querySelector("[role=dialog]")) return;
    const key = e.key.toLowerCase();
    if (key === " ") reel.toggle();
    else if (key === "q" || key === "e") reel.step((key === "q" ? -1 : 1) * (e.shiftKey ? LONG : 1));
    else if (key === "c") reel.cut(e.shiftKey ? -1 : 1);
    else if (key === "l") reel.change({ loop: !reel.state.getState().loop });
    else if (key === "n") does.nextJump();
    else if (key === "p") does.pin();
    else if (key === "o") does.original(true);
    else if (e.key === "Escape") does.leave();
    else return;
    e.preventDefault();
  };
  const latest = useRef({ pressed, does });
  useLayoutEffect(() => {
    latest.current = { pressed, does };
  });
  useEffect(() => {
    const down = (e: KeyboardEvent) => latest.current.pressed(e);
    const up = (e: KeyboardEvent) => {
      if (e.key.toLowerCase() === "o") latest.current.does.original(false);
    };
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    return () => {
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
    };
  }, []);
}
