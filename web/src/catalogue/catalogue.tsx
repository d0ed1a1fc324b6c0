/** The catalogue: every look on your frame, as cards or on a map. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useDrop } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useMe } from "../api/queries";
import type { Card } from "../api/types";
import { dropped } from "../kit/gather";
import { useSending } from "../bringin/send";
import { Button } from "../kit/button";
import { Empty } from "../kit/empty";
import { useShownFrame } from "../kit/frame";
import { useFrameKeys } from "../kit/framekeys";
import { Grow } from "../kit/layout";
import { Page, TopBar } from "../kit/topbar";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { Aside } from "./aside";
import { catalogueChanged, useFilterValues, usePages } from "./asked";
import { Cards, type Density } from "./cards";
import { CatalogueTools } from "./cataloguetools";
import { askedOfCollection, CollectionBar } from "./collectionbar";
import { filtersOf, useFilters, type Filters } from "./filters";
import { LookMap } from "./map";
import { NewLook } from "./newlook";
import { Tray, useTray } from "./tray";
import { TryOut } from "./tryout";

const Body = styled.div`
  position: relative;
  flex: 1;
  min-height: 0;
  display: flex;
`;
const Looks = styled.div`
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
  main {
    flex: 1;
    min-width: 0;
    display: flex;
    flex-direction: column;
    padding: 14px 18px 0;
  }
`;

/** What misspelt words were taken for. */
const Nearly = styled.p`
  flex: none;
  margin: -4px 0 12px;
  color: var(--t2);
`;

/** Over the page while files are held over it or sent. */
const Over = styled.div`
  position: absolute;
  inset: 12px;
  border: 2px dashed var(--accent);
  border-radius: 12px;
  background: var(--veil);
  display: grid;
  place-items: center;
  font-size: 16px;
  z-index: 5;
`;

/** Says when H, which was held, is let go. */
function useLetGo(hold: (held: boolean) => void) {
  useEffect(() => {
    const up = (e: KeyboardEvent) => e.key.toLowerCase() === "h" && hold(false);
    window.addEventListener("keyup", up);
    return () => window.removeEventListener("keyup", up);
  }, [hold]);
}

/** The order that a collection was given by hand, where it can be changed. */
function useByHand(by: Filters) {
  const { data: me } = useMe();
  const name = by.get("collection");
  const { data: collection } = useQuery(askedOfCollection(name));
  const order = useMutation({
    mutationFn: (looks: number[]) =>
      got(
        server.PUT("/api/collections/{name}/looks", {
          params: { path: { name } },
          body: { looks, version: collection!.version },
        }),
      ),
    onSettled: catalogueChanged,
  });
  const changed = me?.may_design && by.get("order") === "by hand" && collection && !collection.search;
  const place = (look: number, before: number | null) => {
    const others = collection!.looks.filter((id) => id !== look);
    const at = before === null ? others.length : others.indexOf(before);
    order.mutate([...others.slice(0, at), look, ...others.slice(at)]);
  };
  return { place: changed ? place : undefined, error: order.error };
}

/** One's favourites, the tray, and the look that is tried. */
function useCardActs() {
  const tray = useTray();
  const [trying, setTrying] = useState<{ card: Card; strength: number } | null>(null);
  const like = useMutation({
    mutationFn: (card: Card) =>
      got(
        server.PUT("/api/catalogue/{look_id}/favourite", {
          params: { path: { look_id: card.id } },
          body: { likes: !card.favourite },
        }),
      ),
    onSuccess: catalogueChanged,
  });
  const likes = like.mutate;
  const turn = tray.turn;
  const onLike = useCallback((card: Card) => likes(card), [likes]);
  const onTray = useCallback((card: Card) => turn(card.id), [turn]);
  const onTry = useCallback((card: Card, strength: number) => setTrying({ card, strength }), []);
  return { on: { onLike, onTray, onTry }, tray, trying, away: () => setTrying(null), error: like.error };
}

/** What makes looks: a pack, a file that goes out, another program's look, a new one. */
function Makers({ onNew }: { onNew: () => void }) {
  const navigate = useNavigate();
  const { data: me } = useMe();
  if (!me?.may_design) return null;
  return (
    <>
      <Button onPress={() => void navigate("/catalogue/bring-in")}>Bring in</Button>
      <Button onPress={() => void navigate("/catalogue/pack-out")}>Pack out</Button>
      <Button onPress={() => void navigate("/catalogue/carry")}>Carry over</Button>
      <Button look="main" onPress={onNew}>
        New look
      </Button>
    </>
  );
}

