/** Curves: points by mouse, keys and numbers; the line is the core's. */
import { useState } from "react";
import { Menu, MenuItem, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import type { CurvePoint, Probed, StepOf } from "../../api/types";
import { Button } from "../../kit/button";
import { Choice } from "../../kit/choice";
import { Level } from "../../kit/layout";
import { Menued } from "../../kit/menued";
import { Segments } from "../../kit/segments";
import { useRead } from "../../viewer/readings";
import { Pick } from "../pick";
import { numbers, path } from "../trace";
import {
  added,
  inserted,
  inverted,
  isStraight,
  moved,
  picked,
  removed,
  straight,
  type Chosen,
} from "./curvepoints";
import { CurveTable, shownAs, type Unit } from "./curvetable";
import type { EditorProps, StepView } from "./kind";
import { PointPlot } from "./points";
import { Line } from "./thumbs";

const CHANNELS = [
  ["all", "All"],
  ["red", "Red"],
  ["green", "Green"],
  ["blue", "Blue"],
  ["luma", "Luma"],
] as const;
type Channel = (typeof CHANNELS)[number][0];

/** Marks which channel a line belongs to; the only colours on the chrome. */
const INK: Record<Channel, string> = {
  all: "var(--t1)",
  red: "var(--red)",
  green: "var(--green)",
  blue: "var(--blue)",
  luma: "var(--t2)",
};
/** Pixels a side of the plot. */
const SIDE = 250;

const Square = styled.div`
  display: grid;
  grid-template-columns: 8px ${SIDE}px;
  gap: 5px;
  justify-content: end;
  margin-top: 12px;
`;
const Side = styled.div`
  border-radius: 2px;
`;
const Foot = styled.div`
  border-radius: 2px;
  height: 8px;
  grid-column: 2;
  background: linear-gradient(to right, var(--black), var(--white));
`;
const Density = styled.svg`
  grid-column: 2;
  height: 26px;
`;

/** What a picked spot has in a channel, as it comes to the step. */
function toneOf({ given }: Probed, channel: Channel): number | null {
  if (!given) return null;
  const [red, green, blue] = given.code;
  return { all: given.luma, luma: given.luma, red, green, blue }[channel];
}

/** How many pixels of the picture have each tone, hanging under the plot. */
function Tones({ channel }: { channel: Channel }) {
  const given = useRead((s) => s.read?.given);
  const counts = given?.[channel === "red" ? 0 : channel === "green" ? 1 : channel === "blue" ? 2 : 3];
  if (!counts) return null;
  // The ends hold all that is clipped: they would flatten the rest.
  const most = Math.max(...counts.slice(2, 254), 1);
  const line = counts.map((n, k) => `L${k},${(Math.min(n / most, 1) * 26).toFixed(1)}`).join(" ");
  return (
    <Density viewBox="0 0 256 26" preserveAspectRatio="none" aria-hidden>
      <path d={`M0,0 ${line} L255,0Z`} fill="var(--g4)" />
    </Density>
  );
}

type Shown = { [K in "step" | "trace"]: EditorProps<"curves">[K] };

/** The lines of all channels; the chosen one is the bright one. */
function Lines({ step, trace, channel }: Shown & { channel: Channel }) {
  const x = numbers(trace, "x");
  const others = CHANNELS.filter(([c]) => c !== channel && !isStraight(step[c]));
  return (
    <>
      <line x1={0} y1={SIDE} x2={SIDE} y2={0} stroke="var(--g4)" strokeDasharray="2 4" />
      {others.map(([c]) => (
        <polyline
          key={c}
          points={path(x, numbers(trace, c), SIDE, SIDE)}
          fill="none"
          stroke={INK[c]}
          strokeOpacity={0.45}
        />
      ))}
      <polyline
        points={path(x, numbers(trace, channel), SIDE, SIDE)}
        fill="none"
        stroke={INK[channel]}
        strokeWidth={1.8}
      />
    </>
  );
}

function CopyTo(props: { channel: Channel; onCopy: (to: Channel) => void }) {
  return (
    <MenuTrigger>
      <Button>Copy to ▾</Button>
      <Menued placement="top start">
        <Menu
          aria-label={`Copy the ${props.channel} curve to`}
          onAction={(to) => props.onCopy(to as Channel)}
        >
          {CHANNELS.filter(([c]) => c !== props.channel).map(([c, name]) => (
            <MenuItem key={c} id={c}>
              {name}
            </MenuItem>
          ))}
        </Menu>
      </Menued>
    </MenuTrigger>
  );
}

function CurvesEditor({ step, trace, change }: EditorProps<"curves">) {
  const [channel, setChannel] = useState<Channel>("all");
  const [unit, setUnit] = useState<Unit>("8-bit");
  const [at, setAt] = useState(0);
  const points = step[channel] as CurvePoint[];
  const line = numbers(trace, channel);
  const put = (next: CurvePoint[], what = `${channel} curve`) =>
    change(what, (s: StepOf<"curves">) => ({ ...s, [channel]: next }));
  /** Puts points and chooses one; gives its place. */
  const take = (found: Chosen | null, what?: string): number | null => {
    if (!found) return null;
    if (found.points !== points) put(found.points, what);
    setAt(found.at);
    return found.at;
  };
  const discard = (index: number) => take(removed(points, index), `remove point ${channel}`);
  const pick = (found: Probed) => {
    const tone = toneOf(found, channel);
    if (tone !== null) take(picked(points, line, tone), `pick ${channel}`);
  };
  const copyTo = (to: Channel) =>
    change(`copy ${channel} to ${to}`, (s: StepOf<"curves">) => ({
      ...s,
      [to]: points.map((p) => [...p]),
    }));

  return (
    <>
      <Segments
        label="Channel"
        options={CHANNELS}
        chosen={channel}
        onChange={(c) => {
          setChannel(c);
          setAt(0);
        }}
        stretch
      />
      <Square>
        <Side style={{ background: `linear-gradient(to top, var(--black), ${INK[channel]})` }} />
        <PointPlot
          label={`${channel} curve`}
          width={SIDE}
          height={SIDE}
          points={points}
          chosen={at}
          onChoose={setAt}
          onAdd={(to) => take(added(points, to))}
          onRemove={discard}
          onMove={(k, to) => put(moved(points, k, to))}
          fine={[1 / 255, 1 / 255]}
          name={(k) => `Point ${k + 1} of the ${channel} curve`}
          value={(k) => shownAs(points[k]![1], unit)}
          said={(k) => `in ${shownAs(points[k]![0], unit)}, out ${shownAs(points[k]![1], unit)}, ${unit}`}
        >
          <Lines step={step} trace={trace} channel={channel} />
        </PointPlot>
        <Foot />
        <Tones channel={channel} />
      </Square>
      <CurveTable
        channel={channel}
        points={points}
        at={at}
        unit={unit}
        onUnit={setUnit}
        onChoose={setAt}
        onMove={(k, to) => put(moved(points, k, to))}
        onRemove={discard}
      />
      <Level>
        <Pick step={step.id} what="Pick a tone" take={pick} />
        <Button onPress={() => take(inserted(points, line))}>Add point</Button>
        <Button onPress={() => put(straight, `straighten ${channel}`)}>Straighten</Button>
        <Button onPress={() => put(inverted(points), `invert ${channel}`)}>Invert</Button>
        <CopyTo channel={channel} onCopy={copyTo} />
        <Choice
          look="inline"
          hidden
          label="Between points"
          chosen={step.interpolation}
          onChange={(v) => change("between points", (s: StepOf<"curves">) => ({ ...s, interpolation: v }))}
          options={[
            { key: "monotone" as const, label: "no overshoot" },
            { key: "smooth" as const, label: "smooth" },
            { key: "straight" as const, label: "straight" },
          ]}
        />
      </Level>
    </>
  );
}

const LINES = ["red", "green", "blue", "all"];

export const curves: StepView<"curves"> = {
  Editor: CurvesEditor,
  summary: (step) => {
    const set = CHANNELS.map(([c]) => c).filter((c) => !isStraight(step[c]));
    return set.length ? set.join(", ") : "straight";
  },
  Thumb: ({ trace, high }) =>
    LINES.map((n) => (
      <Line key={n} high={high} x={numbers(trace, "x")} y={numbers(trace, n)} dim={n !== "all"} />
    )),
};
