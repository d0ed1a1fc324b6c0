/** The white balance of a camera raw: as shot, typed, or told by a grey in the picture. */
import { useState } from "react";
import type { IntakeFile } from "../api/types";
import { Button } from "./button";
import { Apart, Fields, Quiet } from "./layout";
import { NumberBox } from "./numberbox";

type Raw = NonNullable<IntakeFile["raw"]>;
export type Balance = Raw["used"];

/** As the server takes them: kelvin, and how green or magenta. */
const KELVIN = [1500, 25_000] as const;
const TINT = [-50, 50] as const;

export function White(props: {
  raw: Raw;
  greying: boolean;
  onGreying: (on: boolean) => void;
  onWhite: (white: Balance) => void;
  /** Whether the picture is being developed with what was said. */
  developing?: boolean;
}) {
  const { raw, onWhite } = props;
  const [white, setWhite] = useState(raw.used);
  const [used, setUsed] = useState(raw.used);
  if (raw.used.kelvin !== used.kelvin || raw.used.tint !== used.tint) {
    setUsed(raw.used);
    setWhite(raw.used);
  }
  const change = (next: Balance) => {
    setWhite(next);
    onWhite(next);
  };
  const asShot = raw.used.kelvin === raw.shot.kelvin && raw.used.tint === raw.shot.tint;
  return (
    <Fields as="section" aria-label="White balance">
      <Apart>
        <h2>White balance</h2>
        <Quiet role="status">
          {props.developing
            ? "developing …"
            : `shot at ${Math.round(raw.shot.kelvin)} K, tint ${raw.shot.tint.toFixed(0)}`}
        </Quiet>
      </Apart>
      <Apart>
        <span>
          <NumberBox
            label="White balance, kelvin"
            value={Math.round(white.kelvin)}
            low={KELVIN[0]}
            high={KELVIN[1]}
            fine={10}
            digits={0}
            onChange={(kelvin) => change({ ...white, kelvin })}
          />{" "}
          K
        </span>
        <span>
          tint{" "}
          <NumberBox
            label="White balance, tint"
            value={white.tint}
            low={TINT[0]}
            high={TINT[1]}
            fine={1}
            digits={1}
            onChange={(tint) => change({ ...white, tint })}
          />
        </span>
        <Button look="quiet" isDisabled={asShot} onPress={() => change(raw.shot)}>
          as shot
        </Button>
      </Apart>
      <Button aria-pressed={props.greying} onPress={() => props.onGreying(!props.greying)}>
        {props.greying ? "Press on a grey in the picture" : "By a grey in the picture"}
      </Button>
    </Fields>
  );
}
