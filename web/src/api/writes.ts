/** Sending something that is kept: whether it is under way, what went wrong, and which answers must be asked for anew. */
import { useMutation, type UseMutationResult } from "@tanstack/react-query";
import { client } from "./queries";

/** Answers under these words are stale after it. */
type Stale = readonly string[];

/**
 * `write` sends; afterwards what stands under `stale` is asked for again, then `done` is told of the answer. While it is under way
 * `isPending` holds, and `error` says why it was not kept.
 */
export function useWrite<Sent = void, Answer = unknown>(
  write: (sent: Sent) => Promise<Answer>,
  stale: Stale,
  done?: (answer: Answer, sent: Sent) => void,
): UseMutationResult<Answer, Error, Sent> {
  return useMutation<Answer, Error, Sent>({
    mutationFn: write,
    // A server that cannot be reached is an answer too: a write that waits unseen for the connection would come as a surprise.
    networkMode: "always",
    onSuccess: async (answer, sent) => {
      await Promise.all(stale.map((word) => client.invalidateQueries({ queryKey: [word] })));
      done?.(answer, sent);
    },
  });
}
