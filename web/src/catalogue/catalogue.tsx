/** The catalogue: every look on your frame. */
import { useEffect, useRef, useState } from "react";
import { ToggleButton, ToggleButtonGroup, useDrop, type Key } from "react-aria-components";
import { useNavigate, useSearchParams } from "react-router";
import styled from "styled-components";
import { useCatalogue, useMe } from "../api/queries";
import type { Card } from "../api/types";
import { Button } from "../kit/button";
import { FrameChoice } from "../kit/framechoice";
import { Text } from "../kit/text";
import { useShownFrame } from "../kit/frame";
import { Empty } from "../kit/empty";
import { Waiting } from "../kit/waiting";
import { Page, TopBar } from "../kit/topbar";
import { Trouble } from "../kit/trouble";
import { dropped } from "../bringin/gather";
import { useSending } from "../bringin/send";
import { LookCard } from "./card";
import { NewLook } from "./newlook";
import { TryOut } from "./tryout";
import { Grow, Quiet } from "../kit/layout";

const Body = styled.div`
  position: relative;
  flex: 1;
  min-height: 0;
  display: flex;
  aside {
    width: 216px;
    flex: none;
    border-right: 1px solid var(--line);
    background: var(--g1);
    padding: 14px 16px;
    overflow-y: auto;
    display: flex;
    flex-direction: column;
    gap: 18px;
  }
  .shown {
    display: flex;
    gap: 10px;
    align-items: center;
    color: var(--t2);
    font-size: 12px;
  }
  .shown img {
    width: 64px;
    height: 36px;
    object-fit: cover;
    border-radius: 3px;
  }
  .facets {
    display: flex;
    flex-direction: column;
    margin-top: 6px;
  }
  .facets button {
    display: flex;
    justify-content: space-between;
    background: none;
    border: 0;
    padding: 3px 6px;
    margin: 0 -6px;
    cursor: pointer;
    border-radius: 4px;
    color: var(--t2);
  }
  .facets button[data-hovered] {
    color: var(--t1);
  }
  .facets button[data-selected] {
    color: var(--t1);
    font-weight: 600;
    background: var(--g3);
  }
  main {
    flex: 1;
    overflow-y: auto;
    padding: 14px 18px 24px;
  }
  .tools {
    display: flex;
    align-items: center;
    gap: 12px;
    margin-bottom: 16px;
  }
  .tools > :first-child {
    width: 280px;
  }
  .cards {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
    gap: 20px 16px;
  }
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

const STATUSES = ["draft", "in review", "approved", "retired"];

/** What looks are narrowed by: one of a few, or several; with how many there are, where that is counted. */
function Facet(props: {
  name: string;
  options: readonly (readonly [string, number?])[];
  chosen: string[];
  several?: boolean;
  onChoose: (keys: Iterable<Key>) => void;
}) {
  if (!props.options.length) return null;
  return (
    <section>
      <h2>{props.name}</h2>
      <ToggleButtonGroup
        className="facets"
        aria-label={props.name}
        selectionMode={props.several ? "multiple" : "single"}
        selectedKeys={props.chosen}
        orientation="vertical"
        onSelectionChange={props.onChoose}
      >
        {props.options.map(([option, count]) => (
          <ToggleButton key={option} id={option}>
            <span>{option}</span>
            {count === undefined ? null : <span>{count}</span>}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </section>
  );
}

export default function Catalogue() {
  const [search, setSearch] = useSearchParams();
  const q = search.get("q") ?? "";
  const tags = search.getAll("tag");
  const status = search.get("status") ?? "";
  const collection = search.get("collection") ?? "";
  const found = useCatalogue(q, tags, status, collection);
  const { data: me } = useMe();
  const [starting, setStarting] = useState(false);
  const [trying, setTrying] = useState<{ card: Card; strength: number } | null>(null);
  const [text, setText] = useState(q);

  useEffect(() => {
    document.title = "Catalogue · Saucer";
  }, []);
  const put = (change: (s: URLSearchParams) => void) =>
    setSearch(
      (last) => {
        const next = new URLSearchParams(last);
        change(next);
        return next;
      },
      { replace: true },
    );
  /** Narrows by one of a group, or by none of it. */
  const one = (group: string, keys: Iterable<Key>) =>
    put((s) => {
      const [k] = keys;
      if (k) s.set(group, String(k));
      else s.delete(group);
    });
  useEffect(() => {
    if (text === q) return;
    const wait = setTimeout(
      () =>
        setSearch(
          (last) => {
            const next = new URLSearchParams(last);
            if (text) next.set("q", text);
            else next.delete("q");
            return next;
          },
          { replace: true },
        ),
      180,
    );
    return () => clearTimeout(wait);
  }, [text, q, setSearch]);

  const navigate = useNavigate();
  const { all, frame, show: keep } = useShownFrame(search.get("frame"));
  const show = (id: number) => {
    keep(id);
    put((s) => s.set("frame", String(id)));
  };
  const place = useRef<HTMLDivElement>(null);
  const sending = useSending(frame?.id);
  const { dropProps, isDropTarget } = useDrop({
    ref: place,
    isDisabled: !me?.may_design,
    onDrop: (e) => void dropped(e.items).then((files) => sending.send(files)),
  });
  const narrowed = q !== "" || tags.length > 0 || status !== "" || collection !== "";
  const data = found.data;

  return (
    <Page>
      <TopBar>
        <Grow />
        {me?.may_design ? (
          <>
            <Button onPress={() => void navigate("/catalogue/bring-in")}>Bring in</Button>
            <Button onPress={() => void navigate("/catalogue/carry")}>Carry a look over</Button>
            <Button look="main" onPress={() => setStarting(true)}>
              New look
            </Button>
          </>
        ) : null}
      </TopBar>
      <Body ref={place} {...dropProps}>
        {isDropTarget || sending.sent ? (
          <Over role="status">
            {sending.sent ? `Sending ${sending.sent.done} of ${sending.sent.of} files …` : "Drop to bring in. Nothing is kept yet."}
          </Over>
        ) : null}
        <aside aria-label="Narrow down">
          <div className="shown">
            {frame ? <img src={`/api/frames/${frame.id}/still?width=128&v=${frame.version}`} alt="" /> : null}
            <span>
              <FrameChoice all={all} frame={frame} onChoose={show} />
            </span>
          </div>
          <Facet
            name="Collections"
            options={(data?.collections ?? []).map((c) => [c.name, c.count] as const)}
            chosen={collection ? [collection] : []}
            onChoose={(keys) => one("collection", keys)}
          />
          <Facet
            name="Status"
            options={STATUSES.map((s) => [s] as const)}
            chosen={status ? [status] : []}
            onChoose={(keys) => one("status", keys)}
          />
          <Facet
            name="Tags"
            several
            options={(data?.tags ?? []).map((t) => [t.name, t.count] as const)}
            chosen={tags}
            onChoose={(keys) =>
              put((s) => {
                s.delete("tag");
                [...keys].forEach((k) => s.append("tag", String(k)));
              })
            }
          />
        </aside>
        <main>
          <h1 className="unseen">Catalogue</h1>
          <Trouble error={sending.error} />
          <div className="tools">
            <Text label="Search" hidden search hint="Search name, note, tag, maker" value={text} onChange={setText} />
            <Quiet role="status">{data ? (narrowed ? `${data.cards.length} of ${data.total} looks` : `${data.total} looks`) : ""}</Quiet>
            {narrowed ? (
              <Button
                look="quiet"
                onPress={() => {
                  setText("");
                  put((s) => {
                    s.delete("q");
                    s.delete("tag");
                    s.delete("status");
                    s.delete("collection");
                  });
                }}
              >
                Show all
              </Button>
            ) : null}
          </div>
          {!data ? (
            <Waiting query={found} what="catalogue" />
          ) : data.cards.length ? (
            <div className="cards">
              {data.cards.map((card) => (
                <LookCard key={card.id} card={card} frame={frame} onTry={(strength) => setTrying({ card, strength })} />
              ))}
            </div>
          ) : data.total ? (
            <Empty title="No look fits">Take a word or a tag away.</Empty>
          ) : (
            <Empty title="No looks yet">A look appears here with its first revision.</Empty>
          )}
        </main>
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
