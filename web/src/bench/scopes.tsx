/** Readings: tone, waveform or parade, vectors, and the probe. The core counts; this draws the counts. */
import { memo, useCallback, useEffect, useRef, useState } from "react";
import styled from "styled-components";
import type { Readings } from "../api/types";
import { Button } from "../kit/button";
import { Segments } from "../kit/segments";
import { lay, type Ink, type Scale } from "./density";
import { Histogram } from "./histogram";
import { useRead } from "../viewer/readings";
import { ProbeTable } from "./probetable";
import { useView, view } from "./view";

const Row = styled.section`
  flex: none;
  display: grid;
  grid-template-columns: 1fr 1.1fr 120px 208px;
  gap: 14px;
  align-items: start;
  &.large {
    grid-template-columns: 1fr;
  }
  figure {
    min-width: 0;
  }
  figure > header {
    display: flex;
    align-items: center;
    gap: 4px;
    min-height: 20px;
    margin-bottom: 2px;
  }
  figure > header h2 {
    flex: 1;
    white-space: nowrap;
  }
  figure > header > button,
  .tools > button {
    height: 18px;
    font-size: 11.5px;
    padding: 0 5px;
  }
  canvas {
    display: block;
    width: 100%;
    background: var(--g0);
    border-radius: 3px;
    box-shadow: inset 0 0 0 1px var(--g3);
  }
  .tools {
    display: flex;
    gap: 8px;
    align-items: center;
    flex: 1;
    justify-content: flex-end;
  }
  .drawn {
    position: relative;
  }
  .round {
    margin: 0 auto;
  }
  .round canvas {
    border-radius: 50%;
  }
  .probe {
    overflow: auto;
  }
  .drawn svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    pointer-events: none;
  }
  .drawn text {
    fill: var(--t2);
    font-size: 10.5px;
  }
`;

const HEIGHT = 116;
/** The same where lines of a clip stand above them: the picture needs the room. */
const LOW = 62;
const LARGE = 300;
const LEVELS = 256;
const INK: Ink[] = [
  [240, 146, 132],
  [140, 208, 148],
  [142, 172, 252],
  [225, 225, 225],
];

/** A canvas that is drawn again when one of `deps` changed. */
function useCounts(draw: (context: CanvasRenderingContext2D) => void, deps: unknown[]) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (context) draw(context);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, deps);
  return canvas;
}

function wave(
  { columns, waves, lifts }: Readings,
  channel: number,
  image: ImageData,
  left: number,
  scale: Scale,
  dim = 1,
): void {
  const codes = waves.subarray(channel * columns * LEVELS, (channel + 1) * columns * LEVELS);
  lay(image, left, { codes, columns, ink: INK[channel]!, scale, lift: lifts.waves, dim });
}

