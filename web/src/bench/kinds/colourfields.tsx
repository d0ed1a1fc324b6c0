/** A colour: its hue and chroma on a disc, then as numbers. */
import type { Kind, StepOf } from "../../api/types";
import { Disc } from "./disc";
import { Part } from "./numbers";
import { Centred } from "../../kit/layout";

type Colour = StepOf<"colour_wash">["colour"];

/** Chroma at the edge of a colour's disc. */
const CHROMA = 0.25;

export function ColourFields(props: {
  kind: Kind;
  label: string;
  value: Colour;
  swatch?: string;
  onChange: (what: string, next: Colour) => void;
}) {
  const { value } = props;
  const put = (what: string, next: Partial<Colour>) => props.onChange(what, { ...value, ...next });
  return (
    <>
      <Centred>
        <Disc
          label={props.label}
          size={140}
          swatch={props.swatch}
          value={{ hue: value.hue ?? 0, amount: (value.chroma ?? 0) / CHROMA }}
          onChange={(v) =>
            put("colour", {
              ...(v.hue === undefined ? {} : { hue: v.hue }),
              ...(v.amount === undefined ? {} : { chroma: Number((v.amount * CHROMA).toFixed(4)) }),
            })
          }
        />
      </Centred>
      <Part kind={props.kind} part="Colour" value={value} onChange={(name, v) => put(name, { [name]: v })} />
    </>
  );
}
