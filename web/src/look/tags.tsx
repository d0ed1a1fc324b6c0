/** The tags of a look, changed in place. */
import { useState } from "react";
import { got, server } from "../api/client";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Quiet } from "../kit/layout";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";

export function Tags(props: { look: number; tags: string[]; may: boolean }) {
  const [text, setText] = useState<string | null>(null);
  const put = useWrite(
    () =>
      got(
        server.PUT("/api/catalogue/{look_id}/tags", {
          params: { path: { look_id: props.look } },
          body: { tags: (text ?? "").split(",") },
        }),
      ),
    ["catalogue"],
    () => setText(null),
  );
  if (text === null) {
    return (
      <div>
        <Quiet>{props.tags.join(", ") || "no tags"}</Quiet>
        {props.may ? (
          <Button look="quiet" onPress={() => setText(props.tags.join(", "))}>
            change tags
          </Button>
        ) : null}
      </div>
    );
  }
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        put.mutate();
      }}
    >
      <Text
        label="Tags, with commas between"
        hidden
        hint="tags, with commas between"
        value={text}
        onChange={setText}
        maxLength={500}
        autoFocus
      />
      <Trouble error={put.error} />
    </form>
  );
}
