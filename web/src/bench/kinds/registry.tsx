/** What is shown of each kind of step. A kind that is missing here does not pass the type check. */
import { memo } from "react";
import type { Step } from "../../api/types";
import type { Trace } from "../../viewer/table";
import { balance } from "./balance";
import { channel_mix } from "./channel_mix";
import { colour_wash } from "./colour_wash";
import { contrast } from "./contrast";
import { curves } from "./curves";
import { encode } from "./encode";
import { exposure } from "./exposure";
import { group } from "./group";
import { hue_curves } from "./hue_curves";
import { hue_ranges } from "./hue_ranges";
import type { EditorProps, StepView } from "./kind";
import { levels } from "./levels";
import { lift_gamma_gain } from "./lift_gamma_gain";
import { look } from "./look";
import { lut } from "./lut";
import { monochrome } from "./monochrome";
import { roll_off } from "./roll_off";
import { saturation } from "./saturation";
import { scene_to_display } from "./scene_to_display";
import { slope_offset_power } from "./slope_offset_power";
import { LinesThumb, WIDE } from "./thumbs";
import { tone_ramp } from "./tone_ramp";
import { zone_tint } from "./zone_tint";
import styled from "styled-components";

const Drawn = styled.svg`
  flex: none;
  overflow: hidden;
`;

type StepKind = Step["kind"];

const VIEWS: { [K in StepKind]: StepView<K> } = {
  exposure,
  contrast,
  curves,
  levels,
  roll_off,
  balance,
  saturation,
  hue_ranges,
  hue_curves,
  zone_tint,
  monochrome,
  channel_mix,
  tone_ramp,
  colour_wash,
  slope_offset_power,
  lift_gamma_gain,
  encode,
  scene_to_display,
  lut,
  look,
  group,
};

/** The view of a step's own kind, as one that takes any step: it is only ever given its own. */
const viewOf = (kind: StepKind) => VIEWS[kind] as unknown as StepView<StepKind>;

export function Editor(props: EditorProps<StepKind>) {
  const Own = viewOf(props.step.kind).Editor;
  return <Own key={props.step.id} {...props} />;
}

/** A step in a few words, for its row. */
export const summary = (step: Step, label: (encoding: string) => string): string =>
  viewOf(step.kind).summary(step, label);

/** A step's trace, as large as a thumbnail. */
export const TinyTrace = memo(function TinyTrace({
  kind,
  trace,
  high = 16,
}: {
  kind: string;
  trace: Trace | undefined;
  high?: number;
}) {
  const Own = (kind in VIEWS ? viewOf(kind as StepKind).Thumb : undefined) ?? LinesThumb;
  return (
    <Drawn width={WIDE} height={high} viewBox={`-1 -1 ${WIDE + 2} ${high + 2}`} aria-hidden>
      <Own trace={trace} high={high} />
    </Drawn>
  );
});
