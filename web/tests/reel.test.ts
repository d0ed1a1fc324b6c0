/** The order and lengths of the shots of a reel, and its playing from one to the next. */
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { createStore } from "zustand/vanilla";
import type { Project, Shot } from "../src/api/types";
import type { Player, Playing } from "../src/player/player";
import { Reel } from "../src/reel/reeling";
import { lengthWords, placeWords } from "../src/kit/duration";
import { STILL, stretchesOf } from "../src/reel/takes";

const still = (id: number, scene: number | null = null) => ({ id, number: id, scene, cut: null }) as Shot;
const clip = (id: number, first: number, last: number, scene: number | null = null) =>
  ({ ...still(id, scene), cut: { clip: 1, name: "kiln", first, last, rate: "24/1" } }) as Shot;
const project = (shots: Shot[], scenes: number[] = []) =>
  ({ shots, scenes: scenes.map((id) => ({ id, name: `scene ${id}` })) }) as unknown as Project;
const takes = (shots: Shot[], scenes?: number[]) =>
  stretchesOf(project(shots, scenes)).flatMap((s) => s.takes);

/** A player that does as it is told. */
function player(first: number) {
  const state = createStore<Playing>(
    () => ({ number: first, wanted: first, playing: false, ended: false }) as Playing,
  );
  const made = {
    state,
    seek: (number: number) => state.setState({ number, wanted: number }),
    toggle: () => state.setState({ playing: !state.getState().playing, ended: false }),
    pause: () => state.setState({ playing: false }),
    change: (said: Partial<Playing>) => state.setState(said),
  };
  return { made: made as unknown as Player, state };
}

describe("the order of a reel", () => {
  it("goes scene by scene, those in none last, and every shot begins where the one before ends", () => {
    const found = stretchesOf(project([still(1, 8), still(2), clip(3, 10, 57, 7), still(4, 7)], [7, 8, 9]));
    expect(found.map((s) => [s.scene?.id ?? null, s.takes.map((t) => t.shot.id)])).toEqual([
      [7, [3, 4]],
      [8, [1]],
      [null, [2]],
    ]);
    const all = found.flatMap((s) => s.takes);
    expect(all.map((t) => t.begin)).toEqual([0, 2, 2 + STILL, 2 + 2 * STILL]);
    expect(all[0]).toMatchObject({ first: 10, last: 57, rate: 24, seconds: 2 });
  });

  it("is said in minutes, seconds and tenths", () => {
    expect([lengthWords(12.4), lengthWords(78), lengthWords(311)]).toEqual([
      "12 s",
      "1 min 18 s",
      "5 min 11 s",
    ]);
    expect([placeWords(0), placeWords(9.96), placeWords(75.25)]).toEqual(["00:00.0", "00:09.9", "01:15.2"]);
  });
});

describe("a reel", () => {
  beforeEach(() => {
    vi.useFakeTimers({ toFake: ["requestAnimationFrame", "cancelAnimationFrame", "performance"] });
  });
  afterEach(() => vi.useRealTimers());

  it("goes from a clip to a still to a clip by itself, and stops at its end", () => {
    const reel = new Reel(takes([clip(1, 5, 9), still(2), clip(3, 0, 4)]));
    const [one, three] = [player(7), player(2)];
    reel.meet(1, one.made);
    reel.meet(3, three.made);
    // The frame that stands for the shot is somewhere in its middle; the reel begins at its first.
    expect(one.state.getState()).toMatchObject({ number: 5, from: 5, to: 9, loop: false });
    reel.toggle();
    expect(one.state.getState().playing).toBe(true);
    one.state.setState({ number: 9, playing: false, ended: true });
    expect(reel.state.getState()).toMatchObject({ index: 1, playing: true });
    vi.advanceTimersByTime(STILL * 1000 - 100);
    expect(reel.state.getState().index).toBe(1);
    vi.advanceTimersByTime(200);
    expect(reel.state.getState()).toMatchObject({ index: 2, number: 0 });
    expect(three.state.getState().playing).toBe(true);
    three.state.setState({ number: 4, playing: false, ended: true });
    expect(reel.state.getState()).toMatchObject({ index: 2, playing: false });
  });

  it("plays a clip that has no player yet for as long as it lasts", () => {
    const reel = new Reel(takes([clip(1, 0, 47), still(2)]));
    reel.toggle();
    vi.advanceTimersByTime(1900);
    expect(reel.state.getState().index).toBe(0);
    vi.advanceTimersByTime(200);
    expect(reel.state.getState().index).toBe(1);
  });

  it("steps through cuts both ways and goes to any second", () => {
    const reel = new Reel(takes([clip(1, 5, 9), still(2), clip(3, 0, 4)]));
    reel.go(0, 9);
    reel.step(1);
    expect(reel.state.getState()).toMatchObject({ index: 1 });
    reel.step(-1);
    expect(reel.state.getState()).toMatchObject({ index: 0, number: 9 });
    reel.step(-1);
    expect(reel.state.getState()).toMatchObject({ index: 0, number: 8 });
    reel.seek(5 / 24 + STILL + 2.5 / 24);
    expect(reel.state.getState()).toMatchObject({ index: 2, number: 2 });
    reel.seek(5 / 24 + 1.5);
    expect(reel.state.getState().index).toBe(1);
    expect(reel.seconds()).toBeCloseTo(5 / 24 + 1.5, 6);
    reel.go(99);
    expect(reel.state.getState().index).toBe(1);
  });

  it("does not follow a player that is still on its way to another frame", () => {
    const reel = new Reel(takes([clip(1, 5, 9), still(2)]));
    const one = player(7);
    reel.meet(1, one.made);
    one.state.setState({ wanted: 6 });
    expect(reel.state.getState().number).toBe(5);
    one.state.setState({ number: 6 });
    expect(reel.state.getState().number).toBe(6);
  });

  it("stays with its shot when shots are added before it, and begins again where it loops", () => {
    const reel = new Reel(takes([still(1), still(2)]));
    reel.go(1);
    reel.renew(takes([still(3, 7), still(1), still(2)], [7]));
    expect(reel.state.getState().index).toBe(2);
    reel.change({ loop: true });
    reel.toggle();
    vi.advanceTimersByTime(STILL * 1000 + 100);
    expect(reel.state.getState()).toMatchObject({ index: 0, playing: true });
    reel.renew([]);
    reel.close();
  });
});
