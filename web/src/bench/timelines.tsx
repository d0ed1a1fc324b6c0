/** Under the length of a clip: what the draft does to it, before faint and after bright, and where it breaks. */
import { useMemo } from "react";
import styled from "styled-components";
import { useKinds } from "../api/queries";
import type { Frame, Look, OverTime, OverTimeLine, Trim } from "../api/types";
import { Button } from "../kit/button";
import { KeyCap } from "../kit/keycap";
import type { Player } from "../player/player";
import { Lengths } from "../player/transport";
import { useMark, useSeldom } from "../player/following";
import type { Meaning } from "./meaning";
import { goTo, nextPlace, useCause, useOverTime } from "./overtime";
import { find } from "./steps";
import { changeStep, useBench } from "./store";
import { titleOf } from "./words";

/** Pixels of a line's height. */
const HIGH = 13;
/** The lines that are drawn, and the kinds of places that each shows. */
const DRAWN: readonly (readonly [name: string, kinds: readonly string[]])[] = [
  ["tone", ["flash", "flicker", "noise", "bands"]],
  ["skin", ["skin"]],
  ["colour", ["outside"]],
  ["clipped", ["white", "black"]],
];

const Drawn = styled.svg`
  display: block;
  width: 100%;
  height: ${HIGH}px;
  overflow: visible;
  path {
    fill: none;
    vector-effect: non-scaling-stroke;
  }
  .before {
    stroke: var(--t4);
  }
  .after {
    stroke: var(--t1);
  }
  .breaks {
    fill: var(--warn);
    opacity: 0.28;
    cursor: pointer;
  }
  .here {
    stroke: var(--t2);
    vector-effect: non-scaling-stroke;
  }
`;
const Said = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 28px;
  font-size: 12px;
  white-space: nowrap;
  color: var(--t2);
  b {
    color: var(--warn);
    font-weight: 600;
  }
  button {
    height: 24px;
  }
`;
const Grow = styled.span`
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
`;
const Number = styled.span`
  white-space: nowrap;
