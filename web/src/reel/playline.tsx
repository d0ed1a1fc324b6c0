/** What the reel is played by: play, cuts, where it is, loop and speed. */
import styled from "styled-components";
import { useStore } from "zustand";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { placeWords } from "../kit/duration";
import { KeyCap } from "../kit/keycap";
import { Grow } from "../kit/layout";
import { Switch } from "../kit/switch";
import { SPEEDS, type Player } from "../player/player";
import { Rate } from "../player/rate";
import { timecodeOf } from "../player/timing";
import { SPOKEN } from "../player/transport";
import type { Reel } from "./reeling";
import type { Take } from "./takes";

const Row = styled.div`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 2px 10px;
  min-height: 30px;
  font-size: 12.5px;
  white-space: nowrap;
  color: var(--t2);
  font-variant-numeric: tabular-nums;
  b {
    color: var(--t1);
    font-weight: 560;
  }
`;

/** Where it is: in the shot, by the clip's timecode, and on the reel. */
function Where({ reel, take, player }: { reel: Reel; take: Take; player: Player | null }) {
  useStore(reel.state);
  const { number, shown } = reel.state.getState();
  return (
    <>
      <b>
        {take.shot.number} · {take.shot.name}
      </b>
      <span>
        {take.rate
          ? `frame ${number - take.first + 1} of ${take.last - take.first + 1}`
          : `still, ${Math.min(shown, take.seconds).toFixed(1)} of ${take.seconds} s`}
      </span>
      {player && take.rate ? <span>{timecodeOf(player.index, number)}</span> : null}
      <span title="Minutes and seconds of the reel">{placeWords(reel.seconds())}</span>
    </>
  );
}

export function PlayLine({ reel, take, player }: { reel: Reel; take: Take; player: Player | null }) {
  const playing = useStore(reel.state, (s) => s.playing);
  const loop = useStore(reel.state, (s) => s.loop);
  const speed = useStore(reel.state, (s) => s.speed);
  return (
    <Row role="group" aria-label="Play the reel">
      <Button onPress={reel.toggle} aria-keyshortcuts="Space">
        {playing ? "Pause" : "Play"} <KeyCap>Space</KeyCap>
      </Button>
      <Button look="icon" aria-label="The cut before" onPress={() => reel.cut(-1)}>
        ‹
      </Button>
      <span>cut</span>
      <Button look="icon" aria-label="The next cut" onPress={() => reel.cut(1)}>
        ›
      </Button>
      <Where reel={reel} take={take} player={player} />
      <Grow />
      <Switch label="Loop" on={loop} onChange={(on) => reel.change({ loop: on })} />
      <Choice
        look="bare"
        hidden
        label="Speed"
        chosen={speed}
        onChange={(s) => reel.change({ speed: s })}
        options={SPEEDS.map((s) => ({ key: s, label: SPOKEN[s] }))}
      />
      {player && take.rate ? <Rate player={player} /> : null}
    </Row>
  );
}
