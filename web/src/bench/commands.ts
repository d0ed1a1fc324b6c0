/** What can be done at the bench by a key. The same table feeds the keys, the menus and the sheet of keys. */
import type { Frame } from "../api/types";
import { PLAY_KEYS } from "../player/keys";
import { WHOLE, zoomed } from "../viewer/zoom";
import { onPlayer, useMotion } from "./motion";
import { nextPlace } from "./overtime";
import { setAside } from "./states";
import { redo, undo, useBench } from "./store";
import { useView, view, type Show } from "./view";

export type KeyPress = Pick<KeyboardEvent, "key" | "shiftKey" | "altKey" | "ctrlKey" | "metaKey">;

export interface Command<Context = void> {
  id: string;
  /** What it does, as the sheet of keys says it. */
  title: string;
  /** The keys as they are written on menus and on the sheet. */
  keys: string;
  fits: (press: KeyPress) => boolean;
  run: (context: Context, press: KeyPress) => void;
}

const bare = (e: KeyPress) => !e.ctrlKey && !e.metaKey && !e.altKey;
const plain =
  (...keys: string[]) =>
  (e: KeyPress) =>
    bare(e) && keys.includes(e.key);
const withCtrl = (key: string, shift: boolean) => (e: KeyPress) =>
  (e.ctrlKey || e.metaKey) && !e.altKey && e.shiftKey === shift && e.key.toLowerCase() === key;
const withAlt =
  (...keys: string[]) =>
  (e: KeyPress) =>
    e.altKey && keys.includes(e.key);

/** What the commands of the whole bench need from the screen. */
export interface BenchContext {
  frames: Frame[];
  /** The chosen frame. */
  frame: number | null;
  choose: (frame: number) => void;
  help: () => void;
}

const SHOWN: Record<string, Show> = {
  "1": "original",
  "2": "look",
  "3": "split",
  "4": "beside",
  "5": "difference",
  "6": "baked",
};

const LARGER = 1.5;
export const larger = (times: number) => view({ zoom: zoomed(useView.getState().zoom, times) });

/** Sees the chosen step alone, or all of them again. */
export function seeAlone(): void {
  const last = [...useBench.getState().chosen].at(-1) ?? null;
  view({ only: useView.getState().only || !last ? null : last });
}

export const SEEING: readonly Command<BenchContext>[] = [
  {
    id: "show",
    title: "original, look, split, beside, difference, as baked",
    keys: "1 – 6",
    fits: plain(...Object.keys(SHOWN)),
    run: (_, { key }) => view({ show: SHOWN[key] }),
  },
  {
    id: "split",
    title: "split on and off",
    keys: "H",
    fits: plain("h"),
    run: () => view({ show: useView.getState().show === "split" ? "look" : "split" }),
  },
  {
    id: "down",
    title: "split the other way",
    keys: "V",
    fits: plain("v"),
    run: () => view({ down: !useView.getState().down }),
  },
  {
    id: "frame",
    title: "frame before, frame after",
    keys: ", and .",
    fits: plain(",", "."),
    run: ({ frames, frame, choose }, { key }) => {
      const k = frames.findIndex((f) => f.id === frame) + (key === "," ? -1 : 1);
      const next = frames[(k + frames.length) % frames.length];
      if (next) choose(next.id);
    },
  },
  {
    id: "zoom",
    title: "larger, smaller",
    keys: "+ and −, wheel",
    fits: plain("+", "-"),
    run: (_, { key }) => larger(key === "+" ? LARGER : 1 / LARGER),
  },
  { id: "whole", title: "the whole picture", keys: "0", fits: plain("0"), run: () => view({ zoom: WHOLE }) },
  { id: "alone", title: "the chosen step alone", keys: "A", fits: plain("a"), run: seeAlone },
  {
    id: "full",
    title: "nothing but the picture",
    keys: "N",
    fits: plain("n"),
    run: () => view({ full: !useView.getState().full }),
  },
];

const moves = (e: KeyPress) => useMotion.getState().player !== null && bare(e);

/** What is done with a clip; on a still these keys do nothing. */
export const MOVING: readonly Command<BenchContext>[] = [
  ...PLAY_KEYS.map(({ run, fits, ...told }) => ({
    ...told,
    fits: (e: KeyPress) => moves(e) && fits(e),
    run: (_: BenchContext, press: KeyPress) => onPlayer((player) => run(player, press)),
  })),
  {
    id: "place",
    title: "the next place at which the look breaks",
    keys: "W",
    fits: (e) => moves(e) && e.key === "w",
    run: () => nextPlace(),
  },
];

