/**
 * Plays a clip: one clock says which frame is due, and the picture that is shown is always the one that the
 * number names.
 */
import { createStore, type StoreApi } from "zustand/vanilla";
import type { ProxyIndex } from "../api/types";
import { createDecoded, HELD, type Decoded } from "./decoded";
import { createElement, type Element } from "./element";
import type { Planes } from "./messages";
import { createSound, type Sound } from "./sound";
import { countOf, frameAt, timeOf } from "./timing";

export const SPEEDS = [1, 0.5, 0.25] as const;
export type Speed = (typeof SPEEDS)[number];

/** How frames reach the screen: as codes, through a video element with 8 bits, or not at all. */
export type How = "codes" | "element" | "stills";

export interface Playing {
  /** The frame that is shown. */
  number: number;
  /** The frame that was asked for last; another one as long as it is not decoded. */
  wanted: number;
  playing: boolean;
  /** Whether it played to its end and stopped there. */
  ended: boolean;
  speed: Speed;
  loop: boolean;
  /** The marks of the loop; both are played. */
  from: number;
  to: number;
  /** Pictures that were shown in the last second. */
  rate: number;
  /** Frames that were due and not shown, since it began to play. */
  dropped: number;
  /** Frames that cannot be decoded: the first, and the one after the last. */
  broken: readonly (readonly [number, number])[];
  /** Whether the server has the clip no more; the frames that are decoded stay. */
  gone: boolean;
  sound: boolean;
  how: How;
  /** Why frames are not shown as codes. */
  why: string;
  /** Whether it is drawn smaller while it plays, for want of a graphics card. */
  small: boolean;
}

/** What there is to be painted. */
export type Shown = { number: number } & ({ planes: Planes } | { video: HTMLVideoElement });

/** Seconds that the picture may stay behind the clock before the clock waits for it. */
const PATIENCE = 0.4;

/** Frames that are decoded ahead at rest. */
const AT_REST = 12;

const now = () => performance.now() / 1000;

export class Player {
  readonly state: StoreApi<Playing>;
  private readonly calls = new Set<() => void>();
  private readonly last: number;
  private readonly sound: Sound | null;
  private what: Shown | null = null;
  private decoded: Decoded | null = null;
  private element: Element | null = null;
  /** When the clock was set, and to which second of the clip. */
  private set = { at: 0, seconds: 0 };
  private request = 0;
  private times: number[] = [];

  /** url: of the clip's proxy. first: the frame that is shown first. held: bytes of decoded frames. */
  constructor(
    readonly index: ProxyIndex,
    private readonly url: string,
    first: number,
    held = HELD,
  ) {
    this.last = countOf(index) - 1;
    this.state = createStore<Playing>(() => ({
      ...{
        number: first,
        wanted: first,
        playing: false,
        ended: false,
        speed: 1,
        loop: true,
        from: 0,
        to: this.last,
      },
      ...{ rate: 0, dropped: 0, broken: [], gone: false, sound: false, how: "codes", why: "", small: false },
    }));
    this.sound = index.sound ? createSound(url) : null;
    if (typeof VideoDecoder === "undefined")
      this.throughElement("this browser has no decoder of its own here");
    else {
      this.decoded = createDecoded(
        index,
        url,
        {
          frame: (number) => this.arrived(number),
          broken: (frames) => this.broke(frames),
          gone: () => this.endForGood(),
          unable: (why) => this.throughElement(why),
        },
        held,
      );
      this.lookAhead();
    }
  }

  shown = (): Shown | null => this.what;

  /** Calls whenever another picture is to be painted; gives what ends it. */
  painted = (call: () => void): (() => void) => {
    this.calls.add(call);
    return () => this.calls.delete(call);
  };

  seek = (number: number): void => {
    const wanted = Math.min(Math.max(Math.round(number), 0), this.last);
    if (this.element) {
      this.state.setState({ wanted });
      this.element.seek(wanted);
    } else this.begin(wanted);
  };

  step = (by: number): void => {
    if (this.state.getState().playing) this.pause();
    this.seek(this.state.getState().wanted + by);
  };

  toggle = (): void => (this.state.getState().playing ? this.pause() : this.play());

  pause = (): void => {
    cancelAnimationFrame(this.request);
    this.sound?.pause();
    this.element?.pause();
    this.state.setState({ playing: false, wanted: this.state.getState().number, rate: 0 });
    this.lookAhead();
  };

  change = (said: Partial<Pick<Playing, "speed" | "loop" | "from" | "to" | "sound">>): void => {
    this.state.setState(said);
    if (said.sound !== undefined) this.sound?.on(said.sound);
    const { playing, number, speed } = this.state.getState();
    if (playing && this.element) this.element.play(number, speed);
    else if (playing) {
      this.rebase(number);
      this.sound?.play(speed);
    }
    this.lookAhead();
  };

  close(): void {
    cancelAnimationFrame(this.request);
    this.calls.clear();
    this.decoded?.close();
    this.element?.close();
    this.sound?.close();
  }

