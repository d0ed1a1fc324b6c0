/** One frame, large: its own trim, and what is said of it. */
import { useMemo, useState } from "react";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useEncodingLabel } from "../api/queries";
import type { Frame, Trim } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Sheet } from "../kit/sheet";
import { ToBin } from "../kit/tobin";
import { Trouble } from "../kit/trouble";
import { useFeed, useTrouble, type Wish } from "../viewer/live";
import { Stage } from "../viewer/stage";
import { TrimFields } from "./trimfields";
import { Grow, Said } from "../kit/layout";
import { Segments } from "../kit/segments";
import { AboutFrame } from "./aboutframe";

const Layout = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  gap: 20px;
  height: min(66vh, 560px);
`;
const Left = styled.div`
  display: flex;
  min-width: 0;
  min-height: 0;
`;
const Right = styled.div`
  display: flex;
  flex-direction: column;
  gap: 8px;
  overflow-y: auto;
  padding-right: 4px;
`;

type Side = "trim" | "about";
const SIDES = [
  ["trim", "Trim"],
  ["about", "Name, sets, file"],
] as const;

export function TrimSheet({ frame, onClose }: { frame: Frame; onClose: () => void }) {
  const [trim, setTrim] = useState<Trim>(frame.trim);
  const [side, setSide] = useState<Side>("trim");
  const label = useEncodingLabel();
  const wish = useMemo<Wish>(
    () => ({
      look: { input: frame.encoding, output: frame.encoding, steps: [] },
      trim,
      frame: frame.id,
      traces: false,
    }),
    [frame, trim],
  );
  const feed = useFeed(wish);
  const trouble = useTrouble(feed);
  const params = { path: { frame_id: frame.id } };
  const keep = useWrite(
    () => got(server.PATCH("/api/frames/{frame_id}", { params, body: { trim } })),
    ["frames"],
    onClose,
  );
  return (
    <Sheet
      title={frame.name}
      note={`${label(frame.encoding)}, ${frame.kind} ${frame.depth}`}
      width={1060}
      onClose={onClose}
    >
      <Layout>
        <Left>
          <Stage frame={frame} input={frame.encoding} feed={feed} mode="look" wish={wish} trimmed={false} />
        </Left>
        <Right>
          <Segments
            label="What is shown of the frame"
            chosen={side}
            onChange={setSide}
            options={SIDES}
            stretch
          />
          {side === "about" ? (
            <AboutFrame frame={frame} />
          ) : (
            <>
              <h2>Trim of this frame</h2>
              <Said>
                Done before any look, so that looks are judged on a normal picture. New shots start from it.
              </Said>
              <TrimFields trim={trim} onChange={setTrim} />
              <Trouble error={keep.error ?? trouble} />
            </>
          )}
          <Grow />
          <ToBin
            what="frame"
            remove={() => got(server.DELETE("/api/frames/{frame_id}", { params }))}
            stale={["frames"]}
            onGone={onClose}
          />
          {side === "trim" ? (
            <Button look="main" onPress={() => keep.mutate()}>
              Keep trim
            </Button>
          ) : null}
        </Right>
      </Layout>
    </Sheet>
  );
}
