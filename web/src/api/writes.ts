/**
 * Sending something that is kept: whether it is under way, what went wrong, and which answers must be asked
 * for anew.
 */
import { useMutation, type UseMutationResult } from "@tanstack/react-query";
import type { Key } from "./keys";
import { client } from "./queries";

/** Answers under these words are stale after it. */
type Stale = readonly Key[];

/**
 * Asks again for what stands under those words. A first answer that is still on its way may tell of the time
 * before the write, and the cache would keep it: once it is there, it is asked for again.
 */
export const askAgain = (stale: Stale) =>
  Promise.all(
    stale.map((word) => {
      const queryKey = [word] as const;
      for (const query of client.getQueryCache().findAll({ queryKey, fetchStatus: "fetching" })) {
        if (query.state.data !== undefined) continue;
        const again = () => client.invalidateQueries({ queryKey: query.queryKey, exact: true });
        query.promise?.then(again, () => undefined);
      }
      return client.invalidateQueries({ queryKey });
    }),
  );

/**
 * `write` sends; afterwards what stands under `stale` is asked for again, then `done` is told of the answer.
 * While it is under way `isPending` holds, and `error` says why it was not kept.
 */
export function useWrite<Sent = void, Answer = unknown>(
  write: (sent: Sent) => Promise<Answer>,
  stale: Stale,
  done?: (answer: Answer, sent: Sent) => void,
): UseMutationResult<Answer, Error, Sent> {
  return useMutation<Answer, Error, Sent>({
    mutationFn: write,
    // Offline, fail at once: a write that waits unseen for the connection would surprise people later.
    networkMode: "always",
    onSuccess: async (answer, sent) => {
      await askAgain(stale);
      done?.(answer, sent);
    },
    // It may have failed because what the screen shows is out of date.
    onError: () => void askAgain(stale),
  });
}
