/** Keeping the draft as a revision. */
import { useState } from "react";
import { got, server } from "../api/client";
import type { Revision } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Text } from "../kit/text";
import { Sheet } from "../kit/sheet";
import { Trouble } from "../kit/trouble";
import { settle } from "./autosave";
import { Said } from "../kit/layout";

export function KeepSheet(props: {
  id: number;
  next: number;
  onClose: () => void;
  onBake: (r: Revision) => void;
}) {
  const [note, setNote] = useState("");
  const keep = useWrite(async () => {
    await settle();
    return got(
      server.POST("/api/looks/{look_id}/revisions", {
        params: { path: { look_id: props.id } },
        body: { note },
      }),
    );
  }, ["look", "catalogue"]);
  return (
    <Sheet title={`Keep revision ${props.next}`} width={420} onClose={props.onClose}>
      <Said>A revision never changes. Projects and bakes use revisions, never the moving draft.</Said>
      <Text label="What is new in it" lines={3} value={note} onChange={setNote} autoFocus maxLength={4000} />
      <Trouble error={keep.error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button
          isDisabled={keep.isPending}
          onPress={() => keep.mutate(undefined, { onSuccess: (revision) => props.onBake(revision) })}
        >
          Keep and bake
        </Button>
        <Button
          look="main"
          isDisabled={keep.isPending}
          onPress={() => keep.mutate(undefined, { onSuccess: props.onClose })}
        >
          Keep
        </Button>
      </footer>
    </Sheet>
  );
}
