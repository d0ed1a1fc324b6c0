/** Two shots at the same size: in turn at one place, beside each other, or with a line between them. */
import { useEffect, useState } from "react";
import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import type { Project, Shot } from "../api/types";
import { Apart } from "../kit/layout";
import { Segments } from "../kit/segments";
import { Sheet } from "../kit/sheet";
import { stillOf } from "./asked";
import { TwoInStep } from "./twoinstep";

const Place = styled.div`
  position: relative;
  aspect-ratio: 16/9;
  background: var(--field);
  img {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    object-fit: contain;
  }
  .away {
    visibility: hidden;
  }
  .line {
    position: absolute;
    inset: 0;
  }
  .track {
    width: 100%;
    height: 100%;
    cursor: ew-resize;
  }
  .thumb {
    top: 50%;
    width: 18px;
    height: 18px;
    border-radius: 50%;
    background: var(--over);
    border: 2px solid var(--t1);
  }
  .thumb[data-focus-visible] {
    outline: 2px solid var(--accent);
  }
`;
const Both = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  img {
    width: 100%;
    display: block;
  }
`;

type How = "turn" | "split" | "beside";
/** Milliseconds that each stands: long enough to see, short enough to compare. */
const TURN = 700;

export function TwoShots(props: { project: Project; shots: Shot[]; onClose: () => void }) {
  const [a, b] = props.shots;
  const [how, setHow] = useState<How>("turn");
  const [second, setSecond] = useState(false);
  const [at, setAt] = useState(50);
  const still = window.matchMedia("(prefers-reduced-motion: reduce)").matches;
  useEffect(() => {
    if (how !== "turn" || still) return;
    const turning = setInterval(() => setSecond((last) => !last), TURN);
    return () => clearInterval(turning);
  }, [how, still]);
  if (!a || !b) return null;
  const src = (s: Shot) => stillOf(props.project.id, s, 960);
  const shown = second ? b : a;
  return (
    <Sheet title={`${a.number} ${a.name} and ${b.number} ${b.name}`} width={980} onClose={props.onClose}>
      {how === "beside" ? (
        a.cut || b.cut ? (
          <TwoInStep project={props.project.id} shots={[a, b]} />
        ) : (
          <Both>
            <img src={src(a)} alt={a.name} />
            <img src={src(b)} alt={b.name} />
          </Both>
        )
      ) : (
        <Place>
          <img src={src(a)} alt={a.name} className={how === "turn" && second ? "away" : undefined} />
          <img
            src={src(b)}
            alt={b.name}
            className={how === "turn" && !second ? "away" : undefined}
            style={how === "split" ? { clipPath: `inset(0 0 0 ${at}%)` } : undefined}
          />
          {how === "split" ? (
            <Slider
              className="line"
              aria-label="Line between the shots"
              value={at}
              onChange={(v) => setAt(v)}
            >
              <SliderTrack className="track">
                <SliderThumb className="thumb" />
              </SliderTrack>
            </Slider>
          ) : null}
        </Place>
      )}
      <Apart>
        <Segments
          label="How"
          chosen={how}
          onChange={setHow}
          options={
            [
              ["turn", "In turn"],
              ["split", "Split"],
              ["beside", "Beside"],
            ] as const
          }
        />
        {how === "turn" ? (
          <Segments
            label="Which is shown"
            chosen={second ? "b" : "a"}
            onChange={(key) => setSecond(key === "b")}
            options={
              [
                ["a", String(a.number)],
                ["b", String(b.number)],
              ] as const
            }
          />
        ) : null}
        <span>{how === "turn" ? `${shown.number} ${shown.name}` : ""}</span>
      </Apart>
    </Sheet>
  );
}
