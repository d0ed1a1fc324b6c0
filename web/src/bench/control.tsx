/** The control: the editor of the chosen step, its own name, strength and blend. */
import { memo } from "react";
import { useStore } from "zustand";
import { declared } from "../api/declared";
import { useEncodingLabel, useEncodings } from "../api/queries";
import type { Blend, Frame, Kind, Step, StepOf } from "../api/types";
import { Amount } from "../kit/amount";
import { Choice } from "../kit/choice";
import { Text } from "../kit/text";
import type { Feed } from "../viewer/live";
import { Begin } from "./begin";
import { Column } from "./column";
import { Editor } from "./kinds/registry";
import { FinishControl, type EffectName } from "./finish";
import { blendsOf, parameter } from "./parameters";
import { Presets } from "./presets";
import { flatten } from "./steps";
import { changeStep, useBench } from "./store";
import { titleOf } from "./words";
import { Said } from "../kit/layout";
import styled from "styled-components";

/** What can be looked at and not changed stands back. */
const Held = styled.fieldset`
  &:disabled {
    pointer-events: none;
    opacity: 0.75;
  }
`;

/** What every step has; drawn anew only when that changed. */
const Easing = memo(function Easing(props: {
  id: string;
  kind: Kind;
  title: string;
  strength: number;
  blend: Blend;
  label: string;
}) {
  const { id, kind, title } = props;
  const change = (what: "strength" | "blend" | "label", value: number | string) =>
    changeStep(id, title, what, (s) => ({ ...s, [what]: value }));
  return (
    <div className="easing">
      <Amount
        parameter={parameter(kind, "strength")}
        value={props.strength}
        onChange={(v) => change("strength", v)}
      />
      <Choice
        look="inline"
        label="Blend"
        options={blendsOf(kind)}
        chosen={props.blend}
        onChange={(v) => change("blend", v)}
      />
      <Text
        label="Own name"
        hint={kind.title}
        value={props.label}
        maxLength={80}
        onChange={(v) => change("label", v)}
      />
    </div>
  );
});

export const Control = memo(function Control(props: {
  feed: Feed;
  kinds: Kind[];
  readOnly: boolean;
  effect: EffectName | null;
  frame: Frame | null;
}) {
  const draft = useBench((s) => s.draft);
  const chosen = useBench((s) => s.chosen);
  const label = useEncodingLabel();
  const { data: encodings = [] } = useEncodings();
  const rows = flatten(draft.steps);
  const id = [...chosen].at(-1);
  const row = rows.find((r) => r.step.id === id);
  const kind = props.kinds.find((k) => k.kind === row?.step.kind);
  const seen = useStore(props.feed.answer, (a) => (id === undefined ? undefined : a.live?.traces[id]));
  if (props.effect) {
    return (
      <Column aria-label="Control">
        <Held disabled={props.readOnly}>
          <FinishControl name={props.effect} draft={draft} />
        </Held>
      </Column>
    );
  }
  if (!rows.length && !props.readOnly) return <Begin frame={props.frame} />;
  if (!row || !kind) {
    return (
      <Column aria-label="Control">
        <header>
          <h1>Control</h1>
        </header>
        <Said>{rows.length ? "Choose a step to work on it." : "This look has no step yet."}</Said>
      </Column>
    );
  }
  const { step } = row;
  const number = rows.filter((r) => r.step.kind !== "group").findIndex((r) => r.step.id === step.id) + 1;
  const title = titleOf(step, props.kinds);
  const change = (what: string, change_: (s: StepOf<Step["kind"]>) => StepOf<Step["kind"]>) =>
    changeStep(step.id, title, what, change_);
  return (
    <Column aria-label="Control">
      <header>
        <h1 title={title}>{title}</h1>
        <span>
          {step.kind === "group" ? "group" : `step ${number}`}
          {seen ? ` · works on ${label(seen.encoding)}` : ""}
        </span>
      </header>
      <Presets
        key={step.id}
        id={step.id}
        kind={step.kind}
        encoding={seen?.encoding ?? declared.usual}
        readOnly={props.readOnly}
      />
      <Held disabled={props.readOnly}>
        <Editor step={step} kind={kind} trace={seen?.trace} encodings={encodings} change={change} />
        <Easing
          id={step.id}
          kind={kind}
          title={title}
          strength={step.strength}
          blend={step.blend}
          label={step.label}
        />
      </Held>
    </Column>
  );
});
