/** A new contact sheet: which looks on which frames, and whether their names are turned over. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Checkbox, CheckboxGroup } from "react-aria-components";
import { useNavigate, useSearchParams } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useFrames } from "../api/queries";
import type { Card } from "../api/types";
import { useWrite } from "../api/writes";
import { AddLook } from "../catalogue/addlook";
import { askedOf } from "../catalogue/asked";
import { useTray } from "../catalogue/tray";
import { Button } from "../kit/button";
import { Fields, Grow, Quiet, Said } from "../kit/layout";
import { Saucer, saucerOf } from "../kit/saucer";
import { Switch } from "../kit/switch";
import { Text } from "../kit/text";
import { Page, TopBar } from "../kit/topbar";
import { Trouble } from "../kit/trouble";
import { around } from "../kit/partshown";

const Body = styled.main`
  padding: 18px 24px;
  .columns {
    display: grid;
    grid-template-columns: 340px minmax(0, 1fr) minmax(0, 1fr);
    gap: 34px;
    margin-top: 14px;
    align-items: start;
  }
  h2 {
    margin-bottom: 8px;
  }
  ul {
    list-style: none;
    padding: 0;
  }
  li,
  .frame {
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 4px 0;
  }
  li > span,
  .frame > span {
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .frame {
    cursor: pointer;
  }
  .frame img {
    width: 64px;
    height: 36px;
    object-fit: cover;
    border-radius: 3px;
  }
  .frame i {
    width: 16px;
    height: 16px;
    border: 1px solid var(--t2);
    border-radius: 4px;
  }
  .frame[data-selected] i {
    background: var(--accent);
    border-color: var(--accent);
  }
  .frame[data-focus-visible] i {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
`;

export function NewSheet() {
  const [search, setSearch] = useSearchParams();
  const { looks: tray } = useTray();
  const named = search.getAll("look").map(Number).filter(Number.isInteger);
  const ids = named.length ? named : tray;
  const { data: cards = [] } = useQuery({
    ...askedOf.cards(ids),
    placeholderData: (last: Card[] | undefined) => last,
  });
  const { data: frames = [] } = useFrames();
  const [name, setName] = useState("");
  const [blind, setBlind] = useState(false);
  const [judged, setJudged] = useState<number[]>([]);
  const [chosen, setChosen] = useState<string[] | null>(null);
  const navigate = useNavigate();
  useEffect(() => {
    document.title = "New contact sheet · Saucer";
  }, []);
  const on = chosen ?? frames.filter((f) => !f.chart).map((f) => String(f.id));
  const put = (next: number[]) =>
    setSearch(new URLSearchParams(next.map((id) => ["look", String(id)])), { replace: true });
  const make = useWrite(
    () =>
      got(
        server.POST("/api/sheets", {
          body: {
            name,
            looks: cards.map((c) => c.id),
            frames: on.map(Number),
            blind,
            judged_by: judged.filter((id) => ids.includes(id)),
          },
        }),
      ),
    ["sheets"],
    (made) => void navigate(`/catalogue/sheet/${made.id}`, { replace: true }),
  );
  return (
    <Page>
      <TopBar>
        <Grow />
        <Button onPress={() => void navigate(-1)}>Cancel</Button>
        <Button
          look="main"
          isDisabled={!name.trim() || !cards.length || !on.length || make.isPending}
          onPress={() => make.mutate()}
        >
          Make the sheet
        </Button>
      </TopBar>
      <Body>
        <h1>New contact sheet</h1>
        <div className="columns">
          <Fields>
            <Text
              label="What is to be chosen"
              hint="Autumn poster, which look"
              value={name}
              onChange={setName}
              maxLength={120}
              autoFocus
            />
            <Switch label="Blind: names turned over, order shuffled" on={blind} onChange={setBlind} />
            <Said>
              {blind
                ? "Everybody sees Look A, Look B … until the vote is closed. What others say is told once one's own votes are made."
                : "Everybody sees the names, and what others say."}
            </Said>
            <Trouble error={make.error} />
          </Fields>
          <section aria-label="Looks">
            <h2>
              Looks <Quiet>{cards.length}</Quiet>
            </h2>
            <ul>
              {cards.map((c) => (
                <li key={c.id}>
                  <Saucer src={saucerOf(c.revision)} size={34} />
                  <span>{c.name}</span>
                  <Switch
                    label="to judge by"
                    on={judged.includes(c.id)}
                    onChange={(is) => setJudged(is ? [...judged, c.id] : judged.filter((id) => id !== c.id))}
                  />
                  <Button
                    look="icon"
                    aria-label={`Leave ${c.name} out`}
                    onPress={() => put(ids.filter((id) => id !== c.id))}
                  >
                    ✕
                  </Button>
                </li>
              ))}
            </ul>
            <AddLook without={ids} onAdd={(c) => put([...ids, c.id])} />
          </section>
          <CheckboxGroup aria-label="Frames" value={on} onChange={setChosen}>
            <h2>
              Frames <Quiet>{on.length}</Quiet>
            </h2>
            {frames.map((f) => (
              <Checkbox key={f.id} value={String(f.id)} className="frame">
                <i aria-hidden />
                <img
                  src={`/api/frames/${f.id}/still?width=128&v=${f.version}`}
                  alt=""
                  style={around(f.part)}
                />
                <span>{f.name}</span>
                <Quiet>{f.light}</Quiet>
              </Checkbox>
            ))}
          </CheckboxGroup>
        </div>
      </Body>
    </Page>
  );
}
