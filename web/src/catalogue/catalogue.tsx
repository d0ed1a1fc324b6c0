/** The catalogue: every look on your frame. */
import { useEffect, useState } from "react";
import { ToggleButton, ToggleButtonGroup } from "react-aria-components";
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
import { LookCard } from "./card";
import { NewLook } from "./newlook";
import { TryOut } from "./tryout";
import { Grow, Quiet } from "../kit/layout";

const Body = styled.div`
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

const STATUSES = [
  ["draft", "draft"],
  ["in review", "in review"],
  ["approved", "approved"],
  ["retired", "retired"],
] as const;

export default function Catalogue() {
  const [search, setSearch] = useSearchParams();
  const q = search.get("q") ?? "";
  const tags = search.getAll("tag");
  const status = search.get("status") ?? "";
  const found = useCatalogue(q, tags, status);
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
  const narrowed = q !== "" || tags.length > 0 || status !== "";
  const data = found.data;

  return (
    <Page>
      <TopBar>
        <Grow />
        {me?.may_design ? (
          <>
            <Button onPress={() => void navigate("/catalogue/carry")}>Carry a look over</Button>
            <Button look="main" onPress={() => setStarting(true)}>
              New look
            </Button>
          </>
        ) : null}
      </TopBar>
      <Body>
        <aside aria-label="Narrow down">
          <div className="shown">
            {frame ? <img src={`/api/frames/${frame.id}/still?width=128&v=${frame.version}`} alt="" /> : null}
            <span>
              <FrameChoice all={all} frame={frame} onChoose={show} />
            </span>
          </div>
          <section>
            <h2>Status</h2>
            <ToggleButtonGroup
              className="facets"
              aria-label="Status"
              selectedKeys={status ? [status] : []}
              orientation="vertical"
              onSelectionChange={(keys) =>
                put((s) => {
                  const [k] = [...keys];
                  if (k) s.set("status", String(k));
                  else s.delete("status");
                })
              }
            >
              {STATUSES.map(([key, name]) => (
                <ToggleButton key={key} id={key}>
                  {name}
                </ToggleButton>
              ))}
            </ToggleButtonGroup>
          </section>
          <section>
            <h2>Tags</h2>
            <ToggleButtonGroup
              className="facets"
              aria-label="Tags"
              selectionMode="multiple"
              selectedKeys={tags}
              orientation="vertical"
              onSelectionChange={(keys) =>
                put((s) => {
                  s.delete("tag");
                  [...keys].forEach((k) => s.append("tag", String(k)));
                })
              }
            >
              {(data?.tags ?? []).map((t) => (
                <ToggleButton key={t.name} id={t.name}>
                  <span>{t.name}</span>
                  <span>{t.count}</span>
                </ToggleButton>
              ))}
            </ToggleButtonGroup>
          </section>
        </aside>
        <main>
          <h1 className="unseen">Catalogue</h1>
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
