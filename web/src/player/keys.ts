/** The keys that a clip is played by, on every screen that shows one. */
import { useEffect, useLayoutEffect, useRef } from "react";
import type { Player } from "./player";

type KeyPress = Pick<KeyboardEvent, "key" | "shiftKey" | "altKey" | "ctrlKey" | "metaKey">;

interface PlayKey {
  id: string;
  /** What it does, as the sheet of keys says it. */
  title: string;
  keys: string;
  fits: (press: KeyPress) => boolean;
  run: (player: Player, press: KeyPress) => void;
}

/** Frames of a long step. */
const LONG = 12;
const back = (key: string) => key.toLowerCase() === "q";

export const PLAY_KEYS: readonly PlayKey[] = [
  {
    id: "play",
    title: "play and pause",
    keys: "Space",
    fits: (e) => e.key === " ",
    run: (player) => player.toggle(),
  },
  {
    id: "step",
    title: `one frame back, one frame on; with Shift ${LONG}`,
    keys: "Q and E",
    fits: (e) => ["q", "e"].includes(e.key.toLowerCase()),
    run: (player, { key, shiftKey }) => player.step((back(key) ? -1 : 1) * (shiftKey ? LONG : 1)),
  },
  {
    id: "loop",
    title: "loop on and off",
    keys: "L",
    fits: (e) => e.key === "l",
    run: (player) => player.change({ loop: !player.state.getState().loop }),
  },
  {
    id: "marks",
    title: "the loop begins here, ends here",
    keys: "B and F",
    fits: (e) => ["b", "f"].includes(e.key),
    run: (player, { key }) => {
      const { number, from, to } = player.state.getState();
      player.change(
        key === "b"
          ? { from: number, to: Math.max(number, to) }
          : { from: Math.min(from, number), to: number },
      );
    },
  },
];

/** Where keys are letters, or belong to what is open. */
export const TYPING =
  "input:not([type=range], [type=radio], [type=checkbox]), textarea, [role=menu], [role=listbox], [contenteditable]";
/** What takes the space bar for itself while it is in focus. */
export const OWN_SPACE = "button, a, [role=switch], [role=radio], input, [role=row], [role=option], label";

/** The keys of a page that has no keys of its own for these letters. */
export function usePlayKeys(player: Player | null): void {
  const pressed = (e: KeyboardEvent) => {
    if (!player || e.ctrlKey || e.metaKey || e.altKey || !(e.target instanceof Element)) return;
    if (e.target.closest(TYPING) || (e.key === " " && e.target.closest(OWN_SPACE))) return;
    const found = PLAY_KEYS.find((k) => k.fits(e));
    if (!found) return;
    found.run(player, e);
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
