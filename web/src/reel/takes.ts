/** The shots of a project in the order in which they are played, with their lengths. */
import { declared } from "../api/declared";
import type { Project, Scene, Shot } from "../api/types";
import { byScene } from "../projects/byscene";

/** Seconds that a still is shown. */
export const STILL = declared.still_seconds;

export interface Take {
  shot: Shot;
  /** Frames of the clip, both included; 0 for a still. */
  first: number;
  last: number;
  /** Frames a second; 0 for a still. */
  rate: number;
  seconds: number;
  /** When it begins on the reel, in seconds. */
  begin: number;
}

export interface Stretch {
  scene: Scene | null;
  takes: Take[];
}

const rateOf = (said: string) => {
  const [over, under] = said.split("/").map(Number);
  return over ? over / (under || 1) : 0;
};

/** The reel by scene. */
export function stretchesOf(project: Project): Stretch[] {
  let begin = 0;
  const take = (shot: Shot): Take => {
    const rate = shot.cut ? rateOf(shot.cut.rate) : 0;
    const { first, last } = rate && shot.cut ? shot.cut : { first: 0, last: 0 };
    const seconds = rate ? (last - first + 1) / rate : STILL;
    const made = { shot, first, last, rate, seconds, begin };
    begin += seconds;
    return made;
  };
  return byScene(project)
    .filter(({ shots }) => shots.length)
    .map(({ scene, shots }) => ({ scene, takes: shots.map(take) }));
}