function Wave(props: {
  read: Readings;
  reference: Readings | null;
  parade: boolean;
  scale: Scale;
  height: number;
}) {
  const { read, reference, parade, scale } = props;
  const channels = parade ? [0, 1, 2] : [3];
  const width = read.columns * channels.length + (channels.length - 1) * 6;
  const canvas = useCounts(
    (context) => {
      const image = context.createImageData(width, LEVELS);
      channels.forEach((c, k) => {
        if (reference) wave(reference, c, image, k * (read.columns + 6), scale, 0.45);
        wave(read, c, image, k * (read.columns + 6), scale);
      });
      context.putImageData(image, 0, 0);
    },
    [read, reference, parade, scale],
  );
  return (
    <div className="drawn">
      <canvas
        ref={canvas}
        width={width}
        height={LEVELS}
        style={{ height: props.height }}
        role="img"
        aria-label={parade ? "Parade of red, green and blue" : "Waveform of luma"}
      />
      <svg viewBox="0 0 100 100" preserveAspectRatio="none" aria-hidden>
        {[25, 50, 75].map((y) => (
          <line
            key={y}
            x1={0}
            x2={100}
            y1={y}
            y2={y}
            stroke="var(--ruled)"
            strokeWidth={1}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </svg>
    </div>
  );
}

function Vectors(props: { read: Readings; reference: Readings | null; scale: Scale; height: number }) {
  const { read, reference, scale } = props;
  const size = read.scope;
  const canvas = useCounts(
    (context) => {
      const image = context.createImageData(size, size);
      const put = (from: Readings, ink: Ink, dim: number) =>
        lay(image, 0, { codes: from.vectors, columns: size, ink, scale, lift: from.lifts.vectors, dim });
      if (reference) put(reference, [224, 177, 90], 0.5);
      put(read, INK[3]!, 1);
      context.putImageData(image, 0, 0);
    },
    [read, reference, scale],
  );
  const at = (x: number, y: number) => ({ cx: 50 + x * 50, cy: 50 - y * 50 });
  const [sx, sy] = read.skin;
  return (
    <div className="drawn round" style={{ width: props.height, height: props.height }}>
      <canvas
        ref={canvas}
        width={size}
        height={size}
        style={{ height: props.height, width: props.height }}
        role="img"
        aria-label="Vectorscope, with the line on which skin lies"
      />
      <svg viewBox="0 0 100 100" aria-hidden>
        <line
          x1={50}
          y1={50}
          x2={50 + sx * 46}
          y2={50 - sy * 46}
          stroke="var(--skin)"
          strokeWidth={0.7}
          strokeDasharray="3 2"
        />
        <circle cx={50} cy={50} r={0.9} fill="var(--t1)" />
        {read.targets.map((t) => (
          <circle key={t.name} {...at(t.x, t.y)} r={1.8} fill="none" stroke="var(--glow)" strokeWidth={0.7} />
        ))}
      </svg>
    </div>
  );
}

type Large = "" | "tone" | "wave" | "vectors" | "probe";

/** The head of a reading; drawn anew only when somebody presses in it. */
const Head = memo(function Head(props: {
  which: Exclude<Large, "">;
  title: string;
  more?: string;
  pressed?: boolean;
  onMore?: () => void;
  large: boolean;
  scale: Scale;
  onLarge: (which: Large) => void;
  onScale: (scale: Scale) => void;
}) {
  const { which, title, more } = props;
  return (
    <header>
      <h2>{title}</h2>
      {more ? (
        <Button look="quiet" aria-pressed={props.pressed} onPress={props.onMore}>
          {more}
        </Button>
      ) : null}
      {props.large ? (
        <span className="tools">
          <Segments label="Scale" options={SCALES} chosen={props.scale} onChange={props.onScale} />
          <Button look="quiet" onPress={() => props.onLarge("")}>
            Smaller
          </Button>
        </span>
      ) : (
        <Button look="quiet" aria-label={`${title}, larger`} onPress={() => props.onLarge(which)}>
          ⤢
        </Button>
      )}
    </header>
  );
});

const SCALES = [
  ["log", "log"],
  ["linear", "linear"],
] as const;
const unpin = () => view({ spots: [] });

export const Scopes = memo(function Scopes({ low = false }: { low?: boolean }) {
  const { read, reference } = useRead();
  const [large, setLarge] = useState<Large>("");
  const [parade, setParade] = useState(true);
  const [scale, setScale] = useState<Scale>("log");
  const [before, setBefore] = useState(false);
  const spots = useView((s) => s.spots.length);
  const onBefore = useCallback(() => setBefore((b) => !b), []);
  const onParade = useCallback(() => setParade((p) => !p), []);
  if (!read) return <Row aria-label="Readings" style={{ height: (low ? LOW : HEIGHT) + 40 }} />;
  const height = large ? LARGE : low ? LOW : HEIGHT;
  const common = { large: large !== "", scale, onLarge: setLarge, onScale: setScale };
  const seen = (which: Large) => !large || large === which;
  return (
    <Row aria-label="Readings" className={large ? "large" : ""}>
      {seen("tone") ? (
        <figure>
          <Head
            which="tone"
            title="Tone"
            more={before ? "with before ✓" : "with before"}
            pressed={before}
            onMore={onBefore}
            {...common}
          />
          <Histogram
            counts={read.histogram}
            under={before ? read.before : (reference?.histogram ?? null)}
            height={height}
            scale={scale}
          />
        </figure>
      ) : null}
      {seen("wave") ? (
        <figure>
          <Head
            which="wave"
            title={parade ? "Parade" : "Waveform"}
            more={parade ? "luma" : "RGB"}
            onMore={onParade}
            {...common}
          />
          <Wave read={read} reference={reference} parade={parade} scale={scale} height={height} />
        </figure>
      ) : null}
      {seen("vectors") ? (
        <figure>
          <Head which="vectors" title="Vectors" {...common} />
          <Vectors read={read} reference={reference} scale={scale} height={height} />
        </figure>
      ) : null}
      {seen("probe") ? (
        <figure className="probe" style={{ maxHeight: height + 30 }}>
          <Head which="probe" title="Probe" more={spots ? "clear" : undefined} onMore={unpin} {...common} />
          <ProbeTable read={read} wide={large === "probe"} />
        </figure>
      ) : null}
    </Row>
  );
});
