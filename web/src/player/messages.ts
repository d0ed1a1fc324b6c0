/** What the page and the thread that decodes say to each other. */

/** What is decoded, said once. */
export interface Setting {
  url: string;
  codec: string;
  width: number;
  height: number;
}

/** Asks for frames that are decoded together. first: their first number; offsets, sizes: of each in the file. */
export interface Wanted {
  first: number;
  offsets: number[];
  sizes: number[];
}

/** Ends the decoding of what was asked for last: other frames are wanted now. */
export interface Leave {
  leave: true;
}

/**
 * A decoded frame: its three planes one after the other, codes of `depth` bits in 2 bytes each where they are
 * more than 8.
 */
export interface Planes {
  number: number;
  width: number;
  height: number;
  depth: number;
  data: ArrayBuffer;
}

export type Told =
  | { kind: "frame"; planes: Planes }
  /**
   * All of them were told. wrong: why some could not be decoded; lost: the connection failed, not the file; left:
   * others were wanted meanwhile.
   */
  | { kind: "done"; first: number; wrong: string; lost: boolean; left: boolean }
  /** The server has the clip no more, or no longer for this person. */
  | { kind: "gone" }
  /** This browser does not decode such frames. */
  | { kind: "unable"; why: string };
