/** People: inviting, roles, what waits, activity, the table, sessions and tokens; coming in by a link. */
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { dayOf } from "../src/people/activity";
import { ComeIn } from "../src/people/comein";
import People from "../src/people/people";
import { broken, server, shown } from "./shown";
import { INES, ODILE, revision } from "./things";

const NOW = "2026-11-27T09:30:00Z";
const mate = (id: number, name: string, key: string, more: object = {}) => ({
  id,
  name,
  key,
  role: { applier: "Editor or photographer", designer: "Look designer", lead: "Lead" }[key],
  active: true,
  email: "",
  here: false,
  seen_at: NOW,
  ...more,
});
const TEAM = [
  mate(2, "Ines Tallow", "designer", { here: true }),
  mate(4, "Odile Marl", "lead"),
  mate(5, "Kiln Hand", "applier"),
];
const INVITED = {
  id: 7,
  for_name: "Wheel hand",
  role: "Look designer",
  made_by: "Odile Marl",
  until: "2026-12-04T09:00:00Z",
  run_out: false,
  path: "",
};
const MAY = [
  {
    key: "look.change",
    words: "Change a look",
    own: "you made it",
    applier: "no",
    designer: "own",
    lead: "all",
  },
  { key: "held.pass_on", words: "Let go out", own: "", applier: "asks", designer: "asks", lead: "all" },
];
const event = (id: number, more: object = {}) => ({
  id,
  kind: "looks",
  by: "Ines Tallow",
  said: "kept",
  about: "Ash r2",
  more: "warmer",
  to: "/catalogue/look/3?r=2",
  revision: null,
  at: NOW,
  ...more,
});
const review = (id: number, more: object = {}) => ({
  id,
  revision: revision(3, "Ash", { number: 2, status: "in review" }),
  asked_by: "Ines Tallow",
  asked_of: "Odile Marl",
  mine: true,
  own: false,
  asked_at: NOW,
  due: null,
  words: "",
  stand: "open",
  answer: "",
  answered_by: null,
  answered_at: null,
  ...more,
});
const seat = (id: number, more: object = {}) => ({
  id,
  browser: "Firefox on Linux",
  at: NOW,
  seen_at: NOW,
  this: false,
  ...more,
});
const token = (id: number, more: object = {}) => ({
  id,
  name: "Render shed",
  tail: "c21e",
  scope: "Read",
  made_at: NOW,
  until: null,
  used_at: null,
  run_out: false,
  secret: "",
  ...more,
});

const open = (me = ODILE, more: Parameters<typeof server>[0] = {}) => {
  const asked = server({
    "GET /session": { body: { person: me } },
    "GET /people?gone=true": { body: TEAM },
    "GET /invitations": { body: [INVITED] },
    "GET /waiting": { body: { asked: [review(1)], answered: [] } },
    "GET /waiting/others": { body: [review(2, { asked_of: "Second Lead", mine: false })] },
    "GET /people/may": { body: MAY },
    "GET /activity?days=7": {
      body: {
        events: [event(9), event(8, { by: "", said: "Somebody fetched delivery", revision: 3 })],
        count: 3,
      },
    },
    "GET /activity?days=7&before=8": {
      body: { events: [event(1, { at: "2026-11-20T08:00:00Z", about: "Oldest" })], count: 3 },
    },
    "GET /activity?kind=people&days=7": { body: { events: [], count: 0 } },
    "GET /me/sessions": { body: [seat(1, { this: true }), seat(2, { browser: "Safari on a tablet" })] },
    "GET /me/tokens": { body: [token(3)] },
    ...more,
  });
  return { asked, ...shown(<People />) };
};
const sent = (asked: { what: string; body: unknown }[], what: string) =>
  asked.find((a) => a.what === what)?.body;

beforeEach(() => {
  vi.setSystemTime(new Date("2026-11-27T10:00:00Z"));
});

