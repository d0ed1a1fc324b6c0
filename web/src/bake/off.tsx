/** Where the table is off: on a frame, in which colours, and because of which step. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useKinds } from "../api/queries";
import type { Deviation, Frame, Look, Proof } from "../api/types";
import { titleOf } from "../bench/words";
import { find } from "../bench/steps";
import { Button } from "../kit/button";
import { FrameChoice } from "../kit/framechoice";
import { Apart, Said } from "../kit/layout";
import { Segments } from "../kit/segments";
import type { Method } from "./order";

const Box = styled.section`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
  .shown {
    display: flex;
    align-items: center;
    color: var(--t2);
    white-space: nowrap;
  }
  .pictures {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 6px;
  }
  figure {
    position: relative;
  }
  img {
    width: 100%;
    aspect-ratio: 16/9;
    object-fit: contain;
    background: var(--black);
    border-radius: 3px;
    display: block;
  }
  figcaption {
    position: absolute;
    left: 6px;
    top: 6px;
    background: var(--shade);
    border-radius: 9px;
    padding: 1px 8px;
    font-size: 12px;
  }
  .chips {
    display: grid;
    grid-template-columns: repeat(6, minmax(0, 1fr));
    gap: 8px;
  }
  .chip div {
    display: grid;
    grid-template-columns: 1fr 1fr 1fr;
    height: 36px;
    border-radius: 3px;
    overflow: hidden;
  }
  .chip p {
    display: flex;
    justify-content: space-between;
    gap: 4px;
    font-size: 12px;
    padding-top: 3px;
  }
  .chip span {
    color: var(--t2);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .shares {
    display: flex;
    gap: 3px;
  }
  .share {
    min-width: 46px;
    font-size: 12px;
    overflow: hidden;
  }
  .share i {
    display: block;
    height: 7px;
    border-radius: 2px;
    margin-bottom: 4px;
  }
  .share b {
    display: block;
    font-weight: 560;
  }
  .share span {
    display: block;
    overflow: hidden;
    text-overflow: ellipsis;
    color: var(--t2);
    white-space: nowrap;
  }
  .easing button {
    flex: none;
  }
  .easing {
    background: var(--g2);
    border-radius: var(--r);
    padding: 10px 12px;
  }
  .easing b {
    font-weight: 560;
  }
  h2 small {
    font-weight: 400;
    margin-left: 6px;
  }
`;

/** ΔE that the error picture shows as white. */
const FULLS = [
  ["0.5", "0.5"],
  ["2", "2"],
  ["5", "5"],
] as const;
type Full = (typeof FULLS)[number][0];
const GREYS = ["var(--t1)", "var(--t2)", "var(--t3)", "var(--t4)", "var(--g4)"];

const change = (before: Deviation, after: Deviation) =>
  `99 % ${before.delta_99.toFixed(2)} → ${after.delta_99.toFixed(2)}, mean ${before.delta_mean.toFixed(3)} → ${after.delta_mean.toFixed(3)}, ` +
  `largest ${before.delta_largest.toFixed(2)} → ${after.delta_largest.toFixed(2)}`;

export function Off(props: {
  id: number;
  look: Look;
  revision: number | null;
  mark: string;
  frames: Frame[];
  all: Frame[];
  frame: Frame | null;
  onFrame: (id: number) => void;
  grid: number;
  method: Method;
  proof: Proof | undefined;
}) {
  const { id, look, revision, frame, grid, method, proof } = props;
  const [full, setFull] = useState<Full>("2");
  const { data: kinds = [] } = useKinds();
  const navigate = useNavigate();
  const blame = useQuery({
    queryKey: ["blame", id, revision, props.mark, grid, props.frames.map((f) => f.version)],
    queryFn: () =>
      got(
        server.POST("/api/looks/{look_id}/blame", {
          params: { path: { look_id: id } },
          body: { revision, frames: props.frames.map((f) => f.id), grid },
        }),
      ),
    staleTime: 60_000,
  });
  const from = revision ? `revision=${revision}&` : "";
  const address = (frame: Frame) =>
    `/api/looks/${id}/proof/${frame.id}?${from}v=${props.mark}.${frame.version}`;
  const seen = proof && (proof.report.pictures ?? proof.report.cube);
  const title = (step: string) => {
    const there = find(look, step);
    return there ? titleOf(there, kinds) : "a step";
  };
  const easing = blame.data?.easing;
  return (
    <Box aria-label="Where it is off">
      <Apart>
        <h1>Where it is off</h1>
        <div className="shown">
          <FrameChoice all={props.all} frame={frame} onChoose={props.onFrame} />
        </div>
      </Apart>
      {frame ? (
        <>
          <div className="pictures">
            <figure>
              <img src={address(frame)} alt={`${frame.name} under the look`} />
              <figcaption>look</figcaption>
            </figure>
            <figure>
              <img
                src={`${address(frame)}&grid=${grid}&method=${method}&full=${full}`}
                alt={`How far the table is from the look on ${frame.name}: black for no difference`}
              />
              <figcaption>error, black for none</figcaption>
            </figure>
          </div>
          <Apart>
            <Said>
              {grid}, {method}
              {seen
                ? `: mean ${seen.delta_mean.toFixed(3)}, 99 % ${seen.delta_99.toFixed(2)}, largest ${seen.delta_largest.toFixed(2)}`
                : ""}
            </Said>
            <div className="shown">
              white is ΔE&nbsp;
              <Segments label="ΔE shown as white" options={FULLS} chosen={full} onChange={setFull} />
            </div>
          </Apart>
        </>
      ) : (
        <Said>Add a frame to see where the table is off on a picture.</Said>
      )}
      <h2>
        Worst colours{" "}
        <small>before · look · table, {props.frames.length ? "on your frames" : "in the whole cube"}</small>
      </h2>
      <div className="chips">
        {proof?.chips.map((c, k) => (
          <div key={k} className="chip" title={c.frame}>
            <div>
              {[c.before, c.look, c.table].map((ink, n) => (
                <i key={n} style={{ background: ink }} />
              ))}
            </div>
            <p>
              <span>{c.frame || "cube"}</span>
              {c.delta.toFixed(1)}
            </p>
            {c.beyond ? <small>outside</small> : null}
          </div>
        ))}
      </div>
      {proof?.chips.some((c) => c.beyond) ? (
        <Said>
          Outside: the frame or its trim goes beyond what a table of any size covers, and its edge stands in
          for it. Ease the trim, or deliver the trim and the table apart.
        </Said>
      ) : null}
      <h2>
        Which step it comes from <small>share of the mean error at {grid}, sampled</small>
      </h2>
      {blame.data?.shares.length ? (
        <div className="shares">
          {blame.data.shares.slice(0, GREYS.length).map((s, k) => (
            <div key={s.step} className="share" style={{ flex: s.share }}>
              <i style={{ background: GREYS[k] }} />
              <b>{Math.round(s.share * 100)} %</b>
              <span>{title(s.step)}</span>
            </div>
          ))}
        </div>
      ) : (
        <Said>{blame.data ? "From none: the table holds the look." : "Measuring …"}</Said>
      )}
      {easing ? (
        <Apart className="easing">
          <Said>
            <b>{title(easing.step)} at half its strength</b>
            <br />
            sampled {grid} {easing.before.pictures ? "on your frames" : "over the cube"}:{" "}
            {change(easing.before.pictures ?? easing.before.cube, easing.after.pictures ?? easing.after.cube)}
          </Said>
          <Button onPress={() => void navigate(`/bench/${id}?step=${easing.step}`)}>See the step</Button>
        </Apart>
      ) : null}
    </Box>
  );
}
