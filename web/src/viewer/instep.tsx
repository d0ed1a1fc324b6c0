/** A clip under up to four looks at once, in step: one player, a picture for each. */
import { useMemo } from "react";
import styled from "styled-components";
import type { Frame, Look, Trim } from "../api/types";
import { PlayBar } from "../player/playbar";
import { useClip, type Moving } from "../player/use";
import { useFeed, type Wish } from "./live";
import { Stage } from "./stage";

/** What a picture shows of the clip: itself where there is no look; how far its look is from another one. */
export interface Shown {
  name: string;
  look: Look | null;
  difference?: { from: Look; full: number };
}

const Grid = styled.div`
  display: grid;
  gap: 8px;
  grid-auto-rows: minmax(0, 1fr);
`;
const One = styled.figure`
  display: flex;
  min-height: 0;
  min-width: 0;
  margin: 0;
`;

function Picture(props: { frame: Frame; trim: Trim; moving: Moving | null; shown: Shown }) {
  const { frame, trim, moving, shown } = props;
  const { look, difference } = shown;
  const at = moving?.at;
  const wish = useMemo<Wish>(() => {
    const plain = { look: look ?? { input: frame.encoding, output: frame.encoding, steps: [] } };
    const wanted = { ...plain, strength: 1, trim, frame: frame.id, at, traces: false };
    return difference
      ? { ...wanted, show: "difference", against: difference.from, full: difference.full }
      : wanted;
  }, [look, difference, trim, frame, at]);
  const feed = useFeed(wish);
  return (
    <One aria-label={shown.name}>
      <Stage
        frame={frame}
        input={frame.encoding}
        feed={feed}
        mode={look ? "look" : "original"}
        wish={wish}
        trimmed={false}
        moving={moving}
        tag={shown.name}
      />
    </One>
  );
}

export function InStep(props: {
  frame: Frame;
  trim: Trim;
  /** The frames of the clip that are played; all of them without. */
  range?: { first: number; last: number } | null;
  pictures: readonly Shown[];
  /** How high all of it is, as CSS says it. */
  height: string;
}) {
  const { frame, trim, pictures } = props;
  const { player, moving } = useClip(frame, trim, props.range ?? null);
  const columns = pictures.length === 4 ? 2 : pictures.length;
  return (
    <>
      <Grid style={{ height: props.height, gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}>
        {pictures.map((shown) => (
          <Picture key={shown.name} frame={frame} trim={trim} moving={moving} shown={shown} />
        ))}
      </Grid>
      <PlayBar player={player} />
    </>
  );
}
