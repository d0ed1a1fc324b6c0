/** A shot of the reel on the screen, or made ready behind it, so that a cut shows no gap. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, type ReactNode } from "react";
import styled from "styled-components";
import type { Look, Place as Point } from "../api/types";
import { usePlayer, useMoving } from "../player/use";
import type { Player } from "../player/player";
import { askedOfProject, layerWords } from "../projects/asked";
import { useFeed, type Wish } from "../viewer/live";
import { Stage } from "../viewer/stage";
import { askedOfReel } from "./asked";
import type { Take } from "./takes";

/** What a picture of the reel shows: the shot itself, its looks, the newer revisions, what a note was about. */
export type Side = "original" | "look" | "newer" | "then";

/** What is shown, and what it is held against, with a line between them or beside it. */
export interface Seen {
  side: Side;
  against: Side | null;
  beside: boolean;
}

const Layer = styled.div`
  position: absolute;
  inset: 0;
  display: flex;
  gap: 6px;
  &[aria-hidden="true"] {
    visibility: hidden;
  }
`;

interface Props {
  project: number;
  take: Take;
  active: boolean;
  seen: Seen;
  /** The note whose look is shown, with ``then``. */
  note: number | null;
  picking: boolean;
  onPlayer: (shot: number, player: Player | null) => void;
  onPoint: (at: Point) => void;
  children?: ReactNode;
}

/** The look of a side; nothing for the original. */
function useLookOf({ project, take, note }: Props, side: Side | null): Look | undefined {
  const { shot } = take;
  const worn = useQuery({ ...askedOfProject.worn(project, shot), enabled: side === "look" });
  const newer = useQuery({ ...askedOfReel.newer(project, shot), enabled: side === "newer" });
  const then = useQuery({
    ...askedOfReel.then(project, note ?? 0),
    enabled: side === "then" && note !== null,
  });
  return { look: worn.data, newer: newer.data, then: then.data, original: undefined }[side ?? "original"];
}

/** What is asked for a side. */
function useWish(props: Props, side: Side | null, at: number | undefined): Wish | null {
  const { shot } = props.take;
  const look = useLookOf(props, side);
  return useMemo<Wish | null>(() => {
    const plain = { input: shot.frame.encoding, output: shot.frame.encoding, steps: [] };
    const wanted = side === "original" ? plain : look;
    return wanted
      ? { look: wanted, strength: 1, trim: shot.trim, frame: shot.frame.id, at, traces: false }
      : null;
  }, [side, look, shot.trim, shot.frame.id, shot.frame.encoding, at]);
}

export function Shown(props: Props) {
  const { take, active, seen, picking, onPlayer, onPoint } = props;
  const { shot } = take;
  const { player } = usePlayer(shot.frame);
  const moving = useMoving(shot.frame, player, shot.trim);
  useEffect(() => {
    onPlayer(shot.id, player);
    return () => onPlayer(shot.id, null);
  }, [onPlayer, shot.id, player]);
  const wish = useWish(props, seen.side, moving?.at);
  const otherWish = useWish(props, seen.against, moving?.at);
  const feed = useFeed(wish);
  const otherFeed = useFeed(otherWish);
  const { side, against } = seen;
  const names: Record<Side, string> = {
    original: "original",
    look: side === "then" || against === "then" ? "now" : layerWords(shot) || "no look",
    newer: "newer",
    then: "as noted",
  };
  const split = against !== null && !seen.beside;
  const same = { frame: shot.frame, input: shot.frame.encoding, trimmed: false, moving };
  return (
    <Layer aria-hidden={!active} inert={!active}>
      {against && seen.beside ? (
        <Stage
          {...same}
          feed={otherFeed}
          mode={against === "original" ? "original" : "look"}
          wish={otherWish}
          tag={names[against]}
        />
      ) : null}
      <Stage
        {...same}
        feed={feed}
        mode={split ? "split" : side === "original" ? "original" : "look"}
        wish={wish}
        name={names[side]}
        tag={against ? names[side] : undefined}
        other={
          split && against !== "original" && otherWish
            ? { feed: otherFeed, wish: otherWish, input: shot.frame.encoding, name: names[against] }
            : null
        }
        picking={picking}
        onPoint={(point, pressed) => {
          if (pressed && picking && point) onPoint(point);
        }}
      >
        {active ? props.children : null}
      </Stage>
    </Layer>
  );
}
