/** Where a piece of long work stands, in words: what it is doing, or how many come before it. */
export function turnOf(job: { doing: string; state: string; ahead?: number }): string {
  if (job.doing || job.state !== "waiting") return job.doing;
  return job.ahead ? `waits its turn, ${job.ahead} before it` : "waits for a worker";
}
