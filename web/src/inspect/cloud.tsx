/** Where colours go: the cube of the screen as a cloud that is turned by hand or by the arrow keys. */
import { useEffect, useRef, useState } from "react";
import { KeyCap } from "../kit/keycap";
import styled from "styled-components";
import type { CloudPoints } from "../api/types";
import { Choice } from "../kit/choice";
import { Apart, Quiet, Said } from "../kit/layout";
import { Segments } from "../kit/segments";
import { CloudScene, type Shown, type Turned } from "./scene";

const Box = styled.section`
  display: flex;
  flex-direction: column;
  min-height: 0;
  flex: 1;
  .place {
    flex: 1;
    min-height: 0;
    position: relative;
    overflow: hidden;
    outline-offset: -2px;
    cursor: grab;
  }
  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    display: block;
  }
  .hue {
    position: absolute;
    transform: translate(-50%, -50%);
    font-size: 12px;
    color: var(--t2);
    pointer-events: none;
    white-space: nowrap;
  }
  footer {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 2px 16px;
    white-space: nowrap;
    min-height: 30px;
    color: var(--t2);
  }
  footer strong {
    color: var(--t1);
    font-weight: 600;
  }
  .ways {
    display: flex;
    align-items: center;
  }
  footer > :last-child {
    margin-left: auto;
  }
`;
const LEAST = ["2", "4", "6", "10", "20"].map((k) => ({ key: k, label: `ΔE ${k}` }));
/** Degrees that one press of an arrow key turns. */
const STEP = 6;

export function Cloud(props: { cloud: CloudPoints; marks: number[][]; names: readonly [string, string] }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const scene = useRef<CloudScene>(null);
  const [shown, setShown] = useState<Shown>("both");
  const [least, setLeast] = useState("6");
  const [turned, setTurned] = useState<Turned>({ turn: 0, tilt: 0 });
  const [labels, setLabels] = useState<{ text: string; x: number; y: number; near: boolean }[]>([]);
  const [none, setNone] = useState(false);

  useEffect(() => {
    const at = canvas.current;
    if (!at) return;
    let made: CloudScene;
    try {
      made = new CloudScene(at, setTurned, setLabels);
    } catch {
      setNone(true);
      return;
    }
    scene.current = made;
    const watch = new ResizeObserver(
      ([entry]) => entry && made.size(entry.contentRect.width, entry.contentRect.height),
    );
    watch.observe(at.parentElement ?? at);
    return () => {
      watch.disconnect();
      made.dispose();
      scene.current = null;
    };
  }, []);
  const { cloud, marks } = props;
  useEffect(() => {
    scene.current?.show({ cloud, shown, least: Number(least), marks });
  }, [cloud, marks, shown, least]);

  return (
    <Box aria-label="Where colours go">
      <Apart>
        <h2>Where colours go</h2>
        <Segments
          label="Cloud shown"
          chosen={shown}
          onChange={setShown}
          options={[
            ["before", props.names[0]],
            ["after", props.names[1]],
            ["both", "Both"],
          ]}
        />
      </Apart>
      <div
        className="place"
        role="application"
        aria-label={`Cloud of colours in OKLab, turned ${turned.turn}°, tilted ${turned.tilt}°. Arrow keys turn it.`}
        tabIndex={0}
        onKeyDown={(e) => {
          const by: Record<string, [number, number]> = {
            ArrowLeft: [-STEP, 0],
            ArrowRight: [STEP, 0],
            ArrowUp: [0, STEP],
            ArrowDown: [0, -STEP],
          };
          const turn = by[e.key];
          if (!turn) return;
          e.preventDefault();
          scene.current?.turn(...turn);
        }}
      >
        {none ? (
          <Said>This browser draws nothing in three dimensions. The slices below show the same colours.</Said>
        ) : null}
        <canvas ref={canvas} />
        {labels.map((l) => (
          <span
            key={l.text}
            className="hue"
            style={{ left: `${l.x * 100}%`, top: `${l.y * 100}%`, opacity: l.near ? 1 : 0.65 }}
          >
            {l.text}
          </span>
        ))}
      </div>
      <footer>
        <span>
          turn <strong>{turned.turn}°</strong>
        </span>
        <span>
          tilt <strong>{turned.tilt}°</strong>
        </span>
        <span>
          points <strong>{props.cloud.side} a side</strong>
        </span>
        <span className="ways">
          ways from{" "}
          <Choice
            look="bare"
            label="Ways drawn from"
            hidden
            chosen={least}
            onChange={setLeast}
            options={LEAST}
          />
        </span>
        <Quiet>
          drag or <KeyCap>←</KeyCap> <KeyCap>→</KeyCap>
        </Quiet>
      </footer>
    </Box>
  );
}
