/** Under a pack: how far work on it is, what will be kept, and what can be done next. */
import type { Pack } from "../api/types";
import { Button } from "../kit/button";
import { Foot } from "../kit/foot";
import { KeyCap } from "../kit/keycap";
import { Grow, Quiet, Warned } from "../kit/layout";
import { Trouble } from "../kit/trouble";
import { turnOf } from "../kit/turn";
import { counts, unread, willBeKept } from "./judging";
import type { PackActs } from "./packacts";

/** How far the pack is, or what will be kept of it. */
function Told({ pack, working, will }: { pack: Pack; working: boolean; will: number }) {
  const { job } = pack;
  const many = counts(pack.items);
  const kept = pack.items.filter((i) => i.kept).length;
  return (
    <div role="status">
      {working ? (
        <strong>
          {pack.stage === "reading" ? "Reading" : "Keeping"} {job?.done ?? 0} of {job?.total ?? 0}
        </strong>
      ) : (
        <strong>
          {will} of {many.all} will be kept
        </strong>
      )}
      {many.twins ? <Quiet>, {many.twins} twins</Quiet> : null}
      {pack.items.some(unread) ? <Quiet>, {many.unread} cannot be read</Quiet> : null}
      {kept ? <Quiet>, {kept} kept already</Quiet> : null}
    </div>
  );
}

/** error: of files that are sent. */
export function PackFoot(props: { pack: Pack; acts: PackActs; working: boolean; error: unknown }) {
  const { pack, acts, working } = props;
  const { job } = pack;
  const will = pack.items.filter(willBeKept).length;
  const nameless = !acts.about.shown.origin.trim();
  const error = props.error ?? acts.error;
  const turn = job ? turnOf(job) : "";
  return (
    <Foot>
      {working && job ? (
        <progress value={job.done} max={Math.max(job.total, 1)} aria-label="How far it is" />
      ) : null}
      <div>
        <Told pack={pack} working={working} will={will} />
        {working ? <Quiet>{turn ? `${turn}; ` : ""}you may go on working elsewhere</Quiet> : null}
        {job?.state === "failed" && job.reason ? <Warned role="alert">{job.reason}</Warned> : null}
        {error ? <Trouble error={error} /> : null}
      </div>
      <Grow />
      {!working && will && nameless ? (
        <Quiet>To keep them, say where they come from.</Quiet>
      ) : (
        <Quiet>
          <KeyCap>Space</KeyCap>keep or leave<KeyCap>E</KeyCap>encodings
        </Quiet>
      )}
      {working ? (
        <Button isDisabled={acts.stop.isPending} onPress={() => acts.stop.mutate()}>
          Stop
        </Button>
      ) : (
        <Button isDisabled={acts.drop.isPending} onPress={() => acts.drop.mutate()}>
          Let go of it
        </Button>
      )}
      <Button
        look="main"
        isDisabled={working || !will || acts.keep.isPending || nameless}
        onPress={() => acts.keep.mutate()}
      >
        Keep {will} {will === 1 ? "look" : "looks"}
      </Button>
    </Foot>
  );
}
