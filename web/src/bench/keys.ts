/** The keys of the bench, for the sheet. */
export const KEYS: readonly [string, readonly (readonly [string, string])[]][] = [
  [
    "Seeing",
    [
      ["hold O", "the original"],
      ["1 – 6", "original, look, split, beside, difference, as baked"],
      ["H", "split on and off"],
      ["V", "split the other way"],
      [", and .", "frame before, frame after"],
      ["+ and −, wheel", "larger, smaller"],
      ["0", "the whole picture"],
      ["drag", "move the enlarged picture"],
      ["A", "the chosen step alone"],
      ["N", "nothing but the picture"],
      ["click", "pin a spot, or let go of it"],
    ],
  ],
  [
    "Working",
    [
      ["Ctrl Z, Ctrl Shift Z", "undo, redo"],
      ["S", "set the draft aside as a state"],
      ["T", "trim this frame, and back"],
      ["Esc", "let go of what is picked or seen alone"],
      ["?", "this sheet"],
    ],
  ],
  [
    "In the order",
    [
      ["↑ ↓", "choose a step, with Shift several"],
      ["Alt ↑, Alt ↓", "move the chosen step"],
      ["Alt ←, Alt →", "ease it by 1 %, with Shift by 10 %"],
      ["Ctrl C, X, V", "copy, cut, paste steps, between looks too"],
      ["Delete", "remove the chosen steps"],
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
