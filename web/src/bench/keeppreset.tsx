/** Keeps a step as a preset. */
import { useState } from "react";
import { got, server } from "../api/client";
import type { Step } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Sheet } from "../kit/sheet";
import { Switch } from "../kit/switch";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";

export function KeepPreset({ step, onClose }: { step: Step; onClose: () => void }) {
  const [name, setName] = useState(step.label);
  const [note, setNote] = useState("");
  const [shared, setShared] = useState(false);
  const keep = useWrite(
    () =>
      got(server.POST("/api/presets", { body: { name, note, shared, content: { ...step, id: undefined } } })),
    ["presets"],
    onClose,
  );
  return (
    <Sheet title="Keep as preset" width={400} onClose={onClose}>
      <Text label="Name" value={name} onChange={setName} autoFocus maxLength={80} required />
      <Text label="What it is good for" value={note} onChange={setNote} maxLength={300} />
      <Switch label="Share it with the team" on={shared} onChange={setShared} />
      <Trouble error={keep.error} />
      <footer>
        <Button onPress={onClose}>Cancel</Button>
        <Button look="main" isDisabled={!name.trim() || keep.isPending} onPress={() => keep.mutate()}>
          Keep
        </Button>
      </footer>
    </Sheet>
  );
}