describe("the page of people", () => {
  it("shows the team, who is here, who is invited, and breaks no rule of access", async () => {
    const { container } = open();
    const team = await screen.findByRole("region", { name: "People" });
    expect(await within(team).findByText("3, and 1 invited")).toBeTruthy();
    expect(within(team).getByText("here now")).toBeTruthy();
    expect(within(team).getByText(/Look designer, until Friday/)).toBeTruthy();
    await screen.findByText("Change a look");
    await screen.findAllByText(/Safari on a tablet/);
    expect(await broken(container)).toEqual([]);
  });

  it("makes a link for who is invited, and tells it once", async () => {
    const { asked } = open(ODILE, {
      "POST /invitations": { status: 201, body: { ...INVITED, path: "/come-in/s3cret" } },
    });
    const user = userEvent.setup();
    await user.click(await screen.findByRole("button", { name: "Invite" }));
    const sheet = within(screen.getByRole("dialog"));
    expect(sheet.getByRole<HTMLButtonElement>("button", { name: "Make the link" }).disabled).toBe(true);
    await user.type(sheet.getByRole("textbox", { name: "Whom" }), "Wheel hand");
    await user.click(sheet.getByRole("button", { name: "Make the link" }));
    expect(await screen.findByText(/\/come-in\/s3cret$/)).toBeTruthy();
    expect(sent(asked, "POST /invitations")).toEqual({ for_name: "Wheel hand", role: "applier" });
    expect(screen.queryByRole("dialog")).toBeNull();
  });

  it("gives another role, and says what the server refuses", async () => {
    const words = "Odile Marl is the only lead. Make somebody else a lead first.";
    const { asked } = open(ODILE, {
      "PATCH /people/5": { body: mate(5, "Kiln Hand", "designer") },
      "PATCH /people/4": { status: 409, body: { message: words } },
    });
    const user = userEvent.setup();
    await user.click(await screen.findByRole("button", { name: /Change Kiln Hand/ }));
    await user.click(await screen.findByRole("menuitem", { name: /Make a look designer/ }));
    await waitFor(() => expect(sent(asked, "PATCH /people/5")).toEqual({ role: "designer" }));
    await user.click(screen.getByRole("button", { name: /Change Odile Marl/ }));
    await user.click(await screen.findByRole("menuitem", { name: /Let in no more/ }));
    expect((await screen.findByRole("alert")).textContent).toBe(words);
    expect(sent(asked, "PATCH /people/4")).toEqual({ active: false });
  });

  it("offers a link for a new password", async () => {
    open(ODILE, {
      "POST /people/5/reset": {
        status: 201,
        body: { ...INVITED, for_name: "Kiln Hand", path: "/come-in/fresh" },
      },
    });
    const user = userEvent.setup();
    await user.click(await screen.findByRole("button", { name: /Change Kiln Hand/ }));
    await user.click(await screen.findByRole("menuitem", { name: /Link for a new password/ }));
    expect(await screen.findByText(/\/come-in\/fresh$/)).toBeTruthy();
  });

  it("keeps the address by which single sign-on knows somebody", async () => {
    const { asked } = open(ODILE, {
      "PATCH /people/5": { body: mate(5, "Kiln Hand", "applier", { email: "hand@kiln.example" }) },
    });
    const user = userEvent.setup();
    await user.click(await screen.findByRole("button", { name: /Change Kiln Hand/ }));
    await user.click(await screen.findByRole("menuitem", { name: /Address for single sign-on/ }));
    await user.type(screen.getByRole("textbox", { name: "Address" }), "hand@kiln.example");
    await user.click(screen.getByRole("button", { name: "Keep" }));
    await waitFor(() => expect(sent(asked, "PATCH /people/5")).toEqual({ email: "hand@kiln.example" }));
  });

  it("shows others than leads the same without what they may not do", async () => {
    open(INES);
    await screen.findByText("3, and 1 invited");
    expect(screen.queryByRole("button", { name: "Invite" })).toBeNull();
    expect(screen.queryByRole("button", { name: /Change Kiln Hand/ })).toBeNull();
    expect(screen.getByText("designer, you")).toBeTruthy();
  });

  it("lets a lead see and end by what somebody comes in", async () => {
    const { asked } = open(ODILE, {
      "GET /people?gone=true": {
        body: [...TEAM.slice(0, 2), mate(5, "Kiln Hand", "applier", { second_factor: true })],
      },
      "GET /people/5/ways-in": {
        body: {
          sessions: [seat(8, { browser: "Firefox on Windows" })],
          tokens: [token(9, { name: "Old shed" })],
        },
      },
      "DELETE /people/5/sessions/8": { status: 200 },
      "DELETE /people/5/tokens/9": { status: 200 },
      "DELETE /people/5/second-factor": { status: 200 },
    });
    const user = userEvent.setup();
    await user.click(await screen.findByRole("button", { name: /Change Kiln Hand/ }));
    await user.click(await screen.findByRole("menuitem", { name: /Sessions and tokens/ }));
    const sheet = within(await screen.findByRole("dialog", { name: "How Kiln Hand comes in" }));
    await user.click(await sheet.findByRole("button", { name: /Sign out\s*Firefox on Windows/ }));
    await user.click(sheet.getByRole("button", { name: /End\s*Old shed/ }));
    await user.click(sheet.getByRole("button", { name: "Take the second factor off" }));
    await waitFor(() =>
      expect(asked.filter((a) => a.what.startsWith("DELETE")).map((a) => a.what)).toHaveLength(3),
    );
  });

  it("switches the second factor on: password, code, spare codes told once", async () => {
    const begun = {
      secret: "BASE32SECRET",
      address: "otpauth://totp/x",
      picture: "data:image/svg+xml,%3Csvg/%3E",
    };
    const { asked } = open(ODILE, {
      "GET /me/second-factor": { body: { on: false } },
      "POST /me/second-factor": { body: begun },
      "POST /me/second-factor/confirm": { body: { spare: ["aaaa-1111", "bbbb-2222"] } },
    });
    const user = userEvent.setup();
    await user.click(await screen.findByRole("button", { name: "Second factor" }));
    await user.type(screen.getByLabelText("Password"), "slip-and-glaze");
    await user.click(screen.getByRole("button", { name: "Go on" }));
    expect(await screen.findByText("BASE32SECRET")).toBeTruthy();
    const dialog = screen.getByRole("dialog");
    expect(await broken(dialog)).toEqual([]);
    await user.type(screen.getByLabelText("Code that the app shows"), "123456");
    await user.click(screen.getByRole("button", { name: "Switch it on" }));
    expect(await screen.findByText("bbbb-2222")).toBeTruthy();
    expect(sent(asked, "POST /me/second-factor/confirm")).toEqual({ code: "123456" });
  });

  it("says what waits for whom", async () => {
    open();
    const waits = await screen.findByRole("region", { name: "What waits for whom" });
    expect(await within(waits).findByText("with Second Lead", { exact: false })).toBeTruthy();
    expect(within(waits).getByText("to decide on", { exact: false })).toBeTruthy();
    expect(within(waits).getAllByRole("button", { name: /Open\s*Ash r2/ })).toHaveLength(2);
  });

  it("tells what was done by day, narrows it, and goes back further", async () => {
    open();
    const box = await screen.findByRole("region", { name: "Activity" });
    expect(await within(box).findByText("Today")).toBeTruthy();
    expect(within(box).getAllByRole("link", { name: "Ash r2" })[0]!.getAttribute("href")).toBe(
      "/catalogue/look/3?r=2",
    );
    expect(within(box).getByText(/3 events/)).toBeTruthy();
    const user = userEvent.setup();
    await user.click(within(box).getByRole("button", { name: "Earlier" }));
    expect(await within(box).findByText("Oldest")).toBeTruthy();
    expect(within(box).getByText("20 November 2026")).toBeTruthy();
    expect(within(box).queryByRole("button", { name: "Earlier" })).toBeNull();
    await user.click(within(box).getByRole("radio", { name: "People" }));
    expect(await within(box).findByText(/Nothing was done that fits/)).toBeTruthy();
  });

  it("reads the table aloud", async () => {
    open();
    const row = (await screen.findByText("Change a look")).closest("tr")!;
    expect(
      within(row)
        .getAllByRole("cell")
        .map((c) => c.textContent),
    ).toEqual(["no", "own only", "own and others’"]);
    expect(within(row).getByText("own: you made it")).toBeTruthy();
  });

  it("signs out elsewhere, makes and ends tokens", async () => {
    const { asked } = open(ODILE, {
      "DELETE /me/sessions/2": { status: 200 },
      "DELETE /me/tokens/3": { status: 200 },
      "POST /me/tokens": { status: 201, body: token(4, { name: "Nightly", secret: "saucer_once" }) },
    });
    const user = userEvent.setup();
    await user.click(await screen.findByRole("button", { name: /Sign out\s*Safari on a tablet/ }));
    await user.click(await screen.findByRole("button", { name: /End\s*Render shed/ }));
    await user.click(screen.getByRole("button", { name: "New token" }));
    await user.type(screen.getByRole("textbox", { name: "What for" }), "Nightly");
    await user.click(screen.getByRole("button", { name: "Make the token" }));
    expect(await screen.findByText("saucer_once")).toBeTruthy();
    expect(asked.map((a) => a.what)).toEqual(
      expect.arrayContaining(["DELETE /me/sessions/2", "DELETE /me/tokens/3"]),
    );
    expect(sent(asked, "POST /me/tokens")).toEqual({ name: "Nightly", scope: "read", days: 90 });
  });

  it("changes the password and says where one was signed out", async () => {
    const { asked } = open(ODILE, { "PUT /me/password": { body: { signed_out: 2, tokens_ended: 1 } } });
    const user = userEvent.setup();
    await user.click(await screen.findByRole("button", { name: "Change password" }));
    await user.type(screen.getByLabelText("Password until now"), "slip-and-glaze");
    await user.type(screen.getByLabelText(/New password/), "short");
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Change it" }).disabled).toBe(true);
    await user.type(screen.getByLabelText(/New password/), "-and-longer");
    await user.click(screen.getByRole("button", { name: "Change it" }));
    expect(await screen.findByText(/signed out in 2 other places. 1 token ended/)).toBeTruthy();
    expect(sent(asked, "PUT /me/password")).toEqual({
      now: "slip-and-glaze",
      new: "short-and-longer",
      keep_tokens: false,
    });
  });
});

