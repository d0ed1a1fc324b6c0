import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes, useLocation } from "react-router";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { client, somebodyWasHere } from "../src/api/queries";
import { ahead, App } from "../src/app";
import { SignIn } from "../src/people/signin";
import { broken, server, shown } from "./shown";

const INES = {
  username: "ines",
  name: "Ines Tallow",
  role: "Look designer",
  may_design: true,
  may_lead: false,
};
const Where = () => <p>at {useLocation().pathname}</p>;
const Door = () => (
  <Routes>
    <Route path="/sign-in" element={<SignIn />} />
    <Route path="*" element={<Where />} />
  </Routes>
);

beforeEach(() => {
  localStorage.clear();
  client.clear();
});

async function enter() {
  await userEvent.type(screen.getByRole("textbox", { name: /Name/ }), "ines");
  await userEvent.type(screen.getByLabelText(/Password/), "slip-and-glaze");
  await userEvent.click(screen.getByRole("button", { name: "Sign in" }));
}

describe("the way in", () => {
  it("asks who is here and nothing that a stranger may not know", async () => {
    const asked = server({ "GET /session": { body: { person: null } } });
    void ahead("/catalogue");
    shown(<App />, "/catalogue");
    await waitFor(() => expect(screen.getByRole("button", { name: "Sign in" })).toBeTruthy());
    expect(new Set(asked.map((a) => a.what))).toEqual(new Set(["GET /session"]));
    expect(somebodyWasHere()).toBe(false);
  });

  it("at the door itself nothing is asked ahead", () => {
    const asked = server({});
    void ahead("/sign-in");
    expect(asked).toEqual([]);
  });

  it("for somebody who was here, what the screen will show is asked at once", () => {
    localStorage.setItem("saucer:here", "1");
    const asked = server({
      "GET /session": { body: { person: INES } },
      "GET /frames": { body: [] },
      "GET /encodings": { body: [] },
    });
    void ahead("/catalogue", "?q=dusk&tag=warm");
    expect(asked.map((a) => a.what)).toEqual([
      "GET /frames",
      "GET /encodings",
      "GET /catalogue?tag=warm&q=dusk&offset=0&limit=48",
      "GET /catalogue/filters?tag=warm&q=dusk",
      "GET /catalogue/scales",
      "GET /session",
    ]);
  });

  it("goes on to where one wanted to go, and never to another site", async () => {
    for (const [next, there] of [
      ["/projects/4", "/projects/4"],
      ["//elsewhere.example", "/"],
      ["https://elsewhere.example", "/"],
    ] as const) {
      server({ "GET /session": { body: { person: null } }, "POST /sign-in": { body: INES } });
      const { unmount, container } = shown(<Door />, `/sign-in?next=${encodeURIComponent(next)}`);
      expect(await broken(container)).toEqual([]);
      await enter();
      await waitFor(() => expect(screen.getByText(`at ${there}`)).toBeTruthy());
      expect(client.getQueryData(["me"])).toEqual(INES);
      expect(somebodyWasHere()).toBe(true);
      unmount();
    }
  });

  it("says in words why somebody is not let in, and lets them try again", async () => {
    server({
      "GET /session": { body: { person: null } },
      "POST /sign-in": { status: 401, body: { message: "That name and password do not belong together." } },
    });
    shown(<Door />, "/sign-in");
    await enter();
    await waitFor(() => expect(screen.getByRole("alert").textContent).toContain("do not belong together"));
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Sign in" }).disabled).toBe(false);
    expect(somebodyWasHere()).toBe(false);
  });

  it("asks for the code of a second factor once the password was right", async () => {
    const asked = server({
      "GET /session": { body: { person: null } },
      "POST /sign-in": {
        status: 401,
        body: { message: "Type the code that your app shows now.", detail: { second_factor: true } },
      },
    });
    shown(<Door />, "/sign-in");
    expect(screen.queryByLabelText(/Code of your phone/)).toBeNull();
    await enter();
    await userEvent.type(await screen.findByLabelText(/Code of your phone/), "123456");
    await userEvent.click(screen.getByRole("button", { name: "Sign in" }));
    await waitFor(() => expect(asked.filter((a) => a.what === "POST /sign-in")).toHaveLength(2));
    expect(asked.at(-1)?.body).toEqual({ username: "ines", password: "slip-and-glaze", code: "123456" });
  });

  it("has no fields for a password where single sign-on is the only way in", async () => {
    server({
      "GET /session": { body: { person: null, single_sign_on: "the studio’s sign-on", passwords: false } },
    });
    shown(<SignIn />, "/sign-in");
    expect(await screen.findByRole("link", { name: "Sign in with the studio’s sign-on" })).toBeTruthy();
    expect(screen.queryByLabelText("Password")).toBeNull();
    expect(screen.queryByRole("button", { name: "Sign in" })).toBeNull();
  });

  it("offers the team's own way in, and says why somebody was sent back from it", async () => {
    server({ "GET /session": { body: { person: null, single_sign_on: "the studio’s sign-on" } } });
    const { container } = shown(<SignIn />, "/sign-in?next=/bench/3&said=You are not in the team yet.");
    const way = await screen.findByRole("link", { name: "Sign in with the studio’s sign-on" });
    expect(way.getAttribute("href")).toBe("/single-sign-on?next=%2Fbench%2F3");
    expect(screen.getByRole("alert").textContent).toBe("You are not in the team yet.");
    expect(await broken(container)).toEqual([]);
  });

  it("is not put out again by a late answer that nobody was here", async () => {
    let told: (() => void) | undefined;
    const order: string[] = [];
    vi.stubGlobal("fetch", async (request: Request) => {
      const path = new URL(request.url).pathname;
      if (path === "/api/session") await new Promise<void>((done) => (told = done));
      order.push(path);
      return new Response(JSON.stringify(path === "/api/session" ? { person: null } : INES), { status: 200 });
    });
    shown(<Door />, "/sign-in?next=/bench/3");
    await enter();
    expect(order).toEqual([]);
    told?.();
    expect(await screen.findByText("at /bench/3")).toBeTruthy();
    expect(order).toEqual(["/api/session", "/api/sign-in"]);
    expect(somebodyWasHere()).toBe(true);
  });
});
