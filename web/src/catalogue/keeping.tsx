/** What is said of a look that was taken from pictures before it is kept. */
import type { ReactNode } from "react";
import styled from "styled-components";
import { declared } from "../api/declared";
import type { EncodingKey } from "../api/types";
import { RIGHTS } from "../bake/naming";
import { Choice } from "../kit/choice";
import { EncodingChoice } from "../kit/encodingchoice";
import { Level, Pair } from "../kit/layout";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";

export interface SaidOfLook {
  name: string;
  origin: string;
  rights: string;
  expects: EncodingKey;
  gives: EncodingKey;
}

export const NOTHING_SAID: SaidOfLook = {
  ...{ name: "", origin: "", rights: "inside the studio" },
  ...{ expects: declared.usual, gives: declared.usual },
};

export function Keeping(props: {
  said: SaidOfLook;
  labels: readonly [string, string];
  error: unknown;
  onSay: (said: Partial<SaidOfLook>) => void;
  children: ReactNode;
}) {
  const { said, onSay } = props;
  return (
    <>
      <Pair>
        <EncodingChoice
          label={props.labels[0]}
          chosen={said.expects}
          onChange={(expects) => onSay({ expects })}
        />
        <EncodingChoice label={props.labels[1]} chosen={said.gives} onChange={(gives) => onSay({ gives })} />
      </Pair>
      <Pair>
        <Text
          label="Name of the look"
          value={said.name}
          onChange={(name) => onSay({ name })}
          maxLength={120}
        />
        <Choice
          label="Who may pass it on"
          chosen={said.rights}
          onChange={(rights) => onSay({ rights })}
          options={RIGHTS.map((r) => ({ key: r, label: r }))}
        />
      </Pair>
      <Text
        label="Where it comes from"
        hint="whose look, which program"
        value={said.origin}
        onChange={(origin) => onSay({ origin })}
        maxLength={200}
      />
      <Trouble error={props.error} />
      <Level>{props.children}</Level>
    </>
  );
}

/** A saucer with pictures beside it. */
export const LookSeen = styled.div`
  display: grid;
  grid-template-columns: 84px;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  img {
    width: 100%;
    border-radius: 3px;
    display: block;
  }
  figcaption {
    color: var(--t2);
    font-size: 12px;
  }
`;
