/** What is asked once, for the whole pack. */
import { useState } from "react";
import { Label, Radio, RadioGroup } from "react-aria-components";
import styled from "styled-components";
import { declared } from "../api/declared";
import type { EncodingKey, Pack, PackItem } from "../api/types";
import { RIGHTS } from "../bake/naming";
import { Button } from "../kit/button";
import { EncodingChoice } from "../kit/encodingchoice";
import { Apart, Gap, Pair, Quiet } from "../kit/layout";
import { Switch } from "../kit/switch";
import { Tags } from "../kit/tags";
import { Text } from "../kit/text";
import { unread, unsure } from "./judging";

const Side = styled.aside`
  border-left: 1px solid var(--line);
  padding: 14px 16px;
  overflow-y: auto;
  display: grid;
  gap: 16px;
  align-content: start;
  h1 {
    font-size: 14px;
  }
  h2 {
    margin-bottom: 4px;
  }
`;
const Choose = styled(RadioGroup)`
  display: grid;
  gap: 2px;
  > .react-aria-Label {
    color: var(--t2);
    font-size: 12px;
    margin-bottom: 4px;
  }
  .react-aria-Radio {
    display: flex;
    align-items: center;
    gap: 10px;
    min-height: 25px;
    cursor: pointer;
    border-radius: 4px;
  }
  i {
    width: 14px;
    height: 14px;
    border: 1px solid var(--t2);
    border-radius: 50%;
    flex: none;
  }
  [data-selected] i {
    border: 4px solid var(--accent);
  }
  [data-selected] {
    font-weight: 600;
  }
  [data-focus-visible] {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
  small {
    margin-left: auto;
    color: var(--t2);
    font-weight: 400;
  }
`;
const MEANS: Record<string, string> = {
  "to anyone": "packs, deliveries",
  "inside the studio": "every project here",
  "inside the project": "one project only",
  "ask first": "until somebody answered",
};

export type PackSaid = Partial<Pick<Pack, "origin" | "rights" | "licence" | "tags" | "review">>;

export function AboutPack(props: {
  pack: Pack;
  disabled: boolean;
  onSay: (said: PackSaid) => void;
  onEncodings: (items: PackItem[], said: { expects?: EncodingKey; gives?: EncodingKey }) => void;
}) {
  const { pack, onSay } = props;
  const [onlyUnsure, setOnlyUnsure] = useState(true);
  const guessed = pack.items.filter((i) => i.guess !== null && !unread(i) && !i.kept);
  const open = guessed.filter(unsure);
  const meant = onlyUnsure ? open : guessed;
  const [all, setAll] = useState<EncodingKey>(declared.usual);
  const [gives, setGives] = useState<EncodingKey>(declared.usual);
  return (
    <Side aria-label="Asked once, for the pack">
      <h1>Asked once, for the pack</h1>
      <Text
        label="Where it comes from"
        hint="whose looks, from where"
        value={pack.origin}
        onChange={(origin) => onSay({ origin })}
        maxLength={200}
      />
      <Choose value={pack.rights} onChange={(rights) => onSay({ rights })} isDisabled={props.disabled}>
        <Label>Who may pass it on</Label>
        {RIGHTS.map((r) => (
          <Radio key={r} value={r}>
            <i />
            {r}
            <small>{MEANS[r]}</small>
          </Radio>
        ))}
      </Choose>
      <div>
        <Text
          label={pack.licence_file ? `Licence text, found in ${pack.licence_file}` : "Licence text"}
          lines={5}
          value={pack.licence}
          onChange={(licence) => onSay({ licence })}
          maxLength={20_000}
        />
      </div>
      {guessed.length ? (
        <section aria-label="Encodings for all">
          <Apart>
            <h2>Encodings for all</h2>
            <Quiet>
              {guessed.length - open.length} of {guessed.length} are sure
            </Quiet>
          </Apart>
          <Pair>
            <EncodingChoice label="expects" chosen={all} onChange={setAll} />
            <EncodingChoice label="gives" chosen={gives} onChange={setGives} />
          </Pair>
          <Gap />
          <Apart>
            <Switch label="only where unsure" on={onlyUnsure} onChange={setOnlyUnsure} />
            <Button
              isDisabled={props.disabled || !meant.length}
              onPress={() => props.onEncodings(meant, { expects: all, gives })}
            >
              Use for {meant.length}
            </Button>
          </Apart>
        </section>
      ) : null}
      <section>
        <Tags
          label="Tags for all"
          add="+ tag for all"
          adding="Add a tag for all"
          longest={40}
          tags={pack.tags}
          onChange={(tags) => onSay({ tags })}
        />
      </section>
      <Switch
        label="then ask for a review of them"
        on={pack.review}
        onChange={(review) => onSay({ review })}
      />
    </Side>
  );
}
