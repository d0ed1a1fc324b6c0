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

export type Seen = "original" | "look" | "split" | "newer" | "then";

const Layer = styled.div`
  position: absolute;
  inset: 0;
  display: flex;
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

/** The look that is shown, and the one on the first side of a split. */
function useLooks({ project, take, seen, note }: Props): { look: Look | undefined; other: Look | undefined } {
  const { shot } = take;
  const worn = useQuery(askedOfProject.worn(project, shot)).data;
  const newer = useQuery({ ...askedOfReel.newer(project, shot), enabled: seen === "newer" }).data;
  const then = useQuery({
    ...askedOfReel.then(project, note ?? 0),
    enabled: seen === "then" && note !== null,
  });
  if (seen === "newer") return { look: newer, other: worn };
  if (seen === "then") return { look: worn, other: then.data };
  return { look: worn, other: undefined };
}

export function Shown(props: Props) {
  const { take, active, seen, picking, onPlayer, onPoint } = props;
  const { shot } = take;
  const { look, other } = useLooks(props);
  const { player } = usePlayer(shot.frame);
  const moving = useMoving(shot.frame, player, shot.trim);
  useEffect(() => {
    onPlayer(shot.id, player);
    return () => onPlayer(shot.id, null);
  }, [onPlayer, shot.id, player]);
  const at = moving?.at;
  const wish = useMemo<Wish | null>(
    () => (look ? { look, strength: 1, trim: shot.trim, frame: shot.frame.id, at, traces: false } : null),
    [look, shot.trim, shot.frame.id, at],
  );
  const otherWish = useMemo<Wish | null>(
    () =>
      other ? { look: other, strength: 1, trim: shot.trim, frame: shot.frame.id, at, traces: false } : null,
    [other, shot.trim, shot.frame.id, at],
  );
  const feed = useFeed(wish);
  const otherFeed = useFeed(otherWish);
  const beside = seen === "newer" || seen === "then";
  const first = seen === "newer" ? layerWords(shot) : "as noted";
  return (
    <Layer aria-hidden={!active} inert={!active}>
      <Stage
        frame={shot.frame}
        input={shot.frame.encoding}
        feed={feed}
        mode={seen === "original" ? "original" : seen === "look" ? "look" : "split"}
        wish={wish}
        trimmed={false}
        moving={moving}
        name={seen === "newer" ? "newer" : seen === "then" ? "now" : "trim and look"}
        other={
          beside && otherWish
            ? { feed: otherFeed, wish: otherWish, input: shot.frame.encoding, name: first }
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
