/** Keeping the draft as a revision. */
import { useState } from "react";
import { got, server } from "../api/client";
import { client } from "../api/queries";
import type { Revision } from "../api/types";
import { Button } from "../kit/button";
import { Text } from "../kit/text";
import { Sheet } from "../kit/sheet";
import { Trouble } from "../kit/trouble";
import { settle } from "./autosave";
import { Said } from "../kit/layout";

export function KeepSheet(props: { id: number; next: number; onClose: () => void; onKept: (r: Revision) => void; onBake: () => void }) {
  const [note, setNote] = useState("");
  const [error, setError] = useState<unknown>(null);
  const keep = async (then: () => void) => {
    try {
      await settle();
      const revision = await got(
        server.POST("/api/looks/{look_id}/revisions", { params: { path: { look_id: props.id } }, body: { note } }),
      );
      props.onKept(revision);
      await client.invalidateQueries({ queryKey: ["look", props.id] });
      await client.invalidateQueries({ queryKey: ["catalogue"] });
      then();
    } catch (problem) {
      setError(problem);
    }
  };
  return (
    <Sheet title={`Keep revision ${props.next}`} width={420} onClose={props.onClose}>
      <Said>A revision never changes. Projects and bakes use revisions, never the moving draft.</Said>
      <Text label="What is new in it" lines={3} value={note} onChange={setNote} autoFocus maxLength={4000} />
      <Trouble error={error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button onPress={() => void keep(props.onBake)}>Keep and bake</Button>
        <Button look="main" onPress={() => void keep(props.onClose)}>
          Keep
        </Button>
      </footer>
    </Sheet>
  );
}
