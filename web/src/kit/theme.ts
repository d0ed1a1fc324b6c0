import { createGlobalStyle } from "styled-components";

/** Greys have R = G = B, so that nothing on the chrome tints judgement; one accent, one warning. */
export const GlobalStyle = createGlobalStyle`
  :root {
    --g0: #161616; --g1: #1f1f1f; --g2: #282828; --g3: #333333; --g4: #454545; --line: #3a3a3a;
    --t1: #f0f0f0; --t2: #b9b9b9; --t3: #9a9a9a; --t4: #777777; --accent: #a9d6c2; --accent-lit: #bde2d1; --on-accent: #10241b; --warn: #e0b15a;
    --surround: #161616; --r: 6px;
    /* On pictures, whatever they show: words and lines, the ground under words, a shadow around marks. */
    --white: #fff; --black: #000; --on-picture: #f0f0f0; --over: #161616c8; --shade: #000a; --veil: #161616e8; --glow: #f0f0f0a0; --ruled: #ffffff22;
    /* The map: its ground, looks that do not fit, and what is drawn around. */
    --field: #131313; --dot: #5a5a5a; --drawn: #a9d6c214;
    /* The three channels, where something is drawn of each. */
    --red: #e08a7d; --green: #86c08a; --blue: #86a5ee;
    /* The line on which skin lies. */
    --skin: #f0d9c8;
  }
  * { box-sizing: border-box; margin: 0; }
  html, body, #root { height: 100%; }
  body {
    font: 400 13px/1.35 "Hanken Grotesk Variable", sans-serif; font-variant-numeric: tabular-nums;
    color: var(--t1); background: var(--g1); -webkit-font-smoothing: antialiased; overflow: hidden;
  }
  button, input, select, textarea { font: inherit; color: inherit; font-variant-numeric: tabular-nums; }
  a { color: inherit; }
  h1 { font-size: 18px; font-weight: 600; }
  .unseen { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); white-space: nowrap; }
  h2 { font-size: 12px; font-weight: 600; color: var(--t2); }
  [data-focus-visible], :focus-visible { outline: 2px solid var(--accent); outline-offset: 2px; }
  [role="dialog"], [role="menu"], [role="listbox"] { outline: none; }
  ::selection { background: var(--accent); color: var(--on-accent); }
  * { scrollbar-width: thin; scrollbar-color: var(--g4) transparent; }
`;
