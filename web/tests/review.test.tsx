/** The page of a review clip: its shots, where each begins, and what it says where it cannot be played. */
import { fireEvent, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { beforeEach, expect, it, vi } from "vitest";
import Review, { shotAt } from "../src/projects/review";
import { broken, server, shown } from "./shown";
import { project, shot } from "./things";

const chapter = (id: number, name: string, begin: number) => ({
  ...{ shot: id, number: id, name, scene: "", words: "", begin },
});
const CLIP = {
  ...{
    title: "Kiln",
    delivery: 2,
    whom: "Ida",
    seconds: 9.8,
    rate: "24",
    size: "960 × 540",
    kind: "H.264, 8 bit",
  },
  ...{ bytes: 3 * 10 ** 6, path: "review/Kiln.mp4", made_by: "Ines", made_at: "2026-05-01T10:00:00Z" },
  chapters: [chapter(1, "Shelf", 0), chapter(2, "Wheel", 4), chapter(9, "Gone since", 5.8)],
};

beforeEach(() => {
  // No document of a test plays films.
  vi.spyOn(HTMLMediaElement.prototype, "play").mockResolvedValue();
});

const open = () => {
  server({
    "GET /projects/4": { body: project([shot(1, "Shelf"), shot(2, "Wheel")]) },
    "GET /projects/4/deliveries/2/review": { body: CLIP },
  });
  return shown(
    <Routes>
      <Route path="/projects/:id/review/:number" element={<Review />} />
    </Routes>,
    "/projects/4/review/2",
  );
};

it("goes to a shot, and says which one is shown", async () => {
  const { container } = open();
  await userEvent.click(await screen.findByRole("button", { name: /Wheel/ }));
  const film = container.querySelector("video")!;
  expect(film.getAttribute("src")).toBe("/api/projects/4/deliveries/2/review/file");
  expect(film.currentTime).toBeCloseTo(4, 2);
  fireEvent.timeUpdate(film);
  expect(screen.getByRole("button", { name: /Wheel/ }).getAttribute("aria-current")).toBe("true");
  // A shot that was taken out since has no place on the reel.
  expect(screen.getByRole("link", { name: "Shelf on the reel" }).getAttribute("href")).toBe(
    "/projects/4/reel?shot=1",
  );
  expect(screen.queryByRole("link", { name: "Gone since on the reel" })).toBeNull();
  expect(await broken(container)).toEqual([]);
});

it("says what to do where the browser does not play it", async () => {
  const { container } = open();
  await screen.findByRole("button", { name: /Wheel/ });
  fireEvent.error(container.querySelector("video")!);
  expect(screen.getByText(/Fetch the file and play it elsewhere/)).toBeTruthy();
});

it("knows the shot of every second", () => {
  const seen = [0, 3.99, 4, 5.7, 5.8, 99].map((s) => shotAt(CLIP.chapters, s));
  expect(seen).toEqual([0, 0, 1, 1, 2, 2]);
});
