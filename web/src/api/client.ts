/** Requests to the server: JSON in, JSON or bytes out, and every failure as a `Problem` with words for the person. */

const PASSING = new Set([0, 429, 502, 503, 504]);
/** How long until a server that is away or busy is asked again, in milliseconds. */
export const AGAIN = 2000;

export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly detail: Record<string, unknown> = {},
  ) {
    super(message);
  }

  /** Whether the same may well be answered in a moment: the server is away, or busy. */
  get passing(): boolean {
    return PASSING.has(this.status);
  }
}

/** What a person is told of anything that was thrown. */
export const words = (error: unknown): string =>
  error instanceof Error ? error.message : "Something went wrong here. Reload the page; your work is kept.";

function csrf(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";
}

async function request(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<Response> {
  const form = body instanceof FormData;
  let answer: Response;
  try {
    answer = await fetch(`/api${path}`, {
      method,
      signal,
      // Said while the page goes away, and still to arrive.
      keepalive: method === "POST" && document.visibilityState === "hidden",
      headers: {
        ...(method === "GET" ? {} : { "X-CSRFToken": csrf() }),
        ...(body === undefined || form ? {} : { "Content-Type": "application/json" }),
      },
      body: body === undefined ? undefined : form ? body : JSON.stringify(body),
    });
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new Problem(0, "Saucer cannot be reached. Your work is kept here; it goes on when the connection is back.");
  }
  if (answer.ok) return answer;
  const said = (await answer.json().catch(() => null)) as { message?: string; detail?: unknown } | null;
  const detail = said && typeof said.detail === "object" && said.detail ? (said.detail as Record<string, unknown>) : {};
  throw new Problem(answer.status, said?.message ?? `The server answered ${answer.status}. Try again in a moment.`, detail);
}

async function json<T>(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  const answer = await request(method, path, body, signal);
  return (answer.status === 204 ? undefined : await answer.json()) as T;
}

export const api = {
  get: <T>(path: string) => json<T>("GET", path),
  post: <T>(path: string, body?: unknown) => json<T>("POST", path, body ?? {}),
  put: <T>(path: string, body: unknown, signal?: AbortSignal) => json<T>("PUT", path, body, signal),
  patch: <T>(path: string, body: unknown) => json<T>("PATCH", path, body),
  remove: (path: string) => json<void>("DELETE", path),
  bytes: async (path: string, body?: unknown, signal?: AbortSignal): Promise<ArrayBuffer> =>
    (await request(body === undefined ? "GET" : "POST", path, body, signal)).arrayBuffer(),
  blob: async (path: string, body: unknown, signal?: AbortSignal): Promise<Blob> => (await request("POST", path, body, signal)).blob(),
};
