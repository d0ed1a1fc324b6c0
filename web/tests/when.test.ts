import { expect, it } from "vitest";
import { longAgo } from "../src/kit/when";

it("says how long ago something was, more coarsely the longer ago", () => {
  const now = new Date(2026, 4, 20, 15, 0).getTime();
  const ago = (seconds: number) => longAgo(now - 1000 * seconds, now);
  expect([ago(-5), ago(2), ago(41), ago(240), ago(7200)]).toEqual([
    "just now",
    "just now",
    "41 sec ago",
    "4 min ago",
    "2 hr ago",
  ]);
  expect(ago(3 * 86400)).toBe("17/05/2026");
});
