/** The bin, and who holds how much. */
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Removed } from "../src/api/types";
import { ToBin } from "../src/kit/tobin";
import Bin from "../src/people/bin";
import { Holdings } from "../src/people/held";
import { server, shown } from "./shown";

const FRAME: Removed = {
  kind: "frame",
  id: 4,
  word: "frame",
  name: "Kiln mouth",
  owner: "Ines",
  removed_by: "Odile",
  removed_at: "2026-11-30T10:00:00Z",
  until: "2026-12-30T10:00:00Z",
  bytes: 1_400_000,
  picture: true,
};
const SHEET: Removed = {
  ...FRAME,
  kind: "sheet",
  id: 2,
  word: "contact sheet",
  name: "Poster",
  removed_by: "Ines",
  bytes: 0,
  picture: false,
};

describe("the bin", () => {
  it("says what each thing is, whose, who removed it, and until when it stays", async () => {
    server({ "GET /bin": { body: [FRAME, SHEET] } });
    shown(<Bin />);
    const frame = await screen.findByRole("listitem", { name: "frame Kiln mouth" });
    expect(frame.textContent).toContain("frame, 1.4 MB of Ines · removed by Odile");
    expect(frame.textContent).toContain("until 30 December");
    expect(within(frame).getByRole("presentation").getAttribute("src")).toBe("/api/bin/frame/4/still");
    expect(screen.getByRole("listitem", { name: "contact sheet Poster" }).textContent).toContain(
      "contact sheet · removed by Ines",
    );
  });

  it("gives something back, or says why not", async () => {
    server({
      "GET /bin": { body: [SHEET] },
      "POST /bin/sheet/2/back": { status: 409, body: { message: "Rename that one." } },
    });
    shown(<Bin />);
    await userEvent.click(await screen.findByRole("button", { name: /^Put back/ }));
    expect((await screen.findByRole("alert")).textContent).toBe("Rename that one.");
  });

  it("asks once more before anything goes for good", async () => {
    const asked = server({ "GET /bin": { body: [FRAME] }, "DELETE /bin/frame/4": {} });
    shown(<Bin />);
    await userEvent.click(await screen.findByRole("button", { name: /^Delete for good …/ }));
    const dialog = screen.getByRole("dialog", { name: "Delete Kiln mouth for good" });
    expect(dialog.textContent).toContain("makes room for 1.4 MB");
    expect(asked.map((a) => a.what)).not.toContain("DELETE /bin/frame/4");
    await userEvent.click(within(dialog).getByRole("button", { name: "Delete for good" }));
    expect(asked.map((a) => a.what)).toContain("DELETE /bin/frame/4");
  });

  it("is empty in words", async () => {
    server({ "GET /bin": { body: [] } });
    shown(<Bin />);
    expect(await screen.findByText("The bin is empty")).toBeTruthy();
  });
});

it("moving something to the bin says why it stays where something uses it", async () => {
  shown(
    <ToBin what="clip" stale={[]} remove={() => Promise.reject(new Error("Shots are cut from Yard."))} />,
  );
  await userEvent.click(screen.getByRole("button", { name: "Move clip to the bin" }));
  expect((await screen.findByRole("alert")).textContent).toBe("Shots are cut from Yard.");
});

it("who holds how much is shown by people and projects, with the limits", async () => {
  const parts = [
    { what: "clips", count: 2, bytes: 3e9 },
    { what: "piece of work under way", count: 1, bytes: 0 },
    { what: "frames", count: 0, bytes: 0 },
  ];
  server({
    "GET /people/holdings": {
      body: {
        people: [{ id: 1, name: "Ines", bytes: 3e9, parts }],
        projects: [],
        person_limit: 4,
        project_limit: null,
      },
    },
  });
  shown(<Holdings />);
  const row = (await screen.findByText("Ines")).closest("li")!;
  expect(row.textContent).toBe("Ines3.0 GB2 clips, 1 piece of work under way");
  expect(screen.getByRole("region", { name: "Room taken" }).textContent).toContain("at most 4.0 GB a person");
  expect(screen.getByText("There is no project yet.")).toBeTruthy();
});
