/** Under an intake: how far sending and reading are, what will be kept, and what can be done next. */
import type { Intake } from "../api/types";
import { Button } from "../kit/button";
import { Foot } from "../kit/foot";
import { KeyCap } from "../kit/keycap";
import { Grow, Quiet, Warned } from "../kit/layout";
import { Trouble } from "../kit/trouble";
import { turnOf } from "../kit/turn";
import type { IntakeActs } from "./acts";
import { counts, waiting, willBeKept } from "./judging";
import { useSending } from "./sending";

export function IntakeFoot(props: {
  intake: Intake;
  acts: IntakeActs;
  sending: { done: number; of: number } | null;
  working: boolean;
}) {
  const { intake, acts, sending, working } = props;
  const { error } = useSending();
  const { job, files } = intake;
  const made = intake.project ? "shot" : "frame";
  const many = counts(files);
  const will = files.filter(willBeKept).length;
  const left = files.filter(waiting).length;
  const done = files.length - left;
  const total = sending ? Math.max(files.length + sending.of - sending.done, 1) : Math.max(files.length, 1);
  const busy = working || sending !== null;
  const turn = job && working ? turnOf(job) : "";
  return (
    <Foot>
      {busy ? <progress value={done} max={total} aria-label="How far it is" /> : null}
      <div>
        <div role="status">
          <strong>
            {will} of {many.all} will be kept
          </strong>
          {many.here ? <Quiet>, {many.here} here already</Quiet> : null}
          {many.unread ? <Quiet>, {many.unread} cannot be read</Quiet> : null}
        </div>
        <Quiet>{said(busy, done, files.length, left, turn)}</Quiet>
        {job?.state === "failed" && job.reason ? <Warned role="alert">{job.reason}</Warned> : null}
        {error || acts.error ? <Trouble error={error ?? acts.error} /> : null}
      </div>
      <Grow />
      <Quiet>
        <KeyCap>Space</KeyCap>keep or leave<KeyCap>E</KeyCap>read as
      </Quiet>
      {busy ? (
        <Button isDisabled={acts.stop.isPending} onPress={() => acts.stop.mutate()}>
          Stop
        </Button>
      ) : left ? (
        <Button isDisabled={acts.read.isPending} onPress={() => acts.read.mutate()}>
          Go on reading
        </Button>
      ) : null}
      {busy ? null : (
        <Button isDisabled={acts.drop.isPending} onPress={() => acts.drop.mutate()}>
          Let go of it
        </Button>
      )}
      <Button
        look="main"
        isDisabled={busy || !will || acts.keep.isPending || files.some((f) => waiting(f) && f.chosen)}
        onPress={() => acts.keep.mutate()}
      >
        Keep {will} {will === 1 ? made : `${made}s`}
      </Button>
    </Foot>
  );
}

/** How far it is, in words. */
function said(busy: boolean, done: number, all: number, left: number, turn: string): string {
  if (busy) return `${done} of ${all} read; ${turn ? `${turn}; ` : ""}you may go on working elsewhere`;
  if (left) return `${left} not read yet`;
  return "What is not chosen is let go.";
}
