/** Plays the shots of a project one after the other, through the cuts. */
import { createStore, type StoreApi } from "zustand/vanilla";
import type { Player, Playing, Speed } from "../player/player";
import type { Take } from "./takes";

export interface Reeling {
  /** The shot that is shown, by its place in the order. */
  index: number;
  playing: boolean;
  speed: Speed;
  /** Whether the reel begins again after its end. */
  loop: boolean;
  /** The frame of the clip that is shown; 0 for a still. */
  number: number;
  /** Seconds that a still has been shown. */
  shown: number;
}

const now = () => performance.now() / 1000;

export class Reel {
  readonly state: StoreApi<Reeling>;
  private readonly players = new Map<number, Player>();
  private stops = new Map<number, () => void>();
  private request = 0;
  private last = 0;

  constructor(private takes: readonly Take[]) {
    this.state = createStore<Reeling>(() => ({
      ...{ index: 0, playing: false, speed: 1, loop: false },
      ...{ number: takes[0]?.first ?? 0, shown: 0 },
    }));
  }

  /** The shots have changed: the one that is shown stays, where it is still there. */
  renew(takes: readonly Take[]): void {
    const { index } = this.state.getState();
    const here = this.takes[index]?.shot.id;
    this.takes = takes;
    const at = takes.findIndex((t) => t.shot.id === here);
    if (at < 0 && takes.length) this.go(Math.min(index, takes.length - 1));
    else if (at >= 0 && at !== index) this.state.setState({ index: at });
  }

  /** A shot's player is there, or gone. */
  meet(shot: number, player: Player | null): void {
    this.stops.get(shot)?.();
    this.stops.delete(shot);
    this.players.delete(shot);
    if (!player) return;
    const take = this.takes.find((t) => t.shot.id === shot);
    if (!take) return;
    this.players.set(shot, player);
    const here = this.take === take;
    player.change({ from: take.first, to: take.last, loop: false, speed: this.state.getState().speed });
    player.seek(here ? this.state.getState().number : take.first);
    this.stops.set(
      shot,
      player.state.subscribe((s, before) => this.follow(shot, s, before)),
    );
    if (here && this.state.getState().playing) this.run();
  }

  /** Goes to a shot, and to a frame of its clip, or a second of a still. */
  go = (index: number, number?: number, shown = 0): void => {
    const take = this.takes[index];
    if (!take) return;
    if (this.player?.state.getState().playing) this.player.pause();
    const at = Math.min(Math.max(number ?? take.first, take.first), take.last);
    this.state.setState({ index, number: at, shown });
    this.player?.seek(at);
    if (this.state.getState().playing) this.run();
  };

  /** Goes to a second of the reel. */
  seek = (seconds: number): void => {
    const index = Math.max(
      this.takes.findLastIndex((t) => t.begin <= seconds + 1e-6),
      0,
    );
    const take = this.takes[index];
    if (take)
      this.go(
        index,
        take.first + Math.floor((seconds - take.begin) * take.rate + 1e-6),
        seconds - take.begin,
      );
  };

  /** Steps over frames, through the cuts; a still is one step. */
  step = (by: number): void => {
    this.pause();
    const { index, number } = this.state.getState();
    const take = this.takes[index];
    if (!take) return;
    const wanted = number + by;
    if (wanted >= take.first && wanted <= take.last && take.rate) this.go(index, wanted);
    else if (by > 0) this.go(index + 1);
    else this.go(index - 1, this.takes[index - 1]?.last);
  };

  /** Goes to another shot. */
  cut = (by: number): void => this.go(this.state.getState().index + by);

  toggle = (): void => {
    if (this.state.getState().playing) this.pause();
    else {
      this.state.setState({ playing: true });
      this.run();
    }
  };

  pause = (): void => {
    this.state.setState({ playing: false });
    cancelAnimationFrame(this.request);
    if (this.player?.state.getState().playing) this.player.pause();
  };

  change = (said: Partial<Pick<Reeling, "speed" | "loop">>): void => {
    this.state.setState(said);
    const { speed } = said;
    if (speed !== undefined) this.players.forEach((player) => player.change({ speed }));
  };

  close(): void {
    cancelAnimationFrame(this.request);
    this.stops.forEach((stop) => stop());
    this.stops.clear();
    this.players.clear();
  }

  /** Seconds from the beginning of the reel. */
  seconds(): number {
    const { index, number, shown } = this.state.getState();
    const take = this.takes[index];
    return take ? take.begin + (take.rate ? (number - take.first) / take.rate : shown) : 0;
  }

  /** What the player of a shot does. */
  private follow(shot: number, s: Playing, before: Playing): void {
    if (this.take?.shot.id !== shot) return;
    // A frame that was asked for is not there at once; until then the one before it is shown.
    const there = s.playing || s.number === s.wanted;
    if (there && s.number !== this.state.getState().number) this.state.setState({ number: s.number });
    if (s.ended && !before.ended && this.state.getState().playing) this.next();
  }

  private get take(): Take | undefined {
    return this.takes[this.state.getState().index];
  }

  private get player(): Player | undefined {
    return this.take ? this.players.get(this.take.shot.id) : undefined;
  }

  private run(): void {
    cancelAnimationFrame(this.request);
    const { player } = this;
    if (!player) {
      this.last = now();
      this.request = requestAnimationFrame(this.tick);
    } else if (!player.state.getState().playing) player.toggle();
  }

  private next(): void {
    const { index, loop } = this.state.getState();
    if (index + 1 < this.takes.length) this.go(index + 1);
    else if (loop) this.go(0);
    else this.pause();
  }

  /** A still, or a clip that does not play yet, stands for as long as its shot lasts. */
  private readonly tick = (): void => {
    const { take } = this;
    if (!take) return;
    const passed = (now() - this.last) * this.state.getState().speed;
    this.last = now();
    const shown = this.state.getState().shown + passed;
    if (shown >= take.seconds) {
      this.next();
      return;
    }
    this.state.setState({ shown });
    this.request = requestAnimationFrame(this.tick);
  };
}
