/** What is said of a frame: its name, light and sets, the part that small cards show, and a better file. */
import { useState } from "react";
import { FileTrigger } from "react-aria-components";
import { declared } from "../api/declared";
import { formOf, got, server } from "../api/client";
import type { Frame } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Fields, Quiet } from "../kit/layout";
import { PartChoice } from "../kit/partchoice";
import { Tags } from "../kit/tags";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";
import { White, type Balance } from "../kit/white";

/** Pixels that the picture is shown in at most. */
const ROOM = { width: 290, height: 190 };

export function AboutFrame({ frame }: { frame: Frame }) {
  const [name, setName] = useState(frame.name);
  const [light, setLight] = useState(frame.light);
  const [part, setPart] = useState(frame.part);
  const [greying, setGreying] = useState(false);
  const params = { path: { frame_id: frame.id } };
  const say = useWrite(
    (said: Partial<Pick<Frame, "name" | "light" | "part" | "sets">>) =>
      got(server.PATCH("/api/frames/{frame_id}", { params, body: said })),
    ["frames"],
  );
  const better = useWrite(
    (file: File) => got(server.POST("/api/frames/{frame_id}/file", { params, body: formOf(file) })),
    ["frames"],
  );
  const white = useWrite(
    (said: Balance) => got(server.POST("/api/frames/{frame_id}/white", { params, body: said })),
    ["frames"],
  );
  const grey = useWrite(
    (place: Frame["part"]) => got(server.POST("/api/frames/{frame_id}/grey", { params, body: place })),
    ["frames"],
  );
  return (
    <Fields>
      <Text
        label="Name"
        value={name}
        onChange={setName}
        onDone={() => name.trim() && name !== frame.name && say.mutate({ name: name.trim() })}
        maxLength={120}
      />
      <Text
        label="Light"
        value={light}
        onChange={setLight}
        onDone={() => light !== frame.light && say.mutate({ light: light.trim() })}
        maxLength={40}
      />
      <div>
        <Quiet>Sets</Quiet>
        <Tags
          label="Sets of this frame"
          add="+ set"
          adding="Put it into a set"
          longest={60}
          tags={frame.sets}
          onChange={(sets) => say.mutate({ sets })}
        />
      </div>
      <Quiet>The part that small cards show</Quiet>
      <PartChoice
        name={frame.name}
        source={(width) => `/api/frames/${frame.id}/still?width=${width}&v=${frame.version}`}
        size={frame}
        room={ROOM}
        part={part}
        onMove={setPart}
        onPart={(next) => {
          setPart(next);
          say.mutate({ part: next });
        }}
        onPlace={
          greying
            ? (place) => {
                setGreying(false);
                grey.mutate(place);
              }
            : undefined
        }
      />
      {frame.raw ? (
        <White
          raw={frame.raw}
          greying={greying}
          onGreying={setGreying}
          onWhite={(said) => white.mutate(said)}
          developing={white.isPending || grey.isPending}
        />
      ) : null}
      {frame.clip === null ? (
        <FileTrigger
          acceptedFileTypes={declared.pictures}
          onSelect={(files) => files?.[0] && better.mutate(files[0])}
        >
          <Button isDisabled={better.isPending}>
            {better.isPending ? "Reading …" : "Replace by a better file"}
          </Button>
        </FileTrigger>
      ) : null}
      <Quiet>Looks, trims and notes stay.</Quiet>
      <Trouble error={say.error ?? better.error ?? white.error ?? grey.error} />
    </Fields>
  );
}
