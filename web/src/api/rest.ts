import { AGAIN, Problem } from "./client";

/**
 * Asks once the hand has rested for `delay` milliseconds, and again where the server was away. Whatever else
 * fails leaves on screen what was there: the live answer says what is wrong with a look. Returns what stops
 * it.
 */
export function atRest(delay: number, ask: (signal: AbortSignal) => Promise<void>): () => void {
  const stop = new AbortController();
  const run = async () => {
    try {
      await ask(stop.signal);
    } catch (error) {
      if (!stop.signal.aborted && error instanceof Problem && error.passing) wait = setTimeout(run, AGAIN);
    }
  };
  let wait = setTimeout(run, delay);
  return () => {
    clearTimeout(wait);
    stop.abort();
  };
}
