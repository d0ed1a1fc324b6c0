/** The server's wires held in a test's hand: what is asked by a method, with an answer of the test's own. */
import { vi } from "vitest";
import { server } from "../src/api/client";

interface Init {
  params?: { path?: Record<string, string | number> };
  body?: unknown;
  signal?: AbortSignal;
}

/**
 * A stand-in for all requests of a method: it is given the address with its numbers in it, the body and the
 * signal; what it gives is the answer.
 */
export function wire(method: "GET" | "POST" | "PUT" | "DELETE") {
  const asked = vi.fn<(path: string, body?: unknown, signal?: AbortSignal) => Promise<unknown>>();
  const through = async (path: string, { params, body, signal }: Init = {}) => {
    const filled = path
      .replace(/^\/api/, "")
      .replace(/\{(\w+)\}/g, (_, name: string) => String(params?.path?.[name]));
    return { data: await asked(filled, body, signal) };
  };
  vi.spyOn(server, method).mockImplementation(through as never);
  return asked;
}
