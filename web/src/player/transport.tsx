/** What a clip is played by: play, steps, the frame by number and timecode, the loop, the speed, the sound. */
import { useState, type ReactNode } from "react";
import { Input, SliderThumb, SliderTrack, TextField } from "react-aria-components";
import styled from "styled-components";
import { Line } from "../kit/amount";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { KeyCap } from "../kit/keycap";
import { NumberBox } from "../kit/numberbox";
import { Switch } from "../kit/switch";
import { Following, FollowingDot, useSeldom } from "./following";
import { SPEEDS, type Player, type Speed } from "./player";
import { frameNamed, timecodeOf } from "./timing";
import { usePlaying } from "./use";

const Row = styled.div`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 2px 6px;
  min-height: 28px;
  color: var(--t2);
  font-size: 12px;
  white-space: nowrap;
`;
/** As wide for both of its words: nothing beside it moves. */
const PlayButton = styled(Button)`
  min-width: 112px;
`;
const Between = styled.span`
  flex: 1;
  min-width: 0;
`;
const Code = styled(TextField)`
  input {
    width: 84px;
    height: 22px;
    background: none;
    border: 0;
    border-bottom: 1px solid transparent;
    padding: 0;
    text-align: center;
    color: var(--t1);
  }
  input:hover {
    border-bottom-color: var(--g4);
  }
  input:focus {
    border-bottom-color: var(--accent);
    outline: none;
  }
  &[data-invalid] input {
    border-bottom-color: var(--warn);
  }
`;
/** Names on the left, what is said of the length on the right; what is drawn over it has the same columns. */
export const Lengths = styled.div`
  display: grid;
  grid-template-columns: 66px minmax(0, 1fr) 66px;
  column-gap: 10px;
  align-items: center;
  color: var(--t2);
  font-size: 12px;
  > :nth-child(3n) {
    text-align: right;
  }
  .thumb.led {
    opacity: 0;
  }
`;
/** What changes too often to be typed into. */
const Plays = styled.span`
  display: inline-block;
  width: 54px;
  text-align: center;
  color: var(--t1);
  font-variant-numeric: tabular-nums;
`;
const PlaysCode = styled(Plays)`
  width: 84px;
`;
/** Pixels of a field for a frame's number. */
const NUMBER = 34;
export const SPOKEN: Record<Speed, string> = { 1: "1 ×", 0.5: "½ ×", 0.25: "¼ ×" };

/** The number of the frame; another one that is typed is gone to. */
function FrameNumber({ player, playing }: { player: Player; playing: boolean }) {
  const number = useSeldom(player);
  if (playing)
    return (
      <Plays>
        <Following player={player} words={String} />
      </Plays>
    );
  return (
    <NumberBox
      label="Frame"
      value={number}
      low={0}
      high={player.index.offsets.length - 1}
      fine={1}
      digits={0}
      onChange={player.seek}
    />
  );
}

/** The timecode of the frame; another one that is typed is gone to. */
function Timecode({ player, playing }: { player: Player; playing: boolean }) {
  const number = useSeldom(player);
  const [typed, setTyped] = useState<string | null>(null);
  const { index } = player;
  const found = typed === null ? null : frameNamed(index, typed);
  const go = () => {
    if (found !== null) player.seek(found);
    setTyped(null);
  };
  if (playing)
    return (
      <PlaysCode>
        <Following player={player} words={(n) => timecodeOf(index, n)} />
      </PlaysCode>
    );
  return (
    <Code
      aria-label="Timecode"
      value={typed ?? timecodeOf(index, number)}
      isInvalid={typed !== null && found === null}
      onChange={setTyped}
      onBlur={() => setTyped(null)}
      onKeyDown={(e) => {
        if (e.key === "Enter") go();
        if (e.key === "Escape") setTyped(null);
      }}
    >
      <Input />
    </Code>
  );
}

export function Transport(props: {
  player: Player;
  /** What is said at the end of the row. */
  said?: ReactNode;
  onHold?: (number: number) => void;
}) {
  const { player, onHold } = props;
  const playing = usePlaying(player, (s) => s.playing)!;
  const loop = usePlaying(player, (s) => s.loop)!;
  const speed = usePlaying(player, (s) => s.speed)!;
  const sound = usePlaying(player, (s) => s.sound)!;
  const { index } = player;
  return (
    <Row role="group" aria-label="Play">
      <PlayButton onPress={player.toggle} aria-keyshortcuts="Space">
        {playing ? "Pause" : "Play"} <KeyCap>Space</KeyCap>
      </PlayButton>
      <Button look="icon" aria-label="One frame back" onPress={() => player.step(-1)}>
        ‹
      </Button>
      <FrameNumber player={player} playing={playing} />
      <Button look="icon" aria-label="One frame on" onPress={() => player.step(1)}>
        ›
      </Button>
      {index.timecode ? <Timecode player={player} playing={playing} /> : null}
      <Switch label="Loop" on={loop} onChange={(on) => player.change({ loop: on })} />
      <Choice
        look="bare"
        hidden
        label="Speed"
        chosen={speed}
        onChange={(to) => player.change({ speed: to })}
        options={SPEEDS.map((s) => ({ key: s, label: SPOKEN[s] }))}
      />
      {index.sound ? (
        <Switch label="Sound" on={sound} onChange={(on) => player.change({ sound: on })} />
      ) : null}
      <Between />
      {props.said}
      {onHold ? (
        <Button look="quiet" isDisabled={playing} onPress={() => onHold(player.state.getState().number)}>
          Hold frame
        </Button>
      ) : null}
    </Row>
  );
}

/** The length of the clip: where it is, and where the loop begins and ends. */
export function Scrubber({ player }: { player: Player }) {
  const number = useSeldom(player);
  const playing = usePlaying(player, (s) => s.playing)!;
  const from = usePlaying(player, (s) => s.from)!;
  const to = usePlaying(player, (s) => s.to)!;
  const last = player.index.offsets.length - 1;
  const share = (n: number) => `${(n / Math.max(last, 1)) * 100}%`;
  const mark = (name: "from" | "to", low: number, high: number) => (
    <NumberBox
      label={`Loop ${name} frame`}
      value={name === "from" ? from : to}
      low={low}
      high={high}
      fine={1}
      digits={0}
      width={NUMBER}
      onChange={(v) => player.change({ [name]: v })}
    />
  );
  return (
    <Lengths>
      <span>loop {mark("from", 0, to)}</span>
      <Line
        className="line"
        aria-label="Loop from and to"
        minValue={0}
        maxValue={last}
        value={[from, to]}
        onChange={(v) => {
          const [begin, end] = v as [number, number];
          player.change({ from: begin, to: end });
        }}
      >
        <SliderTrack className="track">
          <div className="fill" style={{ left: share(from), width: `calc(${share(to)} - ${share(from)})` }} />
          <SliderThumb className="thumb" index={0} aria-label="Loop from" />
          <SliderThumb className="thumb" index={1} aria-label="Loop to" />
        </SliderTrack>
      </Line>
      <span>to {mark("to", from, last)}</span>
      <span>frame</span>
      <Line
        className="line"
        aria-label="Frame of the clip"
        minValue={0}
        maxValue={last}
        value={number}
        onChange={(v) => player.seek(v as number)}
      >
        <SliderTrack className="track">
          <SliderThumb className={playing ? "thumb led" : "thumb"} />
          {playing ? <FollowingDot player={player} /> : null}
        </SliderTrack>
      </Line>
      <span>of {last + 1}</span>
    </Lengths>
  );
}