export const WORKING: readonly Command<BenchContext>[] = [
  { id: "undo", title: "undo", keys: "Ctrl Z", fits: withCtrl("z", false), run: () => undo() },
  { id: "redo", title: "redo", keys: "Ctrl Shift Z", fits: withCtrl("z", true), run: () => redo() },
  {
    id: "aside",
    title: "set the draft aside as a state",
    keys: "S",
    fits: plain("s"),
    run: () => setAside(useBench.getState().draft),
  },
  {
    id: "trim",
    title: "trim this frame, and back",
    keys: "T",
    fits: plain("t"),
    run: () => view({ trimming: !useView.getState().trimming }),
  },
  {
    id: "let go",
    title: "let go of what is picked or seen alone",
    keys: "Esc",
    fits: (e) => {
      const { picking, only, full } = useView.getState();
      return plain("Escape")(e) && !!(picking || only || full);
    },
    run: () => view({ picking: null, only: null, full: false }),
  },
  { id: "help", title: "this sheet", keys: "?", fits: plain("?"), run: ({ help }) => help() },
];

/** What the commands of the order need: they work on the chosen steps. */
export interface OrderContext {
  move: (by: -1 | 1) => void;
  ease: (percent: number) => void;
  discard: () => void;
}

export const ORDERING: readonly Command<OrderContext>[] = [
  {
    id: "up",
    title: "move the chosen step up",
    keys: "Alt ↑",
    fits: withAlt("ArrowUp"),
    run: ({ move }) => move(-1),
  },
  {
    id: "down",
    title: "move it down",
    keys: "Alt ↓",
    fits: withAlt("ArrowDown"),
    run: ({ move }) => move(1),
  },
  {
    id: "ease",
    title: "ease it by 1 %, with Shift by 10 %",
    keys: "Alt ←, Alt →",
    fits: withAlt("ArrowLeft", "ArrowRight"),
    run: ({ ease }, { key, shiftKey }) => ease((key === "ArrowLeft" ? -1 : 1) * (shiftKey ? 10 : 1)),
  },
  {
    id: "remove",
    title: "remove the chosen steps",
    keys: "Delete",
    fits: (e) => e.key === "Delete" || e.key === "Backspace",
    run: ({ discard }) => discard(),
  },
];

/** Runs the command that a key stands for; whether there was one. */
export function pressed<Context>(
  commands: readonly Command<Context>[],
  press: KeyPress,
  context: Context,
): boolean {
  const found = commands.find((c) => c.fits(press));
  found?.run(context, press);
  return found !== undefined;
}

const all: readonly Pick<Command, "id" | "keys">[] = [...SEEING, ...MOVING, ...WORKING];

/** The keys of a command of the bench, for a menu. */
export const keysOf = (id: string): string => all.find((c) => c.id === id)?.keys ?? "";

/**
 * What the sheet of keys says beside the commands: what is done with the pointer, held, or by the list and
 * the controls themselves.
 */
type Line = readonly [keys: string, does: string];
const lines = (commands: readonly { keys: string; title: string }[]): Line[] =>
  commands.map((c) => [c.keys, c.title]);

export const KEYS: readonly (readonly [string, readonly Line[]])[] = [
  [
    "Seeing",
    [
      ["hold O", "the original"],
      ...lines(SEEING),
      ["drag", "move the enlarged picture"],
      ["click", "pin a spot, or let go of it"],
    ],
  ],
  ["Playing a clip", lines(MOVING)],
  ["Working", lines(WORKING)],
  [
    "In the order",
    [
      ["↑ ↓", "choose a step, with Shift several"],
      ...lines(ORDERING),
      ["Ctrl C, X, V", "copy, cut, paste steps, between looks too"],
    ],
  ],
  [
    "On numbers and lines",
    [
      ["arrows", "one fine step"],
      ["Page up, Page down", "one coarse step"],
      ["double click", "back to the default"],
      ["arrows on a curve point", "one 8-bit step, with Shift ten"],
      ["Delete on a curve point", "take it out"],
      ["Alt on a disc", "turn the hue only"],
      ["Shift on a disc", "change the amount only"],
    ],
  ],
];
