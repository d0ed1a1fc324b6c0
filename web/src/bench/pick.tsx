/** Takes a colour out of the picture: the next click into it answers. */
import { useEffect } from "react";
import type { Probed } from "../api/types";
import { Button } from "../kit/button";
import { useView, view } from "./view";

export function Pick(props: { step: string; what: string; take: (found: Probed) => void }) {
  const picking = useView((s) => s.picking);
  const on = picking?.step === props.step && picking.what === props.what;
  useEffect(() => () => view({ picking: null }), []);
  return (
    <Button
      aria-pressed={on}
      onPress={() => view({ picking: on ? null : { step: props.step, what: props.what, take: props.take } })}
    >
      {on ? "Click into the picture …" : props.what}
    </Button>
  );
}