describe("days", () => {
  it("are said as people say them", () => {
    const now = new Date("2026-11-27T10:00:00");
    expect(dayOf("2026-11-27T00:10:00", now)).toBe("Today");
    expect(dayOf("2026-11-26T23:50:00", now)).toBe("Yesterday");
    expect(dayOf("2026-11-24T12:00:00", now)).toBe("Tuesday");
    expect(dayOf("2026-11-20T12:00:00", now)).toBe("20 November 2026");
  });
});

describe("coming in", () => {
  const come = (answers: Parameters<typeof server>[0]) => {
    const asked = server({ "GET /session": { body: { person: null } }, ...answers });
    const view = shown(
      <Routes>
        <Route path="/come-in/:secret" element={<ComeIn />} />
        <Route path="/" element={<p>inside</p>} />
      </Routes>,
      "/come-in/abc",
    );
    return { asked, ...view };
  };
  const link = { for_name: "Wheel hand", role: "Look designer", made_by: "Odile Marl", username: "" };

  it("lets somebody new choose a name and a password", async () => {
    const { asked, container } = come({
      "GET /come-in/abc": { body: link },
      "POST /come-in/abc": { body: INES },
    });
    const user = userEvent.setup();
    expect(
      await screen.findByText("Odile Marl invites Wheel hand to come in as look designer."),
    ).toBeTruthy();
    expect(await broken(container)).toEqual([]);
    await user.type(screen.getByLabelText("What you are called"), "Wheel Hand");
    await user.type(screen.getByLabelText("Name to sign in with"), "wheel");
    await user.type(screen.getByLabelText(/Password/), "glaze-and-ember");
    await user.click(screen.getByRole("button", { name: "Come in" }));
    expect(await screen.findByText("inside")).toBeTruthy();
    expect(sent(asked, "POST /come-in/abc")).toEqual({
      username: "wheel",
      name: "Wheel Hand",
      password: "glaze-and-ember",
      code: "",
    });
  });

  it("asks for the password alone where the person is known", async () => {
    come({ "GET /come-in/abc": { body: { ...link, username: "vera", for_name: "Vera Quillon" } } });
    expect(await screen.findByText("A new password for Vera Quillon, who signs in as vera.")).toBeTruthy();
    expect(screen.queryByLabelText("What you are called")).toBeNull();
  });

  it("says where a link leads nowhere any more", async () => {
    come({ "GET /come-in/abc": { status: 404, body: { message: "This link does not lead in any more." } } });
    expect((await screen.findByRole("alert")).textContent).toContain("does not lead in any more");
    expect(screen.getByRole("link", { name: "Sign in" })).toBeTruthy();
  });
});
