/** Two clips that play in step: the second does what the first does, each within its own shot. */
import { describe, expect, it } from "vitest";
import { createStore } from "zustand/vanilla";
import type { Player, Playing } from "../src/player/player";
import { follow } from "../src/projects/twoinstep";

/** A player as others see it: what it was told is kept, and done at once. */
function player(from: number, to: number): Player & { told: string[] } {
  const state = createStore<Playing>(() => ({
    ...{ number: from, wanted: from, playing: false, ended: false, speed: 1, loop: true, from, to },
    ...{ rate: 0, dropped: 0, broken: [], gone: false, sound: false, how: "codes", why: "", small: false },
  }));
  const told: string[] = [];
  const seek = (number: number) => {
    told.push(`seek ${number}`);
    state.setState({ number, wanted: number });
  };
  const toggle = () => {
    told.push("toggle");
    state.setState({ playing: !state.getState().playing });
  };
  const change = (said: Partial<Playing>) => {
    told.push(`change ${JSON.stringify(said)}`);
    state.setState(said);
  };
  return { state, told, seek, toggle, change } as unknown as Player & { told: string[] };
}

describe("two shots in step", () => {
  it("stand on the same frame of each, the shorter one on its last", () => {
    const [first, second] = [player(10, 49), player(100, 109)];
    follow(first, second);
    first.seek(14);
    expect(second.state.getState().wanted).toBe(104);
    first.seek(40);
    expect(second.state.getState().wanted).toBe(109);
    first.seek(10);
    expect(second.state.getState().wanted).toBe(100);
  });

  it("play, stand, loop and run at one speed together; nothing more is told when they part", () => {
    const [first, second] = [player(0, 20), player(50, 70)];
    const part = follow(first, second);
    first.change({ speed: 0.5 });
    first.change({ loop: false });
    first.toggle();
    expect(second.state.getState()).toMatchObject({ playing: true, speed: 0.5, loop: false });
    // While both run, each follows its own clock.
    first.state.setState({ number: 7, wanted: 7 });
    expect(second.told.filter((t) => t.startsWith("seek"))).toEqual([]);
    // The first begins again.
    first.state.setState({ number: 0, wanted: 0 });
    expect(second.told.at(-1)).toBe("seek 50");
    first.toggle();
    expect(second.state.getState().playing).toBe(false);
    part();
    first.seek(9);
    expect(second.state.getState().wanted).toBe(50);
  });
});
