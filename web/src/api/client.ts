/**
 * Requests to the server: addresses, what is sent and what is answered come from its OpenAPI document. Every
 * failure is a `Problem`.
 */
import createClient, { type MaybeOptionalInit, type ParseAsResponse } from "openapi-fetch";
import type { paths } from "./schema";

const PASSING = new Set([0, 429, 502, 503, 504]);
/** Milliseconds until a server that is away or busy is asked again. */
export const AGAIN = 2000;

export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly detail: Record<string, unknown> = {},
  ) {
    super(message);
  }

  /** Whether the same request may succeed in a moment, because the server is away or busy. */
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

async function answered(request: Request): Promise<Response> {
  if (request.method !== "GET") request.headers.set("X-CSRFToken", csrf());
  let answer: Response;
  try {
    // `keepalive` lets a post that is sent while the page closes still arrive.
    answer = await fetch(request, {
      keepalive: request.method === "POST" && document.visibilityState === "hidden",
    });
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new Problem(
      0,
      "Saucer cannot be reached. Your work is kept here; it goes on when the connection is back.",
    );
  }
  if (answer.ok) return answer;
  const said = (await answer.json().catch(() => null)) as { message?: string; detail?: unknown } | null;
  const detail =
    said && typeof said.detail === "object" && said.detail ? (said.detail as Record<string, unknown>) : {};
  throw new Problem(
    answer.status,
    said?.message ?? `The server answered ${answer.status}. Try again in a moment.`,
    detail,
  );
}

/** What may be left out of a body: the server fills in its defaults, and says what is missing. */
type Sent<T> = T extends (infer E)[] ? Sent<E>[] : T extends object ? { [K in keyof T]?: Sent<T[K]> } : T;
type Operation<O> = O extends { requestBody: { content: { "application/json": infer B } } }
  ? Omit<O, "requestBody"> & { requestBody: { content: { "application/json": Sent<B> } } }
  : O extends { requestBody: { content: { "multipart/form-data": unknown } } }
    ? Omit<O, "requestBody"> & { requestBody: { content: { "multipart/form-data": FormData } } }
    : O;
type Wires = { [Path in keyof paths]: { [Method in keyof paths[Path]]: Operation<paths[Path][Method]> } };

type Success<Responses> = {
  [Status in keyof Responses & (200 | 201 | 202)]: Responses[Status] extends { content: infer Content }
    ? Content[keyof Content]
    : undefined;
}[keyof Responses & (200 | 201 | 202)];
type PathsOf<Method extends string> = {
  [Path in keyof Wires]: Wires[Path] extends Record<Method, { responses: unknown }> ? Path : never;
}[keyof Wires];
/** As the library types it, but that an answer keeps its tuples. */
type Ask<Method extends "get" | "put" | "post" | "patch" | "delete"> = <
  Path extends PathsOf<Method>,
  Init extends MaybeOptionalInit<Wires[Path], Method>,
>(
  path: Path,
  ...init: undefined extends Init ? [Init?] : [Init]
) => Promise<{
  data?: Wires[Path] extends Record<Method, { responses: infer Responses }>
    ? ParseAsResponse<Success<Responses>, Init>
    : never;
}>;
interface Server {
  GET: Ask<"get">;
  PUT: Ask<"put">;
  POST: Ask<"post">;
  PATCH: Ask<"patch">;
  DELETE: Ask<"delete">;
}

/**
 * Asks by method, address and what stands in it: `got(server.GET("/api/looks/{look_id}", { params: { path: {
 * look_id } } }))`.
 */
export const server = createClient<Wires>({
  baseUrl: window.location.origin,
  fetch: answered,
  // Empty values are sent as they are; a list is sent as the same name several times.
  querySerializer: { array: { style: "form", explode: true } },
}) as unknown as Server;

/** What an answer holds. */
export async function got<T>(answer: Promise<{ data?: T }>): Promise<T> {
  return (await answer).data as T;
}

/** For answers of bytes. */
export const BYTES = { parseAs: "arrayBuffer" } as const;
export const BLOB = { parseAs: "blob" } as const;

/** A file, with what is said of it, as the server takes them. */
export function formOf(file: File, said: Record<string, string | number | undefined> = {}): FormData {
  const form = new FormData();
  form.append("file", file);
  for (const [name, value] of Object.entries(said)) if (value !== undefined) form.append(name, String(value));
  return form;
}

/** Whether somebody is in but for the code of their second factor. */
export const wantsCode = (error: unknown): boolean =>
  error instanceof Problem && error.detail.second_factor === true;
