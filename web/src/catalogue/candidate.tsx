/**
 * One of the looks that are held side by side: large, live, in the way that all are seen, with what it makes
 * of a spot.
 */
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { asked } from "../api/queries";
import type { Card, Frame, Place, Probed } from "../api/types";
import { Button } from "../kit/button";
import { Grow, Quiet } from "../kit/layout";
import { Saucer, saucerOf } from "../kit/saucer";
import { useFeed, type Wish } from "../viewer/live";
import { ofMoving, type Moving } from "../player/use";
import type { MaskName } from "../viewer/mask";
import { Stage, type Mode, type Other } from "../viewer/stage";
import type { Zoom } from "../viewer/zoom";
import type { Way } from "./ways";

/** ΔE that a difference shows as white; points a side of the table that *as baked* goes through. */
const FULL = 10;
const GRID = 33;

const Box = styled.article`
  display: flex;
  flex-direction: column;
  gap: 6px;
  min-height: 0;
  min-width: 0;
  .about {
    display: flex;
    align-items: center;
    gap: 10px;
    min-width: 0;
  }
  .about a {
    font-weight: 600;
    text-decoration: none;
    white-space: nowrap;
  }
  .about > span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  output {
    display: flex;
    align-items: center;
    gap: 6px;
    font-variant-numeric: tabular-nums;
    white-space: nowrap;
    font-size: 12.5px;
  }
  output i {
    width: 12px;
    height: 12px;
    border-radius: 3px;
  }
`;

const codes = (spot: Probed["after"]) => spot.eight.join(" ");

export function Candidate(props: {
  card: Card;
  frame: Frame;
  way: Way;
  /** The look it is held against; none: the original. */
  against: Card | null;
  mask: MaskName | "";
  /** The clip that plays in place of the frame. */
  moving: Moving | null;
  zoom: Zoom;
  onZoom: (zoom: Zoom) => void;
  spot: Place | null;
  onPoint: (at: Place | null, pressed: boolean) => void;
  onKeep: () => void;
}) {
  const { card, frame, way, spot, moving } = props;
  const other = props.against && props.against.id !== card.id ? props.against : null;
  const look = useQuery(asked.recipe(card.revision.id)).data ?? null;
  const otherLook =
    useQuery({ ...asked.recipe(other?.revision.id ?? 0), enabled: other !== null }).data ?? null;
  const live = useMemo<Wish | null>(
    () => (look ? { look, frame: frame.id, traces: false, ...ofMoving(moving) } : null),
    [look, frame.id, moving],
  );
  const wish = useMemo<Wish | null>(() => {
    if (!live) return null;
    if (way === "difference") return { ...live, show: "difference", against: otherLook, full: FULL };
    if (way === "baked") return { ...live, show: "baked", grid: GRID, interpolation: "tetrahedral" };
    return live;
  }, [live, way, otherLook]);
  // Over a clip the table shows a difference or a bake, too.
  const feed = useFeed(moving ? wish : live);
  const otherWish = useMemo<Wish | null>(
    () =>
      way === "split" && otherLook
        ? { look: otherLook, frame: frame.id, traces: false, ...ofMoving(moving) }
        : null,
    [way, otherLook, frame.id, moving],
  );
  const otherFeed = useFeed(otherWish);
  const held = useMemo<Other | null>(
    () =>
      otherWish && other
        ? { feed: otherFeed, wish: otherWish, input: otherWish.look.input, name: other.name }
        : null,
    [otherWish, otherFeed, other],
  );
  const read = useQuery({
    queryKey: ["probe", card.revision.id, frame.id, frame.version, moving?.at, spot?.x, spot?.y],
    queryFn: () => got(server.POST("/api/probe", { body: { ...live!, spot: spot! } })),
    enabled: live !== null && spot !== null,
    placeholderData: (last) => last,
  });
  const found = spot ? read.data : undefined;
  const mode: Mode = way === "original" || way === "split" ? way : "look";
  const spots = useMemo(() => (spot ? [spot] : []), [spot]);
  return (
    <Box aria-label={card.name}>
      <Stage
        frame={frame}
        input={card.revision.input}
        feed={feed}
        mode={mode}
        wish={wish}
        name={card.name}
        other={held}
        moving={moving}
        zoom={props.zoom}
        onZoom={props.onZoom}
        onPoint={props.onPoint}
        mask={props.mask}
        spots={spots}
        tag={
          way === "difference"
            ? `from ${other?.name ?? "the original"}, white is ΔE ${FULL}`
            : way === "baked"
              ? `${GRID}³`
              : undefined
        }
      />
      <div className="about">
        <Saucer src={saucerOf(card.revision)} size={34} />
        <Link to={`/catalogue/look/${card.id}`}>{card.name}</Link>
        <span>
          <Quiet>{card.words.slice(0, 4).join(", ")}</Quiet>
        </span>
        <Grow />
        {found ? (
          <output aria-label={`Spot under ${card.name}, 8-bit`} title="8-bit, before and under the look">
            <i style={{ background: found.before.css }} /> {codes(found.before)} →{" "}
            <i style={{ background: found.after.css }} /> {codes(found.after)}
          </output>
        ) : null}
        <Button onPress={props.onKeep}>Keep this one</Button>
      </div>
    </Box>
  );
}
