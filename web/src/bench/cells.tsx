/** The pictures of the bench: one, several frames under the draft, or the draft beside other looks. */
import { useMemo, type CSSProperties } from "react";
import styled from "styled-components";
import type { Frame, Place } from "../api/types";
import { Button } from "../kit/button";
import { ofMoving, type Moving } from "../player/use";
import { useFeed, type Wish } from "../viewer/live";
import { Stage } from "../viewer/stage";
import type { Zoom } from "../viewer/zoom";
import type { Seen } from "./seen";
import { useBench } from "./store";
import { useView, view, type Rival } from "./view";

/** Pixels between two pictures. */
const GAP = 6;

const Wall = styled.div`
  flex: 1;
  min-height: 0;
  display: grid;
  gap: ${GAP}px;
`;
const Cell = styled.div`
  display: flex;
  min-width: 0;
  min-height: 0;
  position: relative;
  flex-direction: column;
  gap: 4px;
`;
const Name = styled.header`
  display: flex;
  align-items: center;
  gap: 6px;
  color: var(--t2);
  font-size: 12px;
  min-height: 22px;
  b {
    flex: 1;
    font-weight: 500;
    color: var(--t1);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  button {
    height: 22px;
    font-size: 12px;
  }
`;

/** What all pictures have in common. */
type Common = Pick<
  Parameters<typeof Stage>[0],
  "surround" | "zoom" | "onZoom" | "onPoint" | "spots" | "picking"
>;
const zoomTo = (zoom: Zoom) => view({ zoom });

/**
 * So many pictures in a landscape place, each on whole pixels: half a pixel off, and the browser blurs what
 * it shows.
 */
function wall(count: number): CSSProperties {
  const columns = count <= 1 ? 1 : count <= 4 ? 2 : 3;
  const share = (of: number) => `repeat(${of}, round(down, calc((100% - ${(of - 1) * GAP}px) / ${of}), 1px))`;
  return { gridTemplateColumns: share(columns), gridTemplateRows: share(Math.ceil(count / columns)) };
}

/** Goes on with another look in place of the draft. */
function goOn(rival: Rival) {
  const { look } = rival;
  if (!look) return;
  useBench.getState().change(`Go on with ${rival.name}`, () => look);
  view({ rivals: useView.getState().rivals.filter((r) => r.key !== rival.key), show: "look" });
}

/** Another look beside the draft, live from its own table; or another frame as it is. */
function RivalCell(props: {
  rival: Rival;
  frame: Frame;
  readOnly: boolean;
  common: Common;
  moving: Moving | null;
}) {
  const { rival, frame, common } = props;
  const moving = rival.look ? props.moving : null;
  const wish = useMemo<Wish | null>(
    () => (rival.look ? { look: rival.look, frame: frame.id, traces: false, ...ofMoving(moving) } : null),
    [rival, frame.id, moving],
  );
  const feed = useFeed(wish);
  const own: Common = rival.look ? common : { ...common, spots: undefined, onPoint: undefined };
  return (
    <Cell>
      <Name>
        <b>{rival.name}</b>
        {rival.look && !props.readOnly ? (
          <Button look="quiet" onPress={() => goOn(rival)}>
            Go on with this
          </Button>
        ) : null}
        <Button
          look="icon"
          aria-label={`Take ${rival.name} away`}
          onPress={() => view({ rivals: useView.getState().rivals.filter((r) => r.key !== rival.key) })}
        >
          ✕
        </Button>
      </Name>
      <Stage
        frame={frame}
        input={rival.look?.input ?? frame.encoding}
        feed={feed}
        mode={rival.look ? "look" : "original"}
        wish={wish}
        tag={rival.look ? undefined : "reference"}
        moving={moving}
        {...own}
      />
    </Cell>
  );
}

/** One of several frames, all under the draft. */
function Tile(props: {
  frame: Frame;
  seen: Seen;
  chosen: boolean;
  common: Common;
  onChoose: (id: number) => void;
}) {
  const { frame, seen, common, chosen } = props;
  const moving = chosen ? seen.moving : null;
  const { feed, main } = moving ? seen : seen.still;
  const own = useMemo<Wish | null>(() => (main ? { ...main, frame: frame.id } : null), [main, frame.id]);
  return (
    <Cell>
      <Stage
        frame={frame}
        input={seen.draft.input}
        feed={feed}
        mode={seen.mode}
        wish={own}
        moving={moving}
        {...common}
        spots={chosen ? common.spots : undefined}
        onPoint={chosen ? common.onPoint : (_, pressed) => pressed && props.onChoose(frame.id)}
        tag={frame.name}
      />
    </Cell>
  );
}

/** What is written on the picture where it is not the look as it is. */
function useTag({ mode, against }: Seen): string | undefined {
  const { show, grid, interpolation, white, preview } = useView();
  if (mode !== "look") return undefined;
  if (show === "baked") return `as baked, ${grid}³ ${interpolation}`;
  if (show === "difference")
    return `difference from ${against?.name ?? "the original"}, white at ΔE ${white}`;
  return preview?.name ? `shown, not taken: ${preview.name}` : undefined;
}

/** The frames that are shown at once, from the chosen one on. */
function tiled(frames: Frame[], frame: Frame | null, count: number): Frame[] {
  const first = Math.max(
    0,
    frames.findIndex((f) => f.id === frame?.id),
  );
  return count > 1 ? Array.from({ length: count }, (_, k) => frames[(first + k) % frames.length]!) : [];
}

export function Cells(props: {
  record: { name: string };
  frames: Frame[];
  frame: Frame | null;
  seen: Seen;
  surround: string;
  readOnly: boolean;
  onChoose: (id: number) => void;
  onPoint: (at: Place | null, pressed: boolean) => void;
}) {
  const { frames, frame, seen, surround, readOnly, onPoint } = props;
  const { show, tiles, down, rivals, zoom, mask, spots, picking } = useView();
  const tag = useTag(seen);
  const common: Common = { surround, zoom, onZoom: zoomTo, onPoint, spots, picking: !!picking };
  const several = tiled(frames, frame, Math.min(Number(tiles), frames.length));
  const beside = show === "beside" && rivals.length > 0;
  const main = {
    ...{ frame, feed: seen.feed, mode: seen.mode, wish: seen.main, trimmed: !seen.trimming, mask },
    moving: seen.moving,
    ...common,
  };
  if (frame && beside)
    return (
      <Wall style={wall(rivals.length + 1)}>
        <Cell>
          <Name>
            <b>{props.record.name}, this draft</b>
          </Name>
          <Stage input={seen.draft.input} {...main} />
        </Cell>
        {rivals.map((r) => (
          <RivalCell
            key={r.key}
            rival={r}
            frame={frames.find((f) => f.id === r.frame) ?? frame}
            readOnly={readOnly}
            common={common}
            moving={seen.moving}
          />
        ))}
      </Wall>
    );
  if (several.length && show !== "split" && !seen.trimming)
    return (
      <Wall style={wall(several.length)}>
        {several.map((f) => (
          <Tile
            key={f.id}
            frame={f}
            seen={seen}
            chosen={f.id === frame?.id}
            common={common}
            onChoose={props.onChoose}
          />
        ))}
      </Wall>
    );
  const input = seen.trimming && frame ? frame.encoding : seen.look.input;
  return <Stage input={input} other={seen.other} down={down} tag={tag} {...main} />;
}
