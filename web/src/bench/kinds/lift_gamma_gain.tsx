/** Lift, gamma, gain. */
import { signed } from "../../kit/signed";
import { ChannelsEditor } from "./channels";
import type { StepView } from "./kind";

const ROWS = [
  ["master", "Master"],
  ["red", "Red"],
  ["green", "Green"],
  ["blue", "Blue"],
] as const;

export const lift_gamma_gain: StepView<"lift_gamma_gain"> = {
  Editor: (props) => <ChannelsEditor<"lift_gamma_gain"> {...props} part="LiftRow" rows={ROWS} />,
  summary: ({ master }) =>
    `${signed(master.lift, 3)} · ${master.gamma.toFixed(2)} · ${master.gain.toFixed(2)}`,
};
