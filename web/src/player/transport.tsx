/** What a clip is played by: play, steps, the frame by number and timecode, the loop, the speed, the sound. */
import { useState } from "react";
import { Input, SliderThumb, SliderTrack, TextField } from "react-aria-components";
import styled from "styled-components";
import { Line } from "../kit/amount";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { KeyCap } from "../kit/keycap";
import { NumberBox } from "../kit/numberbox";
import { Switch } from "../kit/switch";
import { SPEEDS, type Player, type Speed } from "./player";
import { frameNamed, timecodeOf } from "./timing";
import { usePlaying } from "./use";

const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 28px;
  color: var(--t2);
  font-size: 12px;
  white-space: nowrap;
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
const Length = styled(Line)`
  flex: 1;
`;
const SPOKEN: Record<Speed, string> = { 1: "1 ×", 0.5: "½ ×", 0.25: "¼ ×" };

/** The timecode of the frame; another one that is typed is gone to. */
function Timecode({ player, number }: { player: Player; number: number }) {
  const [typed, setTyped] = useState<string | null>(null);
  const { index } = player;
  const found = typed === null ? null : frameNamed(index, typed);
  const go = () => {
    if (found !== null) player.seek(found);
    setTyped(null);
  };
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

/** How well it plays, in a few words. */
function Rate({ player }: { player: Player }) {
  const state = usePlaying(player, (s) => s)!;
  const { index } = player;
  const [over, under] = index.rate.split("/").map(Number);
  const wanted = Math.round((over! / (under || 1)) * state.speed);
  const bits = state.how === "codes" ? `${index.depth} bit` : "8 bit, as the browser reads it";
  if (state.how === "stills") return <span role="status">Frames as stills: {state.why}</span>;
  return (
    <span role="status" title={state.why || undefined}>
      {state.playing
        ? `${bits}, ${Math.min(state.rate, wanted)} of ${wanted} frames a second${state.dropped ? `, ${state.dropped} left out` : ""}`
        : bits}
    </span>
  );
}

export function Transport({ player, onHold }: { player: Player; onHold?: (number: number) => void }) {
  const state = usePlaying(player, (s) => s)!;
  const { index } = player;
  const last = index.offsets.length - 1;
  const { number, playing, loop, from, to, broken } = state;
  const lost = broken.find(([first, end]) => first <= state.wanted && state.wanted < end);
  return (
    <Row role="group" aria-label="Play">
      <Button onPress={player.toggle} aria-keyshortcuts="Space">
        {playing ? "Pause" : "Play"} <KeyCap>Space</KeyCap>
      </Button>
      <Button look="icon" aria-label="One frame back" onPress={() => player.step(-1)}>
        ‹
      </Button>
      frame
      <NumberBox
        label="Frame"
        value={number}
        low={0}
        high={last}
        fine={1}
        digits={0}
        onChange={player.seek}
      />
      <Button look="icon" aria-label="One frame on" onPress={() => player.step(1)}>
        ›
      </Button>
      of {last + 1}
      {index.timecode ? <Timecode player={player} number={number} /> : null}
      <Switch label="Loop" on={loop} onChange={(on) => player.change({ loop: on })} />
      from
      <NumberBox
        label="Loop from frame"
        value={from}
        low={0}
        high={to}
        fine={1}
        digits={0}
        onChange={(v) => player.change({ from: v })}
      />
      to
      <NumberBox
        label="Loop to frame"
        value={to}
        low={from}
        high={last}
        fine={1}
        digits={0}
        onChange={(v) => player.change({ to: v })}
      />
      <Choice
        look="bare"
        hidden
        label="Speed"
        chosen={state.speed}
        onChange={(speed) => player.change({ speed })}
        options={SPEEDS.map((s) => ({ key: s, label: SPOKEN[s] }))}
      />
      {index.sound ? (
        <Switch label="Sound" on={state.sound} onChange={(on) => player.change({ sound: on })} />
      ) : null}
      <Between />
      {lost ? (
        <span role="alert">
          Frames {lost[0]} to {lost[1] - 1} are damaged
        </span>
      ) : (
        <Rate player={player} />
      )}
      {onHold ? (
        <Button look="quiet" isDisabled={playing} onPress={() => onHold(number)}>
          Hold this frame
        </Button>
      ) : null}
    </Row>
  );
}

/** The length of the clip: where it is, and where the loop begins and ends. */
export function Scrubber({ player }: { player: Player }) {
  const { number, from, to } = usePlaying(player, (s) => s)!;
  const last = player.index.offsets.length - 1;
  const share = (n: number) => `${(n / Math.max(last, 1)) * 100}%`;
  return (
    <div>
      <Length
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
      </Length>
      <Length
        className="line"
        aria-label="Frame of the clip"
        minValue={0}
        maxValue={last}
        value={number}
        onChange={(v) => player.seek(v as number)}
      >
        <SliderTrack className="track">
          <SliderThumb className="thumb" />
        </SliderTrack>
      </Length>
    </div>
  );
}
