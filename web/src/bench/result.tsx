/** The result: frames, the picture in every way it can be held against another, readings and checks. */
import { useEffect, type ComponentProps } from "react";
import styled from "styled-components";
import type { Frame, LookRecord, Trim } from "../api/types";
import { Empty } from "../kit/empty";
import { usePlayer } from "../player/use";
import type { Feed } from "../viewer/live";
import { RUNNING, Running } from "../viewer/running";
import { Strip } from "../viewer/strip";
import { Cells } from "./cells";
import { Checks } from "./checks";
import { FrameDrop } from "./framedrop";
import { Motion } from "./motionbar";
import { useMotion } from "./motion";
import { Scopes } from "./scopes";
import { useSeen } from "./seen";
import { usePointing } from "./usepointing";
import { useView } from "./view";
import { ViewBar } from "./viewbar";

const Column = styled.main`
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding: 10px 16px 10px;
  background: var(--g0);
`;

export function Result(props: {
  record: LookRecord;
  frames: Frame[];
  frame: Frame | null;
  loading: boolean;
  feed: Feed;
  held: boolean;
  surround: string;
  onSurround: (surround: string) => void;
  onChoose: (frame: number) => void;
  trim: Trim | null;
  readOnly: boolean;
  onHelp: () => void;
}) {
  const { record, frames, frame, loading, feed, held, trim, surround, readOnly, onChoose } = props;
  const full = useView((v) => v.full);
  const { player, clip } = usePlayer(frame);
  useEffect(() => {
    useMotion.setState({ player });
    return () => useMotion.setState({ player: null });
  }, [player]);
  const seen = useSeen({ record, frame, loading, feed, held, trim, player });
  const point = usePointing(seen.wish);
  const row = useView((v) => v.row);
  const running = frames.filter((f) => f.clip !== null && f.id !== frame?.id).slice(0, RUNNING);
  const over: ComponentProps<typeof Strip>["over"] = (f, place) =>
    row && player && running.includes(f) ? (
      <Running key={f.id} frame={f} look={seen.draft} leading={player} place={place} />
    ) : null;
  if (!frames.length && !loading)
    return (
      <Column>
        <Empty title="No frames yet">
          Bring in a few reference pictures under Frames: daylight, dusk, night, skin. A look is judged on all
          of them.
        </Empty>
      </Column>
    );
  return (
    <Column>
      {full ? null : (
        <FrameDrop>
          <Strip
            frames={frames}
            chosen={frame?.id ?? null}
            input={seen.look.input}
            feed={feed}
            onChoose={onChoose}
            over={over}
          />
        </FrameDrop>
      )}
      <Cells
        record={record}
        frames={frames}
        frame={frame}
        seen={seen}
        surround={surround}
        readOnly={readOnly}
        onChoose={onChoose}
        onPoint={point}
      />
      <ViewBar
        record={record}
        frames={frames}
        surround={surround}
        onSurround={props.onSurround}
        onHelp={props.onHelp}
      />
      {clip ? (
        <Motion
          clip={clip}
          frame={frame}
          player={player}
          look={seen.draft}
          trim={trim}
          readOnly={readOnly}
          others={running.length > 0}
          onHeld={onChoose}
        />
      ) : null}
      {full ? null : (
        <>
          <Scopes low={!!clip} />
          <Checks draft={seen.draft} frames={frames} readOnly={readOnly} onFrame={onChoose} />
        </>
      )}
    </Column>
  );
}
