/** Making a variation of the look that is on the bench. */
import { useState } from "react";
import { got, server } from "../api/client";
import type { LookRecord } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Text } from "../kit/text";
import { Sheet } from "../kit/sheet";
import { Trouble } from "../kit/trouble";
import { useBench } from "./store";
import { Said } from "../kit/layout";

export function VarySheet(props: { look: LookRecord; onClose: () => void; onMade: (id: number) => void }) {
  const [name, setName] = useState(`${props.look.name}, ${props.look.variations.length + 2}`);
  const make = useWrite(
    () =>
      got(
        server.POST("/api/looks/{look_id}/variations", {
          params: { path: { look_id: props.look.id } },
          body: { name, draft: useBench.getState().draft },
        }),
      ),
    ["worked"],
    (made) => props.onMade(made.id),
  );
  return (
    <Sheet title="Make a variation" width={420} onClose={props.onClose}>
      <Said>
        A look of its own that begins as this draft is now, remembers {props.look.name} as its parent, and
        shows how it differs.
      </Said>
      <Text label="Name" value={name} onChange={setName} autoFocus maxLength={120} />
      <Trouble error={make.error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" isDisabled={!name.trim() || make.isPending} onPress={() => make.mutate()}>
          Make it
        </Button>
      </footer>
    </Sheet>
  );
}
