import { AGAIN, Problem } from "./client";

const pause = (milliseconds: number) => new Promise<void>((go) => setTimeout(go, milliseconds));

export interface Newest<Wish> {
  /** Asks for this as soon as nothing is under way, in place of whatever still waits. */
  ask: (wish: Wish) => void;
  /** Forgets what waits. What is under way comes to its end. */
  drop: () => void;
  /** Until nothing is asked for, or for so many milliseconds. */
  quiet: (atMost: number) => Promise<void>;
}

/**
 * One request at a time, and the newest wish next. A wish that a busy or absent server could not answer is
 * asked again, unless a newer one has come; whatever else fails is told to `failed` and left.
 */
export function newest<Wish extends object>(
  answer: (wish: Wish) => Promise<void>,
  { before, failed }: { before?: () => Promise<void>; failed?: (problem: Problem) => void } = {},
): Newest<Wish> {
  let next: Wish | null = null;
  let busy = false;
  let dropped = 0;
  const waiting: (() => void)[] = [];
  const run = async () => {
    busy = true;
    while (next) {
      if (before) await before();
      const now: Wish | null = next;
      next = null;
      if (!now) break;
      const drops = dropped;
      try {
        await answer(now);
      } catch (error) {
        const problem = error instanceof Problem ? error : new Problem(0, String(error));
        failed?.(problem);
        if (problem.passing) {
          await pause(AGAIN);
          if (drops === dropped) next ??= now;
        }
      }
    }
    busy = false;
    waiting.splice(0).forEach((go) => go());
  };
  return {
    ask: (wish) => {
      next = wish;
      if (!busy) void run();
    },
    drop: () => {
      next = null;
      dropped += 1;
    },
    quiet: (atMost) =>
      busy ? Promise.race([new Promise<void>((go) => waiting.push(go)), pause(atMost)]) : Promise.resolve(),
  };
}