`;

/** The numbers of a line as a path, from its lowest to its highest; it is interrupted where one is not known. */
function path(numbers: number[], values: (number | null)[], low: number, high: number, last: number): string {
  const span = Math.max(high - low, 1e-6);
  let drawn = "";
  let on = false;
  values.forEach((value, k) => {
    if (value === null) {
      on = false;
      return;
    }
    const x = (numbers[k]! / Math.max(last, 1)) * 100;
    const y = HIGH - 1 - ((value - low) / span) * (HIGH - 2);
    drawn += `${on ? "L" : "M"}${x.toFixed(2)} ${y.toFixed(2)}`;
    on = true;
  });
  return drawn;
}

const words = (value: number | null | undefined) =>
  value === null || value === undefined ? "–" : value.toFixed(Math.abs(value) < 10 ? 1 : 0);

/** Where the clip is. */
function Here({ player }: { player: Player }) {
  const mark = useMark<SVGLineElement>(player, (on, share) => {
    for (const end of ["x1", "x2"]) on.setAttribute(end, String(share * 100));
  });
  return <line ref={mark} className="here" y1={-1} y2={HIGH + 1} />;
}

function Row(props: {
  line: OverTimeLine;
  found: OverTime;
  kinds: readonly string[];
  player: Player;
  number: number;
  last: number;
}) {
  const { line, found, number, last } = props;
  const { numbers } = found;
  const drawn = useMemo(() => {
    const known = [...line.before, ...line.after].filter((v): v is number => v !== null);
    const [low, high] = [Math.min(...known, 0), Math.max(...known, line.unit === "%" ? 10 : 4)];
    return [path(numbers, line.before, low, high, last), path(numbers, line.after, low, high, last)];
  }, [line, numbers, last]);
  // The sampled frame that is nearest to the one that is shown.
  const at = numbers.reduce(
    (best, n, k) => (Math.abs(n - number) < Math.abs(numbers[best]! - number) ? k : best),
    0,
  );
  const share = (n: number) => (n / Math.max(last, 1)) * 100;
  return (
    <>
      <span>{line.name}</span>
      <Drawn
        viewBox={`0 0 100 ${HIGH}`}
        preserveAspectRatio="none"
        role="img"
        aria-label={`${line.name} over the clip, before and after the look`}
      >
        {found.places.map((p, k) =>
          props.kinds.includes(p.kind) ? (
            <rect
              key={`${p.kind}${p.first}`}
              className="breaks"
              x={share(p.first)}
              width={Math.max(share(p.last) - share(p.first), 0.6)}
              y={0}
              height={HIGH}
              onClick={() => goTo(k)}
            >
              <title>{p.text}</title>
            </rect>
          ) : null,
        )}
        <path className="before" d={drawn[0]} />
        <path className="after" d={drawn[1]} />
        <Here player={props.player} />
      </Drawn>
      <Number>
        {words(line.before[at])} → {words(line.after[at])} {line.unit}
      </Number>
    </>
  );
}

/** The place that is looked at, its cause, and the way to the next. */
function Place(props: { look: Look; frame: number; trim: Trim | null; readOnly: boolean; meaning: Meaning }) {
  const { look, frame, trim, meaning } = props;
  const kinds = useKinds().data ?? [];
  const { found, whole, meant, place, cause } = useOverTime();
  const here = whole ? found?.places[place] : undefined;
  useCause(frame, look, trim, here);
  if (!found) return <Said role="status">Measuring what the look does over the clip …</Said>;
  const forget =
    meant && !props.readOnly ? (
      <Button look="quiet" onPress={meaning.forget}>
        {meant} {meant === 1 ? "is" : "are"} meant so: show
      </Button>
    ) : null;
  if (!here)
    return (
      <Said>
        <span role="status">{whole ? "Over time: nothing to look at" : "Measuring every sample …"}</span>
        <Grow />
        {forget}
      </Said>
    );
  const step = cause ? find(look, cause.step) : undefined;
  const name = step ? titleOf(step, kinds) : "";
  const eases = cause?.strength ?? null;
  const percent = `${Math.round((eases ?? 0) * 100)} %`;
  return (
    <Said>
      <b role="status">{here.text}</b>
      <Grow>
        {step && eases !== null ? `With ${name} at ${percent} it is ${cause!.amount}` : null}
        {step && eases === null ? `Most of it comes from ${name}` : null}
      </Grow>
      {step && eases !== null && !props.readOnly ? (
        <Button
          onPress={() => changeStep(step.id, `Ease ${name}`, "strength", (s) => ({ ...s, strength: eases }))}
        >
          Ease {name}
        </Button>
      ) : null}
      {step && eases === null ? (
        <Button look="quiet" onPress={() => useBench.getState().choose(new Set([step.id]))}>
          Its step
        </Button>
      ) : null}
      {props.readOnly ? null : (
        <Button look="quiet" onPress={() => meaning.mean(here.kind)}>
          It is meant so
        </Button>
      )}
      {forget}
      <Button look="quiet" onPress={nextPlace} aria-keyshortcuts="W">
        {place + 1} of {found.places.length} {found.places.length === 1 ? "place" : "places"}{" "}
        <KeyCap>W</KeyCap>
      </Button>
    </Said>
  );
}

export function TimeLines(props: {
  player: Player;
  frame: Frame;
  look: Look;
  trim: Trim | null;
  readOnly: boolean;
  meaning: Meaning;
}) {
  const found = useOverTime((m) => m.found);
  const number = useSeldom(props.player);
  const last = props.player.index.offsets.length - 1;
  return (
    <>
      <Lengths>
        {found
          ? DRAWN.map(([name, kinds]) => {
              const line = found.lines.find((l) => l.name === name);
              return line ? (
                <Row
                  key={name}
                  line={line}
                  found={found}
                  kinds={kinds}
                  player={props.player}
                  number={number}
                  last={last}
                />
              ) : null;
            })
          : null}
      </Lengths>
      <Place
        look={props.look}
        frame={props.frame.id}
        trim={props.trim}
        readOnly={props.readOnly}
        meaning={props.meaning}
      />
    </>
  );
}
