/**
 * Borrowed tables and looks of the catalogue as lines to choose from: on the frame that looks are shown on,
 * with what they do.
 */
import { useQuery } from "@tanstack/react-query";
import { asked, useEncodingLabel, useLuts } from "../../api/queries";
import type { BorrowedLut, Card, Look } from "../../api/types";
import { useShownFrame } from "../../kit/frame";
import { saucerOf } from "../../kit/saucer";
import type { Pickable } from "./picker";

/** Width of the frame in a line, twice as many pixels as it is wide. */
const WIDTH = 160;

/** `seen` gives the draft with that table in it. */
export function useTablesToPick(seen: (lut: BorrowedLut) => Look | Promise<Look>): Pickable[] {
  const { data: luts = [] } = useLuts();
  const { data: words = {} } = useQuery(asked.lutWords);
  const { frame } = useShownFrame();
  const label = useEncodingLabel();
  return luts.map((lut) => {
    const mark = `${lut.digest.slice(0, 8)}.${lut.expects}.${lut.gives}`;
    return {
      key: lut.digest,
      name: lut.name,
      note: `${lut.size ? `${lut.size}³ · ` : ""}${label(lut.expects)} → ${label(lut.gives)}`,
      more: [words[lut.digest]?.slice(0, 3).join(", "), lut.rights].filter(Boolean).join(" · "),
      saucer: `/api/luts/${lut.id}/saucer?size=68&v=${mark}`,
      picture: frame
        ? `/api/luts/${lut.id}/still?frame=${frame.id}&width=${WIDTH}&v=${mark}.${frame.version}`
        : undefined,
      seen: () => Promise.resolve(seen(lut)),
    };
  });
}

/** `seen` gives the draft with that look in it. */
export function useLooksToPick(cards: Card[], seen: (card: Card) => Promise<Look>): Pickable[] {
  const { frame } = useShownFrame();
  const label = useEncodingLabel();
  return cards.map((card) => {
    const { revision } = card;
    return {
      key: String(revision.id),
      name: card.name,
      note: `${label(revision.input)} → ${label(revision.output)}`,
      more: [`r${revision.number}, ${revision.status}`, card.tags.join(", ")].filter(Boolean).join(" · "),
      saucer: saucerOf(revision, 68),
      picture: frame
        ? `/api/revisions/${revision.id}/still?frame=${frame.id}&width=${WIDTH}&v=${revision.digest.slice(0, 8)}${frame.version}`
        : undefined,
      seen: () => seen(card),
    };
  });
}
