/** Plays a clip through a video element, where the browser gives no codes: 8 bits, as the browser reads them. */
import type { ProxyIndex } from "../api/types";
import { frameAt, timeOf } from "./timing";

export interface Element {
  seek: (number: number) => void;
  play: (from: number, speed: number) => void;
  pause: () => void;
  close: () => void;
}

export interface Told {
  shown: (number: number, video: HTMLVideoElement) => void;
  unable: (why: string) => void;
}

export function createElement(index: ProxyIndex, url: string, tell: Told): Element {
  const video = document.createElement("video");
  video.muted = true;
  video.playsInline = true;
  video.preload = "auto";
  let following = 0;
  const follow = () => {
    following = video.requestVideoFrameCallback((_, { mediaTime }) => {
      tell.shown(frameAt(index, mediaTime), video);
      follow();
    });
  };
  video.onerror = () => tell.unable("this browser cannot play the clip");
  video.src = url;
  follow();
  // Into the middle of the frame: its first moment may still show the one before it.
  const middle = (number: number) => (timeOf(index, number) + timeOf(index, number + 1)) / 2;
  const seek = (number: number) => (video.currentTime = middle(number));
  return {
    seek,
    play: (from, speed) => {
      seek(from);
      video.playbackRate = speed;
      void video.play().catch(() => undefined);
    },
    pause: () => video.pause(),
    close: () => {
      video.cancelVideoFrameCallback(following);
      video.pause();
      video.removeAttribute("src");
      video.load();
    },
  };
}
