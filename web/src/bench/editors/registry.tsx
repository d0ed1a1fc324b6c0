/** The editor of each kind of step. A kind that is missing here does not pass the type check. */
import type { ComponentType } from "react";
import type { Step } from "../../api/types";
import { ChannelMixEditor } from "./channel_mix";
import { CurvesEditor } from "./curves";
import type { EditorProps } from "./editor";
import { HueCurvesEditor } from "./hue_curves";
import { LevelsEditor } from "./levels";
import { LookEditor } from "./look";
import { LutEditor } from "./lut";
import { ChannelsEditor, HueRangesEditor, ToneRampEditor, WashEditor } from "./parts";
import { PlainEditor } from "./plain";
import { ZoneTintEditor } from "./zone_tint";

type StepKind = Step["kind"];

function GroupEditor() {
  return <p style={{ color: "var(--t2)" }}>Everything in this group is eased, blended and switched together.</p>;
}

/** The editor of several kinds, as the editor of one of them: it is only ever given steps of that kind. */
function shared<All extends StepKind, K extends All>(editor: ComponentType<EditorProps<All>>): ComponentType<EditorProps<K>> {
  return editor as unknown as ComponentType<EditorProps<K>>;
}

const EDITORS: { [K in StepKind]: ComponentType<EditorProps<K>> } = {
  exposure: shared(PlainEditor),
  contrast: shared(PlainEditor),
  saturation: shared(PlainEditor),
  balance: shared(PlainEditor),
  monochrome: shared(PlainEditor),
  roll_off: shared(PlainEditor),
  encode: shared(PlainEditor),
  scene_to_display: shared(PlainEditor),
  curves: CurvesEditor,
  levels: LevelsEditor,
  channel_mix: ChannelMixEditor,
  zone_tint: ZoneTintEditor,
  hue_ranges: HueRangesEditor,
  hue_curves: HueCurvesEditor,
  slope_offset_power: shared(ChannelsEditor),
  lift_gamma_gain: shared(ChannelsEditor),
  colour_wash: WashEditor,
  tone_ramp: ToneRampEditor,
  lut: LutEditor,
  look: LookEditor,
  group: GroupEditor,
};

export function Editor(props: EditorProps<StepKind>) {
  const Own = EDITORS[props.step.kind] as ComponentType<EditorProps<StepKind>>;
  return <Own key={props.step.id} {...props} />;
}
