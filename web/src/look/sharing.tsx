/** Who changes a look: who made it, or every designer. */
import { got, server } from "../api/client";
import type { LookRecord } from "../api/types";
import { useWrite } from "../api/writes";
import { Quiet } from "../kit/layout";
import { Switch } from "../kit/switch";
import { Trouble } from "../kit/trouble";

export function Sharing({ look }: { look: LookRecord }) {
  const share = useWrite(
    (shared: boolean) =>
      got(server.PATCH("/api/looks/{look_id}", { params: { path: { look_id: look.id } }, body: { shared } })),
    ["look"],
  );
  return (
    <>
      <h2>Who changes it</h2>
      {look.may_share ? (
        <Switch
          label="Every designer, not only its maker"
          on={look.shared}
          disabled={share.isPending}
          onChange={(on) => share.mutate(on)}
        />
      ) : (
        <Quiet>{look.shared ? "every designer" : `${look.maker}, and leads; others make variations`}</Quiet>
      )}
      <Trouble error={share.error} />
    </>
  );
}
