/** What the tests of components need and jsdom does not have; each test begins with an empty page. */
import { cleanup, configure } from "@testing-library/react";
import { afterEach, vi } from "vitest";

afterEach(cleanup);

class Unobserved {
  observe() {}
  unobserve() {}
  disconnect() {}
}
globalThis.ResizeObserver ??= Unobserved as unknown as typeof ResizeObserver;
globalThis.IntersectionObserver ??= Unobserved as unknown as typeof IntersectionObserver;
globalThis.CSS ??= { escape: (text: string) => text } as typeof CSS;

// A machine that does other things too may take longer than the second that is usual.
configure({ asyncUtilTimeout: 8000 });

// jsdom knows no media queries: none holds.
vi.stubGlobal("matchMedia", (query: string) => ({
  matches: false,
  media: query,
  addEventListener: () => undefined,
  removeEventListener: () => undefined,
}));
