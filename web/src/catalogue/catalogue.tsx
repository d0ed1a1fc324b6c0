/** The catalogue: every look on your frame, as cards or on a map. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useDrop } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useMe } from "../api/queries";
import type { Card } from "../api/types";
import { dropped } from "../bringin/gather";
import { useSending } from "../bringin/send";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Empty } from "../kit/empty";
import { useShownFrame } from "../kit/frame";
import { useFrameKeys } from "../kit/framekeys";
import { Grow, Quiet } from "../kit/layout";
import { Segments } from "../kit/segments";
import { Text } from "../kit/text";
import { Page, TopBar } from "../kit/topbar";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { Aside } from "./aside";
import { catalogueChanged, useFilterValues, usePages, useScales } from "./asked";
import { Cards, type Density } from "./cards";
import { askedOfCollection, CollectionBar } from "./collectionbar";
import { LookMap } from "./map";
import { filtersOf, useFilters, type Filters } from "./filters";
import { NewLook } from "./newlook";
import { Tray, useTray } from "./tray";
import { TryOut } from "./tryout";

const Body = styled.div`
  position: relative;
  flex: 1;
  min-height: 0;
  display: flex;
  main {
    flex: 1;
    min-width: 0;
    display: flex;
    flex-direction: column;
    padding: 14px 18px 0;
  }
  .main {
    flex: 1;
    min-width: 0;
    display: flex;
    flex-direction: column;
  }
  .tools {
    display: flex;
    align-items: center;
    gap: 10px;
    margin-bottom: 14px;
    flex: none;
  }
  .tools > :first-child {
    width: 250px;
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
  background: #161616e8;
  display: grid;
  place-items: center;
  font-size: 16px;
  z-index: 5;
`;

const ORDERS = [
  { key: "name", label: "by name" },
  { key: "newest", label: "newest first" },
  { key: "used", label: "most used" },
  { key: "recent", label: "looked at last" },
];

/** Milliseconds that typing must rest before it is searched for. */
const REST = 180;

/** What is typed, in the address once the typing rests. */
function useWords(by: Filters) {
  const q = by.get("q");
  const [text, setText] = useState(q);
  const put = by.put;
  useEffect(() => setText(q), [q]);
  useEffect(() => {
    if (text === q) return;
    const wait = setTimeout(() => put("q", text || null), REST);
    return () => clearTimeout(wait);
  }, [text, q, put]);
  return { text, setText };
}

/** In which order the looks stand, the traits among them. */
function Order({ by }: { by: Filters }) {
  const { data: scales = [] } = useScales();
  const options = [
    ...(by.get("q") ? [{ key: "fit", label: "best fit" }] : []),
    ...(by.get("collection") ? [{ key: "by hand", label: "the collection's order" }] : []),
    ...ORDERS,
    ...scales.map((s) => ({ key: s.key, label: s.more, note: `${s.label.toLowerCase()}, most first` })),
    ...scales.map((s) => ({
      key: `-${s.key}`,
      label: s.less,
      note: `${s.label.toLowerCase()}, least first`,
    })),
  ];
  const order = by.get("order") || "name";
  return (
    <Choice
      look="bare"
      hidden
      label="Order"
      options={options}
      chosen={by.search.get("backwards") ? `-${order}` : order}
      onChange={(key) => {
        by.put("order", key.replace("-", "") === "name" ? null : key.replace("-", ""));
        by.put("backwards", key.startsWith("-") ? "true" : null);
      }}
    />
  );
}

/** Says when H, which was held, is let go. */
function useLetGo(hold: (held: boolean) => void) {
  useEffect(() => {
    const up = (e: KeyboardEvent) => e.key.toLowerCase() === "h" && hold(false);
    window.addEventListener("keyup", up);
    return () => window.removeEventListener("keyup", up);
  }, [hold]);
}

