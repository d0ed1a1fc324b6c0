/** What a table expects and gives, as guessed; and the way to say it better. */
import { Button as AriaButton, Dialog, DialogTrigger } from "react-aria-components";
import styled from "styled-components";
import { useEncodingLabel } from "../api/queries";
import type { EncodingKey, PackItem } from "../api/types";
import { Button } from "../kit/button";
import { EncodingChoice } from "../kit/encodingchoice";
import { Fields, Opens, Said } from "../kit/layout";
import { Menued } from "../kit/menued";
import { unsure } from "./judging";

const Opener = styled(AriaButton)`
  background: none;
  border: 0;
  padding: 2px 6px;
  margin: 0 -6px;
  border-radius: 4px;
  text-align: left;
  cursor: pointer;
  min-width: 0;
  display: grid;
  gap: 3px;
  &[data-hovered] {
    background: var(--g3);
  }
  .pair {
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .sure {
    display: flex;
    align-items: center;
    gap: 8px;
    color: var(--t2);
    font-size: 12px;
  }
  .sure i {
    width: 76px;
    height: 3px;
    border-radius: 2px;
    background: linear-gradient(var(--t2), var(--t2)) no-repeat var(--g3);
  }
  &.unsure .sure {
    color: var(--warn);
  }
  &.unsure .sure i {
    background-image: linear-gradient(var(--warn), var(--warn));
  }
`;
const Inside = styled(Dialog)`
  padding: 12px;
  width: 300px;
`;

/** The keyboard finds the opener of a row by this. */
export const OPENER = "data-encodings";

export function Encodings({
  item,
  onSay,
}: {
  item: PackItem;
  onSay: (said: { expects?: EncodingKey; gives?: EncodingKey }) => void;
}) {
  const label = useEncodingLabel();
  const { guess } = item;
  const pair = `${label(item.expects)} → ${label(item.gives)}`;
  const fixed = guess === null && item.kind !== "correction";
  if (fixed) return <span className="fixed">{pair}</span>;
  const doubtful = unsure(item);
  const percent = guess ? Math.floor(guess.sure * 100 + 1e-6) : 0;
  const rests = !guess
    ? "not written in it"
    : guess.source === "chosen"
      ? "chosen"
      : guess.source === "written in it"
        ? "100 %, written in it"
        : `${percent} % sure${doubtful ? ", choose" : ""}`;
  return (
    <DialogTrigger>
      <Opener
        className={doubtful ? "unsure" : ""}
        aria-label={`Encodings of ${item.name}: ${pair}, ${rests}`}
        {...{ [OPENER]: "" }}
      >
        <span className="pair">
          {pair} <Opens />
        </span>
        <span className="sure">
          {guess ? <i style={{ backgroundSize: `${percent}% 100%` }} aria-hidden /> : null}
          {rests}
        </span>
      </Opener>
      <Menued placement="bottom start">
        <Inside aria-label={`Encodings of ${item.name}`}>
          <Fields>
            <EncodingChoice
              label="It expects"
              chosen={item.expects}
              onChange={(expects) => onSay({ expects })}
            />
            {item.kind === "correction" ? null : (
              <EncodingChoice label="It gives" chosen={item.gives} onChange={(gives) => onSay({ gives })} />
            )}
            <Said>Read so it changes a picture by ΔE {item.far.toFixed(1)} on average.</Said>
            {guess?.rival ? (
              <Button
                onPress={() =>
                  guess.rival && onSay({ expects: guess.rival.expects, gives: guess.rival.gives })
                }
              >
                {label(guess.rival.expects)} → {label(guess.rival.gives)}: ΔE {guess.rival.apart.toFixed(1)}
              </Button>
            ) : null}
          </Fields>
        </Inside>
      </Menued>
    </DialogTrigger>
  );
}
