/** The numbers and switches of a step as the core declares them. */
import type { Kind, Step, StepOf } from "../../api/types";
import { Amount } from "../../kit/amount";
import { Switch } from "../../kit/switch";
import { flagsOf, numbersOf, partNumbers } from "../parameters";
import { strings } from "../trace";
import type { EditorProps } from "./kind";
import { RampPlot } from "./plot";
import styled from "styled-components";

const Flag = styled.div`
  padding: 6px 0;
`;

export type Numbers = Record<string, number>;

/** Those of one part of a step: a channel, a range, a colour. */
export function Part(props: {
  kind: Kind;
  part: string;
  value: object;
  onChange: (name: string, v: number) => void;
}) {
  const value = props.value as Numbers;
  return (
    <>
      {partNumbers(props.kind, props.part).map(([name, p]) => (
        <Amount
          key={name}
          parameter={p}
          value={value[name] ?? p.default}
          onChange={(v) => props.onChange(name, v)}
        />
      ))}
    </>
  );
}

/** Those of the whole step. Where the trace holds colours under a number's name, they are drawn along it. */
export function Whole<K extends Step["kind"]>({
  step,
  kind,
  trace,
  change,
}: Omit<EditorProps<K>, "encodings">) {
  const values = step as unknown as Record<string, number | boolean>;
  const set = (name: string, v: number | boolean) => change(name, (s) => ({ ...s, [name]: v }));
  return (
    <>
      {numbersOf(kind).map(([name, p]) => (
        <Amount
          key={name}
          parameter={p}
          value={(values[name] as number | undefined) ?? p.default}
          stops={strings(trace, name).join(" ") || undefined}
          onChange={(v) => set(name, v)}
        />
      ))}
      {flagsOf(kind).map(([name, title]) => (
        <Flag key={name}>
          <Switch
            label={title}
            on={(values[name] as boolean | undefined) ?? false}
            onChange={(v) => set(name, v)}
          />
        </Flag>
      ))}
    </>
  );
}

/** The editor of a kind whose parameters are a few numbers: what becomes of a grey ramp, then the numbers. */
export function PlainEditor<K extends Step["kind"]>(props: EditorProps<K>) {
  return (
    <>
      <RampPlot trace={props.trace} label={`Grey ramp after ${props.kind.title}`} />
      <Whole<K> {...props} />
    </>
  );
}

/** A step with one of its parts changed. */
export function withPart<K extends Step["kind"]>(
  step: StepOf<K>,
  part: string,
  name: string,
  v: number,
): StepOf<K> {
  const parts = step as unknown as Record<string, Numbers>;
  return { ...step, [part]: { ...parts[part], [name]: v } };
}
