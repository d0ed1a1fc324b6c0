/** Bring in: where files, folders and packs come in, and the packs that still wait for a decision. */
import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { FileTrigger } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { asked } from "../api/queries";
import { Button } from "../kit/button";
import { DropArea } from "../kit/droparea";
import { useShownFrame } from "../kit/frame";
import { FrameChoice } from "../kit/framechoice";
import { Level, Said } from "../kit/layout";
import { Page, TopBar } from "../kit/topbar";
import { Trouble } from "../kit/trouble";
import { longAgo } from "../kit/when";
import { chosen, dropped } from "../kit/gather";
import { useSending } from "./send";

const Body = styled.main`
  overflow-y: auto;
  padding: 18px;
  display: grid;
  gap: 22px;
  align-content: start;
  max-width: 900px;
  width: 100%;
  margin: 0 auto;
  > header {
    display: grid;
    gap: 4px;
  }
  .packs {
    display: grid;
    list-style: none;
    padding: 0;
  }
  .packs a {
    display: grid;
    grid-template-columns: 1fr auto 90px;
    gap: 16px;
    padding: 11px 4px;
    border-top: 1px solid var(--line);
    text-decoration: none;
    color: var(--t2);
  }
  .packs a:hover {
    background: var(--g2);
  }
  .others {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 14px;
  }
  .others a {
    border: 1px solid var(--line);
    border-radius: 8px;
    padding: 12px 14px;
    text-decoration: none;
    color: var(--t2);
    display: grid;
    gap: 3px;
  }
  .others a:hover {
    background: var(--g2);
  }
  .others strong,
  .packs strong {
    color: var(--t1);
    font-weight: 600;
  }
`;
const STANDS: Record<string, string> = {
  gathering: "not read yet",
  reading: "being read",
  ready: "waits for you",
  keeping: "being kept",
};

export default function Begin() {
  const { all, frame, show } = useShownFrame();
  const packs = useQuery(asked.packs);
  const { sent, error, send } = useSending(frame?.id);
  useEffect(() => {
    document.title = "Bring in · Saucer";
  }, []);
  return (
    <Page>
      <TopBar />
      <Body>
        <header>
          <h1>Bring in</h1>
          <Said>Looks from anywhere, judged on your frame before anything is kept.</Said>
        </header>
        <DropArea onDrop={async (e) => send(await dropped(e.items))}>
          {sent ? (
            <strong role="status">
              Sending {sent.done} of {sent.of} files …
            </strong>
          ) : (
            <>
              <strong>Drop files, folders or a ZIP here</strong>
              <div>
                <FileTrigger allowsMultiple onSelect={(files) => void send(chosen(files))}>
                  <Button look="main">Choose files</Button>
                </FileTrigger>
                <FileTrigger acceptDirectory onSelect={(files) => void send(chosen(files))}>
                  <Button>Choose a folder</Button>
                </FileTrigger>
              </div>
              <p>
                Table files of every common kind, CDL lists, recipes, presets, and carriers that came back.
                Folders become collections.
              </p>
            </>
          )}
        </DropArea>
        <Trouble error={error} />
        <Level>
          <FrameChoice all={all} frame={frame} onChoose={show} />
        </Level>
        <nav className="others" aria-label="Other ways in">
          <Link to="/catalogue/carry">
            <strong>Carry a look over</strong>
            <span>a picture with every colour goes through another program and brings its look back</span>
          </Link>
          <Link to="/catalogue/pair">
            <strong>From a pair</strong>
            <span>the same picture untouched and treated: what happened to its colours is the look</span>
          </Link>
        </nav>
        {packs.data?.length ? (
          <section aria-label="Waiting for a decision">
            <h2>Waiting for a decision</h2>
            <ul className="packs">
              {packs.data.map((p) => (
                <li key={p.id}>
                  <Link to={`/catalogue/bring-in/${p.id}`}>
                    <strong>{p.name}</strong>
                    <span>
                      {p.count ? `${p.count} looks and files, ${STANDS[p.stage]}` : STANDS[p.stage]}
                    </span>
                    <span>{longAgo(Date.parse(p.brought_at))}</span>
                  </Link>
                </li>
              ))}
            </ul>
          </section>
        ) : null}
      </Body>
    </Page>
  );
}
