/** Taking a table apart into editable steps: asked for, followed, judged on a frame, opened on the bench. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import type { Frame, Unbaking } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Apart, Grow, Quiet, Said } from "../kit/layout";
import { Switch } from "../kit/switch";
import { turnOf } from "../kit/turn";
import { Trouble } from "../kit/trouble";
import { inspection, stillOf, type Subject } from "./subject";

const Box = styled.section`
  border-top: 1px solid var(--line);
  padding-top: 12px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  h2 {
    font-size: 14px;
    color: var(--t1);
  }
  ol {
    list-style: none;
    padding: 0;
    display: grid;
  }
  li {
    display: grid;
    grid-template-columns: 16px minmax(0, 1fr) 110px 42px;
    gap: 10px;
    align-items: center;
    padding: 6px 0;
    border-bottom: 1px solid var(--line);
  }
  li strong,
  li small {
    display: block;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  li strong {
    font-weight: 600;
  }
  li small {
    color: var(--t2);
    font-size: 12px;
  }
  li > :last-child {
    text-align: right;
  }
  progress {
    width: 100%;
    height: 4px;
    appearance: none;
    border: 0;
  }
  progress::-webkit-progress-bar {
    background: var(--g3);
    border-radius: 2px;
  }
  progress::-webkit-progress-value {
    background: var(--accent);
    border-radius: 2px;
  }
  .bar {
    height: 3px;
    border-radius: 2px;
    background: var(--g3);
    position: relative;
  }
  .bar i {
    position: absolute;
    top: 0;
    bottom: 0;
    border-radius: 2px;
    background: var(--t1);
  }
  .bar i.rest {
    background: var(--warn);
  }
  .foot {
    display: flex;
    gap: 10px;
    align-items: center;
  }
`;
export const Three = styled.div`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 8px;
  img {
    width: 100%;
    aspect-ratio: 16 / 9;
    object-fit: cover;
    display: block;
    border-radius: 3px;
    background: var(--black);
  }
  figcaption {
    display: flex;
    flex-wrap: wrap;
    column-gap: 8px;
    justify-content: space-between;
    font-size: 12px;
    color: var(--t2);
    margin-top: 3px;
  }
`;

const working = (u: Unbaking | undefined) => u?.job.state === "waiting" || u?.job.state === "running";

export function TakeApart({ subject, frame, name }: { subject: Subject; frame: Frame | null; name: string }) {
  const [id, setId] = useState<number | null>(null);
  const ask = useWrite(
    () =>
      got(
        server.POST("/api/inspect/{kind}/{key}/unbake", {
          params: { path: { kind: subject.kind, key: subject.key } },
        }),
      ),
    [],
    (made) => setId(made.id),
  );
  const query = useQuery({
    ...inspection.unbaking(id ?? 0),
    enabled: id !== null,
    refetchInterval: (q) => (working(q.state.data) ? 400 : false),
  });
  const navigate = useNavigate();
  const whole = useWrite(
    () =>
      got(
        server.POST("/api/inspect/{kind}/{key}/keep", {
          params: { path: { kind: subject.kind, key: subject.key } },
        }),
      ),
    ["worked"],
    (made) => void navigate(`/bench/${made.id}`),
  );
  const stop = useWrite(async (job: number) => {
    await got(server.POST("/api/jobs/{job_id}/cancel", { params: { path: { job_id: job } } }));
    setId(null);
  }, []);
  const at = query.data;
  return (
    <Box aria-label="Make it editable">
      <Apart>
        <h2>Make it editable</h2>
        <Quiet>{at?.found ? "share of the look" : ""}</Quiet>
      </Apart>
      {at?.found ? (
        <Found unbaking={at} found={at.found} subject={subject} frame={frame} name={name} />
      ) : at && working(at) ? (
        <>
          <progress value={at.job.done} max={Math.max(at.job.total, 1)} aria-label="How far it is" />
          <div className="foot">
            <Quiet role="status">{turnOf(at.job)}</Quiet>
            <Grow />
            <Button onPress={() => stop.mutate(at.job.id)}>Stop</Button>
          </div>
        </>
      ) : (
        <>
          <Said>
            Levels, curves, channel mix, saturation, hue ranges and tints that do what it does: the fewest
            that will, with what is left kept as a table of its own.
          </Said>
          {at?.job.state === "failed" ? <Trouble error={new Error(at.job.reason)} /> : null}
          <Trouble error={ask.error ?? query.error ?? whole.error} />
          <div className="foot">
            <Button look="main" isDisabled={ask.isPending} onPress={() => ask.mutate()}>
              Find the steps
            </Button>
            {subject.kind === "lut" ? (
              <Button isDisabled={whole.isPending} onPress={() => whole.mutate()}>
                Keep as one table
              </Button>
            ) : null}
          </div>
        </>
      )}
    </Box>
  );
}

function Found(props: {
  unbaking: Unbaking;
  found: NonNullable<Unbaking["found"]>;
  subject: Subject;
  frame: Frame | null;
  name: string;
}) {
  const { found, unbaking, frame } = props;
  const navigate = useNavigate();
  const [rest, setRest] = useState(true);
  const keep = useWrite(
    () =>
      got(
        server.POST("/api/unbakings/{key}/keep", {
          params: { path: { key: unbaking.id } },
          body: { name: props.name, rest },
        }),
      ),
    ["worked", "luts"],
    (made) => void navigate(`/bench/${made.id}`),
  );
  const last = found.stages.at(-1);
  const left = 1 - found.steps.reduce((sum, s) => sum + s.share, 0);
  const remains = rest ? found.with_rest : last;
  let begun = 0;
  return (
    <>
      <ol>
        {found.steps.map((s, k) => {
          const from = begun;
          begun += s.share;
          return (
            <li key={k}>
              <Quiet>{k + 1}</Quiet>
              <span>
                <strong>{s.title}</strong>
                <small title={s.words}>{s.words || "as it is"}</small>
              </span>
              <span className="bar" aria-hidden>
                <i style={{ left: `${from * 100}%`, width: `${s.share * 100}%` }} />
              </span>
              <span>{s.share ? `${Math.round(s.share * 100)} %` : "way"}</span>
            </li>
          );
        })}
        <li>
          <span />
          <span>
            <strong>Rest, kept as a table</strong>
            <small>
              {found.rest_behind ? "behind the steps" : "before the steps"}; without it mean ΔE{" "}
              {last?.cube[0].toFixed(2)}, largest {last?.cube[2].toFixed(1)}
            </small>
          </span>
          <span className="bar" aria-hidden>
            <i className="rest" style={{ left: `${(1 - left) * 100}%`, width: `${left * 100}%` }} />
          </span>
          <span>{Math.round(left * 100)} %</span>
        </li>
      </ol>
      <Quiet>
        ΔE left after each step that was added: {found.stages.map((st) => st.cube[0].toFixed(2)).join(" → ")}
      </Quiet>
      {frame ? (
        <Three>
          <figure>
            <img src={stillOf(props.subject, frame.id, 320)} alt={`${frame.name} under the table`} />
            <figcaption>the table</figcaption>
          </figure>
          <figure>
            <img
              src={`/api/unbakings/${unbaking.id}/still?frame=${frame.id}&rest=${rest}&width=320`}
              alt={`${frame.name} under the steps`}
            />
            <figcaption>
              {rest ? "with the rest" : "steps alone"} <span>ΔE {remains?.ordinary[0].toFixed(2)}</span>
            </figcaption>
          </figure>
          <figure>
            <img
              src={`/api/unbakings/${unbaking.id}/difference?frame=${frame.id}&rest=${rest}&width=320`}
              alt="Where the two differ: white from ΔE 2"
            />
            <figcaption>
              difference <span>white = ΔE 2</span>
            </figcaption>
          </figure>
        </Three>
      ) : null}
      <Trouble error={keep.error} />
      <div className="foot">
        <Button look="main" isDisabled={keep.isPending} onPress={() => keep.mutate()}>
          Open on the bench
        </Button>
        <Grow />
        <Switch label="with the rest" on={rest} onChange={setRest} />
      </div>
    </>
  );
}