export default function Catalogue() {
  const by = useFilters();
  const view = by.get("view") === "map" ? "map" : "cards";
  const pages = usePages(by.query);
  const filterValues = useFilterValues(by.query);
  const { data: me } = useMe();
  const tray = useTray();
  const [starting, setStarting] = useState(false);
  const [trying, setTrying] = useState<{ card: Card; strength: number } | null>(null);
  const [density, setDensity] = useState<Density>("middle");
  const [original, setOriginal] = useState(false);
  const words = useWords(by);
  const navigate = useNavigate();

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

  const place = useRef<HTMLDivElement>(null);
  const sending = useSending(frame?.id);
  const { dropProps, isDropTarget } = useDrop({
    ref: place,
    isDisabled: !me?.may_design,
    onDrop: (e) => void dropped(e.items).then((files) => sending.send(files)),
  });
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
  const byHand = me?.may_design && by.get("order") === "by hand" && collection && !collection.search;
  const moved = (look: number, before: number | null) => {
    const others = collection!.looks.filter((id) => id !== look);
    const at = before === null ? others.length : others.indexOf(before);
    order.mutate([...others.slice(0, at), look, ...others.slice(at)]);
  };
  const cards = useMemo(() => pages.data?.pages.flatMap((p) => p.cards) ?? [], [pages.data]);
  const first = pages.data?.pages[0];
  const count = first
    ? by.set
      ? `${first.found.toLocaleString("en")} of ${first.total.toLocaleString("en")} looks`
      : `${first.total.toLocaleString("en")} looks`
    : "";
  const taken = Object.entries(filterValues.data?.taken_for ?? {}).map(
    ([word, known]) => `No look holds “${word}”. Nearest to it: ${known.slice(0, 3).join(", ")}.`,
  );
  return (
    <Page>
      <TopBar>
        <Grow />
        {me?.may_design ? (
          <>
            <Button onPress={() => void navigate("/catalogue/bring-in")}>Bring in</Button>
            <Button onPress={() => void navigate("/catalogue/pack-out")}>Pack out</Button>
            <Button onPress={() => void navigate("/catalogue/carry")}>Carry over</Button>
            <Button look="main" onPress={() => setStarting(true)}>
              New look
            </Button>
          </>
        ) : null}
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
        <div className="main">
          <main>
            <h1 className="unseen">Catalogue</h1>
            <Trouble error={sending.error ?? like.error ?? order.error ?? filterValues.error} />
            <div className="tools">
              <Text
                label="Search"
                hidden
                search
                hint="Name, note, tag, maker, what it does"
                value={words.text}
                onChange={words.setText}
              />
              <Quiet role="status">{count}</Quiet>
              {by.set ? (
                <Button
                  look="quiet"
                  onPress={() => {
                    words.setText("");
                    by.clear();
                  }}
                >
                  Show all
                </Button>
              ) : null}
              <Grow />
              {view === "cards" ? (
                <>
                  <Order by={by} />
                  <Segments
                    label="Size of cards"
                    options={
                      [
                        ["large", "large"],
                        ["middle", "middle"],
                        ["small", "small"],
                      ] as const
                    }
                    chosen={density}
                    onChange={setDensity}
                  />
                </>
              ) : null}
              <Segments
                label="View"
                options={
                  [
                    ["cards", "Cards"],
                    ["sheets", "Sheets"],
                    ["map", "Map"],
                  ] as const
                }
                chosen={view}
                onChange={(v) =>
                  v === "sheets"
                    ? void navigate("/catalogue/sheet/all")
                    : by.put("view", v === "cards" ? null : v)
                }
              />
            </div>
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
                tray={tray.looks}
                more={pages.isFetchingNextPage}
                onMore={() => pages.hasNextPage && !pages.isFetchingNextPage && void pages.fetchNextPage()}
                onPlace={byHand ? moved : undefined}
                onTry={onTry}
                onLike={onLike}
                onTray={onTray}
              />
            ) : first.total ? (
              <Empty title="No look fits">Take a word, a tag or a range away.</Empty>
            ) : (
              <Empty title="No looks yet">A look appears here with its first revision.</Empty>
            )}
          </main>
          <Tray />
        </div>
      </Body>
      {starting ? <NewLook onClose={() => setStarting(false)} /> : null}
      {trying ? (
        <TryOut
          card={trying.card}
          strength={trying.strength}
          frames={all}
          frame={frame?.id ?? null}
          onFrame={show}
          onClose={() => setTrying(null)}
        />
      ) : null}
    </Page>
  );
}
