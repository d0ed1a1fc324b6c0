/** Under the picture of a clip: what it is played by, or how far its proxy is. */
import styled from "styled-components";
import { got, server } from "../api/client";
import type { Clip, Frame, Look, Trim } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Switch } from "../kit/switch";
import { Trouble } from "../kit/trouble";
import { Fields } from "../player/fields";
import type { Player } from "../player/player";
import { Scrubber, Transport } from "../player/transport";
import { useMeasuring } from "./overtime";
import { useMeaning } from "./meaning";
import { TimeLines } from "./timelines";
import { useView } from "./view";

const Waits = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  color: var(--t2);
  font-size: 12px;
  min-height: 28px;
`;

/** How far the proxy is, and what can be done where it was stopped. */
function Making({ clip }: { clip: Clip }) {
  const again = useWrite(
    () => got(server.POST("/api/clips/{clip_id}/proxy", { params: { path: { clip_id: clip.id } } })),
    ["clips"],
  );
  const job = clip.proxy_job;
  const under = job?.state === "waiting" || job?.state === "running";
  return (
    <Waits role="status">
      {under ? (
        <>
          The clip is made to play: {job.done} of {job.total} parts
          {job.doing ? `, ${job.doing}` : ""}. Until then it shows as a still.
        </>
      ) : (
        <>
          {job?.reason || "The clip has not been made to play yet."}
          <Button onPress={() => again.mutate()} isDisabled={again.isPending}>
            Make it play
          </Button>
        </>
      )}
      <Trouble error={again.error} />
    </Waits>
  );
}

export function Motion(props: {
  clip: Clip;
  frame: Frame | null;
  player: Player | null;
  look: Look;
  trim: Trim | null;
  readOnly: boolean;
  /** Whether there are other clips in the row of frames. */
  others: boolean;
  onHeld: (frame: number) => void;
}) {
  const { clip, frame, player, look, trim, onHeld } = props;
  const row = useView((v) => v.row);
  const meaning = useMeaning(frame);
  useMeasuring(frame, look, trim, clip.plays && clip.proxy_job?.state === "done", meaning.meant);
  const hold = useWrite(
    (number: number) => got(server.POST("/api/clips/held", { body: { frame: frame!.id, number } })),
    ["frames"],
    (made) => onHeld(made.id),
  );
  if (!clip.plays)
    return (
      <>
        <Fields clip={clip} />
        <Making clip={clip} />
      </>
    );
  if (!player) return null;
  return (
    <div>
      <Transport
        player={player}
        said={
          <>
            <Fields clip={clip} />
            {props.others ? (
              <Switch label="Row runs" on={row} onChange={(on) => useView.setState({ row: on })} />
            ) : null}
          </>
        }
        onHold={(number) => hold.mutate(number)}
      />
      <Scrubber player={player} />
      {frame ? (
        <TimeLines
          player={player}
          frame={frame}
          look={look}
          trim={trim}
          readOnly={props.readOnly}
          meaning={meaning}
        />
      ) : null}
      <Trouble error={hold.error ?? meaning.error} />
    </div>
  );
}
