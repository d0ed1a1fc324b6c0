/** Two shots beside each other: where they are of clips both play, in step. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import styled from "styled-components";
import type { Shot } from "../api/types";
import { usePlayKeys } from "../player/keys";
import { PlayBar } from "../player/playbar";
import type { Player } from "../player/player";
import { useMoving, usePlayer } from "../player/use";
import { useFeed, type Wish } from "../viewer/live";
import { Stage } from "../viewer/stage";
import { askedOfProject } from "./asked";

const Both = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px;
  height: min(48vh, 340px);
  > * {
    display: flex;
    min-width: 0;
    min-height: 0;
  }
`;

const One = styled.figure`
  margin: 0;
`;

/** Plays the frames of a shot alone. */
function useShotPlayer(shot: Shot): Player | null {
  const { player } = usePlayer(shot.frame);
  const first = shot.cut?.first;
  const last = shot.cut?.last;
  useEffect(() => {
    if (player && first !== undefined && last !== undefined) {
      player.change({ from: first, to: last });
      player.seek(first);
    }
  }, [player, first, last]);
  return player;
}

/**
 * Lets the second player do what the first does: it plays, stands and goes to the same frame of its shot; the shorter
 * one stays on its last.
 */
export function follow(first: Player, second: Player): () => void {
  const begin = () => [first.state.getState().from, second.state.getState().from] as const;
  return first.state.subscribe((now, before) => {
    const [own, other] = begin();
    const { to, playing } = second.state.getState();
    const wanted = Math.min(Math.max(now.wanted - own + other, other), to);
    if (now.speed !== before.speed) second.change({ speed: now.speed });
    if (now.loop !== before.loop) second.change({ loop: now.loop });
    if (now.playing !== before.playing) {
      if (now.playing !== playing) second.toggle();
      if (!now.playing) second.seek(wanted);
    } else if (!now.playing && now.wanted !== before.wanted) second.seek(wanted);
    // The loop of the first begins again: the second does, too.
    else if (now.playing && now.number < before.number) second.seek(wanted);
  });
}

function Side({ project, shot, player }: { project: number; shot: Shot; player: Player | null }) {
  const look = useQuery(askedOfProject.worn(project, shot)).data;
  const moving = useMoving(shot.frame, player, shot.trim);
  const at = moving?.at;
  const wish = useMemo<Wish | null>(
    () => (look ? { look, strength: 1, trim: shot.trim, frame: shot.frame.id, at, traces: false } : null),
    [look, shot.trim, shot.frame.id, at],
  );
  const feed = useFeed(wish);
  return (
    <One aria-label={shot.name}>
      <Stage
        frame={shot.frame}
        input={shot.frame.encoding}
        feed={feed}
        mode="look"
        wish={wish}
        trimmed={false}
        moving={moving}
        tag={`${shot.number} ${shot.name}`}
      />
    </One>
  );
}

export function TwoInStep({ project, shots }: { project: number; shots: readonly [Shot, Shot] }) {
  const [a, b] = shots;
  const one = useShotPlayer(a);
  const other = useShotPlayer(b);
  useEffect(() => (one && other ? follow(one, other) : undefined), [one, other]);
  const leading = one ?? other;
  usePlayKeys(leading);
  return (
    <>
      <Both>
        <Side project={project} shot={a} player={one} />
        <Side project={project} shot={b} player={other} />
      </Both>
      <PlayBar player={leading} />
    </>
  );
}
