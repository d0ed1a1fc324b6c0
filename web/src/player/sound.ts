/** The sound of a clip: off until it is switched on, and then the clock that pictures follow. */

/** Seconds that the sound may lie beside the picture before it is set anew. */
const APART = 0.02;

export interface Sound {
  on: (on: boolean) => void;
  /** Where the picture is. */
  at: (seconds: number) => void;
  /** The second that is heard; undefined where nothing is. */
  now: () => number | undefined;
  play: (speed: number) => void;
  pause: () => void;
  close: () => void;
}

export function createSound(url: string): Sound {
  let element: HTMLAudioElement | null = null;
  let place = 0;
  const heard = () => element !== null && !element.paused && !element.ended && element.readyState >= 2;
  return {
    on: (on) => {
      if (on && !element) {
        element = new Audio(url);
        element.preload = "auto";
        element.currentTime = place;
      } else if (!on && element) {
        element.pause();
        element.src = "";
        element = null;
      }
    },
    at: (seconds) => {
      place = seconds;
      if (element && Math.abs(element.currentTime - seconds) > APART) element.currentTime = seconds;
    },
    now: () => (heard() && !element!.seeking ? element!.currentTime : undefined),
    play: (speed) => {
      if (!element) return;
      element.playbackRate = speed;
      // A browser that wants a press first plays without sound.
      void element.play().catch(() => undefined);
    },
    pause: () => element?.pause(),
    close: () => {
      element?.pause();
      if (element) element.src = "";
      element = null;
    },
  };
}
