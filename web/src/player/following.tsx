/**
 * What changes with every picture of a clip that plays: written into the page at once, without drawing the
 * components around it anew, which takes longer than a picture is shown.
 */
import { useEffect, useRef, type RefObject } from "react";
import styled from "styled-components";
import type { Player } from "./player";
import { usePlaying } from "./use";

/** Frames after which what stands beside the picture is drawn anew while the clip plays. */
const SELDOM = 12;

/** Calls with every frame that is shown. */
export function useEachFrame(player: Player, call: (number: number) => void): void {
  const last = useRef(call);
  useEffect(() => {
    last.current = call;
  });
  useEffect(
    () =>
      player.state.subscribe((now, before) => {
        if (now.number !== before.number) last.current(now.number);
      }),
    [player],
  );
}

/** The frame that is shown; while the clip plays, the one that was shown up to twelve frames ago. */
export const useSeldom = (player: Player): number =>
  usePlaying(player, (s) => (s.playing ? s.number - (s.number % SELDOM) : s.number))!;

/** Words about the frame that is shown. */
export function Following({ player, words }: { player: Player; words: (number: number) => string }) {
  const place = useRef<HTMLSpanElement>(null);
  useEachFrame(player, (number) => {
    if (place.current) place.current.textContent = words(number);
  });
  return <span ref={place}>{words(player.state.getState().number)}</span>;
}

/** Moves an element along the length of the clip with the frame that is shown. */
export function useMark<E extends HTMLElement | SVGElement>(
  player: Player,
  move: (on: E, share: number) => void,
): RefObject<E | null> {
  const mark = useRef<E>(null);
  const last = Math.max(player.index.offsets.length - 1, 1);
  const put = (number: number) => {
    if (mark.current) move(mark.current, number / last);
  };
  useEachFrame(player, put);
  useEffect(() => put(player.state.getState().number));
  return mark;
}

const Dot = styled.span`
  position: absolute;
  top: 3px;
  width: 12px;
  height: 12px;
  margin-left: -6px;
  border-radius: 50%;
  background: var(--t1);
  pointer-events: none;
`;

/** Where the clip is, on a line of its length. */
export function FollowingDot({ player }: { player: Player }) {
  const mark = useMark<HTMLSpanElement>(player, (on, share) => {
    on.style.left = `${share * 100}%`;
  });
  return <Dot ref={mark} aria-hidden />;
}
