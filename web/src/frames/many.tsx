/** What is done with many frames at once: put into a set, taken out of one, removed. */
import { useState } from "react";
import { got, server } from "../api/client";
import type { Frame } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Foot } from "../kit/foot";
import { Grow, Warned } from "../kit/layout";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";

export function Many(props: { frames: Frame[]; set: string; onDone: () => void }) {
  const { frames, set } = props;
  const [name, setName] = useState("");
  const [kept, setKept] = useState<string[]>([]);
  const ids = frames.map((f) => f.id);
  const sets = useWrite(
    (said: { into?: string; out_of?: string }) =>
      got(server.PATCH("/api/frames", { body: { ids, ...said } })),
    ["frames"],
    props.onDone,
  );
  const away = useWrite(
    () => got(server.POST("/api/frames/removed", { body: { ids } })),
    ["frames", "bin", "people"],
    (stay) => {
      setKept(stay.map(({ id, why }) => `${frames.find((f) => f.id === id)?.name ?? id}: ${why}`));
      if (!stay.length) props.onDone();
    },
  );
  const busy = sets.isPending || away.isPending;
  return (
    <Foot>
      <div>
        <strong role="status">
          {frames.length} {frames.length === 1 ? "frame" : "frames"} chosen
        </strong>
        {kept.map((line) => (
          <Warned key={line} role="alert">
            {line}
          </Warned>
        ))}
        <Trouble error={sets.error ?? away.error} />
      </div>
      <Button look="quiet" onPress={props.onDone}>
        Choose none
      </Button>
      <Grow />
      <Text label="Set" hidden hint="a set, new or there" value={name} onChange={setName} maxLength={60} />
      <Button
        isDisabled={busy || !name.trim()}
        onPress={() => sets.mutate({ into: name.trim().replace(/\s+/g, " ") })}
      >
        Put into it
      </Button>
      {set ? (
        <Button isDisabled={busy} onPress={() => sets.mutate({ out_of: set })}>
          Take out of {set}
        </Button>
      ) : null}
      <Button isDisabled={busy} onPress={() => away.mutate()}>
        Move to the bin
      </Button>
    </Foot>
  );
}
