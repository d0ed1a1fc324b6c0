/**
 * Components drawn as the application draws them: with a place and a cache of their own; and what axe says of
 * them.
 */
import { QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import axe from "axe-core";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";
import { vi } from "vitest";
import { client } from "../src/api/queries";

export function shown(what: ReactNode, at = "/") {
  client.clear();
  return render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={[at]}>{what}</MemoryRouter>
    </QueryClientProvider>,
  );
}

/** The rules that axe finds broken. Contrast needs a real browser, which tests/browser has. */
export async function broken(element: Element): Promise<string[]> {
  const found = await axe.run(element, {
    rules: { "color-contrast": { enabled: false }, region: { enabled: false } },
  });
  return found.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join(" ")}`);
}

type Answer = { status?: number; body?: unknown };

/** A server that answers by method and path; everything that was asked is kept, in order. */
export function server(answers: Record<string, Answer | ((body: unknown) => Answer)>) {
  const asked: { what: string; body: unknown }[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const address = new URL(request.url);
    const what = `${request.method} ${address.pathname.replace(/^\/api/, "")}${address.search}`;
    const text = request.headers.get("Content-Type")?.includes("json") ? await request.text() : "";
    const body: unknown = text ? JSON.parse(text) : null;
    asked.push({ what, body });
    const known = answers[what];
    const { status = 200, body: said = {} } =
      known === undefined
        ? { status: 404, body: { message: `nobody answers ${what}` } }
        : typeof known === "function"
          ? known(body)
          : known;
    return new Response(JSON.stringify(said), { status, headers: { "Content-Type": "application/json" } });
  });
  return asked;
}