/** How many looks are found, in words. */
function counted(first: { found: number; total: number } | undefined, narrowed: boolean): string {
  if (!first) return "";
  const total = `${first.total.toLocaleString("en")} looks`;
  return narrowed ? `${first.found.toLocaleString("en")} of ${total}` : total;
}

export default function Catalogue() {
  const by = useFilters();
  const view = by.get("view") === "map" ? "map" : "cards";
  const pages = usePages(by.query);
  const filterValues = useFilterValues(by.query);
  const { data: me } = useMe();
  const [starting, setStarting] = useState(false);
  const [density, setDensity] = useState<Density>("middle");
  const [original, setOriginal] = useState(false);
  const acts = useCardActs();
  const byHand = useByHand(by);
  useEffect(() => {
    document.title = "Catalogue · Saucer";
  }, []);
  const { all, frame, show: keep } = useShownFrame(by.search.get("frame"));
  const show = (id: number) => {
    keep(id);
    by.put("frame", String(id));
  };
  useFrameKeys(all, frame, show, (e) => {
    const held = e.key.toLowerCase() === "h";
    if (held) setOriginal(true);
    return held;
  });
  useLetGo(setOriginal);
  const place = useRef<HTMLDivElement>(null);
  const sending = useSending(frame?.id);
  const { dropProps, isDropTarget } = useDrop({
    ref: place,
    isDisabled: !me?.may_design,
    onDrop: (e) => void dropped(e.items).then((files) => sending.send(files)),
  });
  const cards = useMemo(() => pages.data?.pages.flatMap((p) => p.cards) ?? [], [pages.data]);
  const first = pages.data?.pages[0];
  const taken = Object.entries(filterValues.data?.taken_for ?? {}).map(
    ([word, known]) => `No look holds “${word}”. Nearest to it: ${known.slice(0, 3).join(", ")}.`,
  );
  return (
    <Page>
      <TopBar>
        <Grow />
        <Makers onNew={() => setStarting(true)} />
      </TopBar>
      <Body ref={place} {...dropProps}>
        {isDropTarget || sending.sent ? (
          <Over role="status">
            {sending.sent
              ? `Sending ${sending.sent.done} of ${sending.sent.of} files …`
              : "Drop to bring in. Nothing is kept yet."}
          </Over>
        ) : null}
        <Aside by={by} data={filterValues.data} all={all} frame={frame} onFrame={show} />
        <Looks>
          <main>
            <h1 className="unseen">Catalogue</h1>
            <Trouble error={sending.error ?? acts.error ?? byHand.error ?? filterValues.error} />
            <CatalogueTools
              by={by}
              view={view}
              count={counted(first, by.set)}
              density={density}
              onDensity={setDensity}
            />
            {taken.length ? <Nearly role="status">{taken.join(" ")}</Nearly> : null}
            {by.get("collection") ? <CollectionBar by={by} /> : null}
            {view === "map" ? (
              <LookMap by={by} frame={frame} />
            ) : !first ? (
              <Waiting query={pages} what="catalogue" />
            ) : cards.length ? (
              <Cards
                // A list that is narrowed anew begins at its top.
                key={filtersOf(by.search).toString()}
                cards={cards}
                frame={frame}
                frames={all}
                original={original}
                density={density}
                tray={acts.tray.looks}
                more={pages.isFetchingNextPage}
                onMore={() => pages.hasNextPage && !pages.isFetchingNextPage && void pages.fetchNextPage()}
                onPlace={byHand.place}
                {...acts.on}
              />
            ) : first.total ? (
              <Empty title="No look fits">Take a word, a tag or a range away.</Empty>
            ) : (
              <Empty title="No looks yet">A look appears here with its first revision.</Empty>
            )}
          </main>
          <Tray />
        </Looks>
      </Body>
      {starting ? <NewLook onClose={() => setStarting(false)} /> : null}
      {acts.trying ? (
        <TryOut {...acts.trying} frames={all} frame={frame?.id ?? null} onFrame={show} onClose={acts.away} />
      ) : null}
    </Page>
  );
}
