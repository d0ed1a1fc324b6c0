import { createGlobalStyle } from "styled-components";

/** Greys have R = G = B, so that nothing on the chrome tints judgement; one accent, one warning. */
export const GlobalStyle = createGlobalStyle`
  :root {
    --g0: #161616; --g1: #1f1f1f; --g2: #282828; --g3: #333333; --g4: #454545; --line: #3a3a3a;
    --t1: #f0f0f0; --t2: #b9b9b9; --t3: #9a9a9a; --accent: #a9d6c2; --on-accent: #10241b; --warn: #e0b15a;
    --surround: #161616; --r: 6px;
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
