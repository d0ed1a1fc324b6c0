/** Colour wash: the colour that is laid over. */
import styled from "styled-components";
import { ColourFields } from "./colourfields";
import type { EditorProps, StepView } from "./kind";
import { Dot } from "./thumbs";

const Washed = styled.div`
  height: 64px;
  margin-bottom: 10px;
  border-radius: 4px;
  background: var(--g3);
`;

function WashEditor({ step, kind, trace, change }: EditorProps<"colour_wash">) {
  return (
    <>
      <Washed
        style={typeof trace?.colour === "string" ? { background: trace.colour } : undefined}
        role="img"
        aria-label="The colour"
      />
      <ColourFields
        kind={kind}
        label="Colour of the wash"
        value={step.colour}
        swatch={typeof trace?.colour === "string" ? trace.colour : undefined}
        onChange={(what, next) => change(`colour ${what}`, (s) => ({ ...s, colour: next }))}
      />
    </>
  );
}

export const colour_wash: StepView<"colour_wash"> = {
  Editor: WashEditor,
  summary: ({ colour }) => `hue ${Math.round(colour.hue ?? 0)}°, chroma ${(colour.chroma ?? 0).toFixed(2)}`,
  Thumb: ({ trace, high }) => <Dot colour={trace?.colour} high={high} />,
};