  private play(): void {
    const { number, from, to, loop, speed } = this.state.getState();
    const first = number >= to || (loop && number < from) ? from : number;
    this.times = [];
    this.state.setState({ playing: true, ended: false, dropped: 0, rate: 0 });
    if (this.element) {
      this.element.play(first, speed);
      return;
    }
    this.begin(first);
    this.sound?.play(speed);
    cancelAnimationFrame(this.request);
    this.request = requestAnimationFrame(this.tick);
  }

  /** Stops at the end; its last frame is shown, even where there was no time for it. */
  private end(number: number): void {
    this.pause();
    this.seek(number);
    this.state.setState({ ended: true });
  }

  private rebase(number: number): void {
    this.set = { at: now(), seconds: timeOf(this.index, number) };
    this.sound?.at(this.set.seconds);
  }

  /** The second of the clip that is due: what is heard, or what the time that has passed says. */
  private clock(): number {
    return this.sound?.now() ?? this.set.seconds + (now() - this.set.at) * this.state.getState().speed;
  }

  private show(next: Shown): void {
    const { playing, number, dropped } = this.state.getState();
    const skipped = playing && next.number > number ? next.number - number - 1 : 0;
    this.what = next;
    this.times = [...this.times.filter((t) => t > now() - 1), now()];
    this.state.setState({
      number: next.number,
      dropped: dropped + skipped,
      ...(playing ? { wanted: next.number, rate: this.times.length } : {}),
    });
    this.calls.forEach((call) => call());
  }

  /** The frames that are due next, in their order. */
  private due(from: number, count: number): number[] {
    const { loop, from: begin, to } = this.state.getState();
    const end = from <= to ? to : this.last;
    const numbers = Array.from({ length: Math.min(count, end - from + 1) }, (_, k) => from + k);
    // After its end the loop begins again.
    for (let n = begin; loop && numbers.length < count && n < from && n <= to; n += 1) numbers.push(n);
    return numbers;
  }

  private lookAhead(): void {
    const { decoded } = this;
    const { wanted, playing } = this.state.getState();
    decoded?.want(this.due(wanted, playing ? decoded.room : AT_REST));
  }

  private arrived(number: number): void {
    const { wanted, playing } = this.state.getState();
    const planes = this.decoded?.get(number);
    if (!planes || number !== wanted || this.what?.number === number) return;
    this.show({ number, planes });
    if (playing) this.rebase(number);
  }

  private broke(frames: [number, number]): void {
    const { broken, wanted, playing } = this.state.getState();
    this.state.setState({ broken: [...broken, frames] });
    if (playing && frames[0] <= wanted && wanted < frames[1]) this.skip(wanted - 1);
  }

  private endForGood(): void {
    this.state.setState({ gone: true });
    this.pause();
  }

  /** The newest decoded frame that is due by now. */
  private newest(target: number): Planes | undefined {
    const { number } = this.state.getState();
    for (let n = target; n > number; n -= 1) {
      const planes = this.decoded?.get(n);
      if (planes) return planes;
    }
    return undefined;
  }

  private begin(number: number): void {
    const planes = this.decoded?.get(number);
    this.state.setState({ wanted: number });
    if (planes) this.show({ number, planes });
    this.rebase(number);
    this.lookAhead();
  }

  private readonly tick = (): void => {
    this.request = requestAnimationFrame(this.tick);
    const { number, wanted, from, to, loop } = this.state.getState();
    // Waits for a frame that was asked for.
    if (number !== wanted || this.what === null) {
      this.rebase(wanted);
      return;
    }
    const seconds = this.clock();
    const end = number <= to ? to : this.last;
    if (seconds >= timeOf(this.index, end + 1)) {
      if (loop) this.begin(from);
      else this.end(end);
      return;
    }
    const planes = this.newest(Math.min(frameAt(this.index, seconds), end));
    if (planes) {
      this.show({ number: planes.number, planes });
      this.lookAhead();
    } else if (seconds - timeOf(this.index, number) > PATIENCE) this.skip(number);
  };

  /** Goes on after frames that are broken; else waits for the frame that is due. */
  private skip(number: number): void {
    const { broken, from, loop } = this.state.getState();
    const lost = broken.find(([first, end]) => first <= number + 1 && number + 1 < end);
    if (!lost) this.rebase(number);
    else if (lost[1] <= this.last) this.begin(lost[1]);
    else if (loop && from < lost[0]) this.begin(from);
    else this.end(number);
    this.lookAhead();
  }

  /** Shows the clip through a video element, where codes cannot be had. */
  private throughElement(why: string): void {
    this.decoded?.close();
    this.decoded = null;
    this.state.setState({ how: "element", why });
    this.element = createElement(this.index, this.url, {
      shown: (number, video) => {
        this.show({ number, video });
        const { playing, from, to, loop, speed } = this.state.getState();
        if (!playing || number < to) return;
        if (loop) this.element?.play(from, speed);
        else this.end(to);
      },
      unable: (reason) => {
        this.pause();
        this.state.setState({ how: "stills", why: reason });
      },
    });
    this.element.seek(this.state.getState().wanted);
  }
}
