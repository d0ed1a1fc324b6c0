/** The way to the bench: the look worked on last, or a new one. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { api } from "../api/client";
import type { LookLine } from "../api/types";
import { useCatalogue, useMe } from "../api/queries";
import { NewLook } from "../catalogue/newlook";
import { Button } from "../kit/controls";
import { Saucer, saucerOf } from "../kit/saucer";
import { Waiting } from "../kit/sheet";
import { Page, TopBar } from "../kit/topbar";

const List = styled.main`
  padding: 28px 32px; overflow: auto;
  header { display: flex; align-items: center; gap: 16px; margin-bottom: 20px; }
  ul { list-style: none; padding: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(180px, 1fr)); gap: 10px; }
  li button { background: none; border: 0; text-align: left; width: 100%; display: flex; gap: 12px; align-items: center; padding: 10px; border-radius: 8px; cursor: pointer; }
  li button:hover { background: var(--g2); }
  small { color: var(--t2); display: block; font-size: 12px; }
`;

export default function BenchDoor() {
  const looks = useCatalogue("", [], "");
  const drafts = useQuery({ queryKey: ["drafts"], queryFn: () => api.get<LookLine[]>("/looks"), staleTime: 0 });
  const { data: me } = useMe();
  const navigate = useNavigate();
  const [starting, setStarting] = useState(false);
  return (
    <Page>
      <TopBar />
      {looks.data ? (
        <List>
          <header>
            <h1>Which look goes on the bench?</h1>
            {me?.may_design ? <Button look="main" onPress={() => setStarting(true)}>New look</Button> : null}
          </header>
          <ul>
            {looks.data.cards.map((card) => (
              <li key={card.id}>
                <button onClick={() => void navigate(`/bench/${card.id}`)}>
                  <Saucer src={saucerOf(card.revision)} size={64} />
                  <span>{card.name}<small>r{card.revision.number}, {card.revision.status}</small><small>{card.maker}</small></span>
                </button>
              </li>
            ))}
          </ul>
          {drafts.data?.length ? (
            <>
              <h2 style={{ margin: "26px 0 10px" }}>Drafts without a revision</h2>
              <ul>
                {drafts.data.map((d) => (
                  <li key={d.id}>
                    <button onClick={() => void navigate(`/bench/${d.id}`)}>
                      <span>{d.name}<small>{d.maker}, {new Date(d.draft_at).toLocaleDateString("en-GB")}</small>{d.parent ? <small>variation of {d.parent.name}</small> : null}</span>
                    </button>
                  </li>
                ))}
              </ul>
            </>
          ) : null}
        </List>
      ) : <main><Waiting query={looks} what="looks" /></main>}
      {starting ? <NewLook onClose={() => setStarting(false)} /> : null}
    </Page>
  );
}
