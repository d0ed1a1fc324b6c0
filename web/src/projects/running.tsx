/** A delivery that is being made: how far each part is; a part can be left out, all of it stopped. */
import { ProgressBar } from "react-aria-components";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useWrite } from "../api/writes";
import type { Delivery, Plan } from "../api/types";
import { Button } from "../kit/button";
import { Grow, Quiet } from "../kit/layout";
import { turnOf } from "../kit/turn";
import { Trouble } from "../kit/trouble";
import { longAgo } from "../kit/when";
import { UNDER_WAY } from "./asked";

const Box = styled.section`
  background: var(--g1);
  border-top: 1px solid var(--line);
  margin-top: auto;
  position: sticky;
  bottom: 0;
  padding: 14px 18px;
  display: grid;
  gap: 12px;
  .line {
    display: flex;
    gap: 12px;
    align-items: baseline;
  }
  .parts {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 8px 34px;
  }
  .part {
    display: grid;
    grid-template-columns: 176px 1fr 74px;
    gap: 12px;
    align-items: center;
  }
  .part > span:last-child {
    text-align: right;
    color: var(--t2);
  }
  .bar {
    height: 6px;
    background: var(--g4);
    border-radius: 3px;
    overflow: hidden;
  }
  .bar i {
    display: block;
    height: 6px;
    background: var(--t1);
  }
  .bar.done i {
    background: var(--accent);
  }
`;

export function Running({ project, delivery: d }: { project: number; delivery: Delivery }) {
  const stop = useWrite(
    () => got(server.POST("/api/jobs/{job_id}/cancel", { params: { path: { job_id: d.job.id } } })),
    ["project"],
  );
  const drop = useWrite(
    (part: Plan["parts"][number]) =>
      got(
        server.DELETE("/api/projects/{project_id}/deliveries/{number}/parts/{part}", {
          params: { path: { project_id: project, number: d.number, part } },
        }),
      ),
    ["project"],
  );
  const clips = d.parts.find((p) => p.part === "clips");
  const making = UNDER_WAY.has(d.job.state);
  return (
    <Box aria-label={`Delivery ${d.number} is running`}>
      <div className="line">
        <h2>Delivery {d.number} is running</h2>
        <Quiet>
          started {longAgo(Date.parse(d.made_at))} by {d.made_by} · you may keep on working
        </Quiet>
      </div>
      <div className="parts">
        {d.parts.map((p) => {
          const over = p.done + p.dropped;
          return (
            <div className="part" key={p.part}>
              <span>{p.label}</span>
              <ProgressBar aria-label={p.label} value={over} maxValue={p.total}>
                {({ percentage }) => (
                  <div className={over === p.total ? "bar done" : "bar"}>
                    <i style={{ width: `${percentage ?? 0}%` }} />
                  </div>
                )}
              </ProgressBar>
              <span>
                {p.dropped
                  ? `${p.done}, rest left out`
                  : over === p.total
                    ? `${p.total}, done`
                    : `${p.done} of ${p.total}`}
              </span>
            </div>
          );
        })}
        {d.drop_folder.state ? (
          <div className="part">
            <span>Drop folder</span>
            <span />
            <span>{d.drop_folder.state}</span>
          </div>
        ) : null}
      </div>
      <div className="line">
        <Quiet role="status">{making ? turnOf(d.job) : "putting it into the drop folder"}</Quiet>
        <Grow />
        {making && clips && clips.done + clips.dropped < clips.total ? (
          <Button onPress={() => drop.mutate("clips")}>Leave the clips out</Button>
        ) : null}
        {making ? <Button onPress={() => stop.mutate()}>Stop all</Button> : null}
      </div>
      <Trouble error={stop.error ?? drop.error} />
    </Box>
  );
}
