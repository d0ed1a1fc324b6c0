/**
 * The cards of all looks that were found: only those in sight are drawn, the next ones are fetched before
 * they scroll in.
 */
import type { KeyboardEvent } from "react";
import {
  Collection,
  GridLayout,
  GridList,
  GridListLoadMoreItem,
  Size,
  useDragAndDrop,
  Virtualizer,
} from "react-aria-components";
import styled from "styled-components";
import type { Card, Frame } from "../api/types";
import { LookCard, type Doing } from "./card";

const Keys = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
`;
const List = styled(GridList)`
  flex: 1;
  min-height: 0;
  overflow: auto;
  outline: none;
  /* The layout leaves the room between cards around all of them too. */
  margin: -18px -16px 0;
  padding-top: 2px;
`;

/** How wide a card may be, by how many are to be seen. */
export const DENSITY = { large: 330, middle: 232, small: 158 } as const;
export type Density = keyof typeof DENSITY;
/**
 * Widths that pictures of cards are drawn at; how much wider than least a card becomes where a row is filled.
 */
const WIDTHS = [320, 480, 640];
const STRETCHED = 1.2;

/** The width to draw pictures of cards at, so that none is scaled up on this screen. */
export const drawnAt = (density: Density, screen: number): number =>
  WIDTHS.find((w) => w >= DENSITY[density] * STRETCHED * screen) ?? WIDTHS.at(-1)!;
/** What stands below the picture. */
const ABOUT = 46;

export function Cards(
  props: {
    cards: Card[];
    frame: Frame | null;
    frames: Frame[];
    original: boolean;
    density: Density;
    tray: number[];
    more: boolean;
    onMore: () => void;
    /** Puts a look before another one, or last; only where cards stand in an order by hand. */
    onPlace?: (look: number, before: number | null) => void;
  } & Doing,
) {
  const wide = DENSITY[props.density];
  const small = props.density === "small";
  const pixels = drawnAt(props.density, window.devicePixelRatio);
  const sizes = (width: number) => new Size(width, (width * 9) / 16 + ABOUT);
  const onPlace = props.onPlace;
  const { dragAndDropHooks } = useDragAndDrop({
    isDisabled: !onPlace,
    getItems: (keys) => [...keys].map((key) => ({ "text/plain": String(key) })),
    onReorder: (e) => {
      const [moved] = [...e.keys].map(Number);
      const at = props.cards.findIndex((c) => c.id === Number(e.target.key));
      const before = props.cards[e.target.dropPosition === "before" ? at : at + 1];
      if (moved !== undefined && before?.id !== moved) onPlace?.(moved, before?.id ?? null);
    },
  });
  // L and T on a card, and Alt with an arrow, which moves it in an order by hand: before the list takes
  // letters for the beginning of a name.
  const keys = (e: KeyboardEvent) => {
    if (
      !(e.target instanceof HTMLElement) ||
      e.target.getAttribute("role") !== "row" ||
      e.ctrlKey ||
      e.metaKey
    )
      return;
    const key = e.target.dataset.key;
    const at = props.cards.findIndex((c) => String(c.id) === key);
    const card = props.cards[at];
    const does = { l: props.onLike, t: props.onTray }[e.key.toLowerCase()];
    const way = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
    if (!card) return;
    if (e.altKey && way && onPlace) {
      const before = props.cards[way < 0 ? at - 1 : at + 2];
      if (way > 0 ? at + 1 < props.cards.length : before) onPlace(card.id, before?.id ?? null);
    } else if (does && !e.altKey) does(card);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <Keys onKeyDownCapture={keys}>
      <Virtualizer
        // A list learns only once whether its rows can be moved.
        key={onPlace ? "by hand" : "found"}
        layout={GridLayout}
        layoutOptions={{
          minItemSize: sizes(wide),
          maxItemSize: sizes(wide * 1.9),
          minSpace: new Size(small ? 12 : 16, small ? 16 : 20),
          preserveAspectRatio: false,
        }}
      >
        <List
          aria-label="Looks"
          dragAndDropHooks={onPlace ? dragAndDropHooks : undefined}
          layout="grid"
          keyboardNavigationBehavior="tab"
        >
          <Collection
            items={props.cards}
            dependencies={[
              props.frame,
              props.frames,
              props.original,
              small,
              pixels,
              props.tray,
              props.onTry,
              Boolean(onPlace),
            ]}
          >
            {(card) => (
              <LookCard
                card={card}
                frame={props.frame}
                frames={props.frames}
                original={props.original}
                small={small}
                pixels={pixels}
                inTray={props.tray.includes(card.id)}
                movable={Boolean(onPlace)}
                onTry={props.onTry}
                onLike={props.onLike}
                onTray={props.onTray}
              />
            )}
          </Collection>
          <GridListLoadMoreItem isLoading={props.more} onLoadMore={props.onMore} scrollOffset={2} />
        </List>
      </Virtualizer>
    </Keys>
  );
}
