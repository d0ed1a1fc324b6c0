/** Under a cut: what taking it comes to, and the doing; or the lists that go out of one that was taken. */
import styled from "styled-components";
import type { Cut } from "../api/types";
import { Button } from "../kit/button";
import { Foot } from "../kit/foot";
import { KeyCap } from "../kit/keycap";
import { Grow, Quiet, Warned } from "../kit/layout";
import { Trouble } from "../kit/trouble";
import type { CutActs } from "./acts";
import { listOf, taking } from "./asked";
import { countsOf } from "./judging";

const Out = styled.a`
  display: inline-flex;
  align-items: center;
  height: 30px;
  padding: 0 14px;
  border: 1px solid var(--g4);
  border-radius: 15px;
  color: var(--t1);
  text-decoration: none;
  &:hover {
    background: var(--g3);
  }
`;

export function CutFoot(props: { project: number; cut: Cut; acts: CutActs }) {
  const { cut, acts } = props;
  const { job } = cut;
  const busy = taking(cut) || acts.take.isPending;
  return (
    <Foot>
      {busy && job ? (
        <progress value={job.done} max={Math.max(job.total, 1)} aria-label="How far it is" />
      ) : null}
      <div>
        {cut.number === null ? <Comes cut={cut} busy={busy} /> : <Stands cut={cut} />}
        {job?.state === "failed" && cut.number === null ? <Warned role="alert">{job.reason}</Warned> : null}
        <Trouble error={acts.error} />
      </div>
      <Grow />
      {cut.waiting ? (
        <Quiet>
          <KeyCap>N</KeyCap>next that waits
        </Quiet>
      ) : null}
      {cut.number === null ? (
        <>
          <Button isDisabled={busy || acts.drop.isPending} onPress={() => acts.drop.mutate()}>
            Let go of it
          </Button>
          <Button look="main" isDisabled={busy || acts.say.isPending} onPress={() => acts.take.mutate()}>
            {busy ? "Taking it …" : "Take this cut"}
          </Button>
        </>
      ) : (
        <>
          <Quiet>with looks and trims on it</Quiet>
          <Out href={listOf(props.project, cut.id, "otio")} download>
            OpenTimelineIO
          </Out>
          <Out href={listOf(props.project, cut.id, "edl")} download>
            CMX 3600
          </Out>
        </>
      )}
    </Foot>
  );
}

/** What a cut that comes would do. */
function Comes({ cut, busy }: { cut: Cut; busy: boolean }) {
  const { changed, all } = countsOf(cut.changed);
  const doubts = cut.doubts.map((doubt) => `${doubt}. `).join("");
  return (
    <>
      <div role="status">
        <strong>
          {all - changed} stay, {changed} change.
        </strong>{" "}
        <Quiet>Looks and trims stay with their source.</Quiet>
      </div>
      <Quiet>{busy ? "Pictures of new shots are made. " : doubts}Undo brings the cut before it back.</Quiet>
    </>
  );
}

/** Where a cut stands that was taken. */
function Stands({ cut }: { cut: Cut }) {
  return (
    <>
      <div role="status">
        <strong>{cut.current ? "The project follows this cut." : "The project follows another cut."}</strong>
      </div>
      <Quiet>
        Taken by {cut.taken_by}.{" "}
        {cut.aside
          ? `${cut.aside} ${cut.aside === 1 ? "shot is" : "shots are"} laid aside with look and trim.`
          : ""}
      </Quiet>
    </>
  );
}
