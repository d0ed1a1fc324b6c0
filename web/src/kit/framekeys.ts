/**
 * Frames by comma and full stop on a page that shows looks on one of them; other keys are the page's own. Not
 * while somebody types.
 */
import { useEffect, useLayoutEffect, useRef } from "react";
import type { Frame } from "../api/types";

const TYPING = "input, textarea, [role=option], [role=slider], [contenteditable]";

/** `other` is told of all other keys, and says whether it did something. */
export function useFrameKeys(
  frames: Frame[],
  frame: Frame | null,
  show: (id: number) => void,
  other: (e: KeyboardEvent) => boolean,
) {
  const pressed = (e: KeyboardEvent) => {
    if (e.target instanceof HTMLElement && e.target.matches(TYPING)) return;
    if (e.ctrlKey || e.metaKey || e.altKey || document.querySelector("[role=dialog]")) return;
    const way = e.key === "." ? 1 : e.key === "," ? -1 : 0;
    const next = way
      ? frames[(frames.findIndex((f) => f.id === frame?.id) + way + frames.length) % frames.length]
      : undefined;
    if (next) show(next.id);
    else if (!other(e)) return;
    e.preventDefault();
  };
  const latest = useRef(pressed);
  useLayoutEffect(() => {
    latest.current = pressed;
  });
  useEffect(() => {
    const down = (e: KeyboardEvent) => latest.current(e);
    window.addEventListener("keydown", down);
    return () => window.removeEventListener("keydown", down);
  }, []);
}
