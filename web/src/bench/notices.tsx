/** What stands above the bench: who else is at the draft, and why something cannot be done. */
import type { DraftPresence, LookRecord } from "../api/types";
import { useMe } from "../api/queries";
import { Button } from "../kit/button";
import { Notice } from "../kit/notice";
import { decide } from "./autosave";
import { useBench } from "./store";

/** trouble: why the draft cannot be computed. */
export function Notices(props: {
  look: LookRecord;
  presence: DraftPresence | null;
  trouble: string;
  onVary: () => void;
  onTake: () => void;
}) {
  const { look, presence, trouble, onVary, onTake } = props;
  const { data: me } = useMe();
  const late = useBench((s) => s.late);
  const vary = <Button onPress={onVary}>Work on a variation</Button>;
  return (
    <>
      {late ? (
        <Notice
          actions={
            <>
              <Button onPress={() => void decide(false)}>Go on with theirs</Button>
              <Button look="main" onPress={() => void decide(true)}>
                Go on with mine
              </Button>
            </>
          }
        >
          {late.message}
        </Notice>
      ) : null}
      {presence && !presence.mine ? (
        <Notice
          actions={
            <>
              {vary}
              <Button onPress={onTake}>Take over</Button>
            </>
          }
        >
          {presence.holder} is working on this draft. You see it as it is kept, and change nothing in it.
        </Notice>
      ) : null}
      {look.may_edit ? null : me?.may_design ? (
        <Notice actions={vary}>
          {look.maker} made this look and has not shared it. Try it, and work on a variation of it.
        </Notice>
      ) : (
        <Notice>You can look at this look and try it; changing it is for look designers.</Notice>
      )}
      {trouble ? <Notice>{trouble}</Notice> : null}
    </>
  );
}
