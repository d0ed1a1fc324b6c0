/** The way to the bench: what one worked on last, then what else there is, each on a frame. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { asked, useMe } from "../api/queries";
import type { Frame, LookLine } from "../api/types";
import { NewLook } from "../catalogue/newlook";
import { Button } from "../kit/button";
import { FrameChoice } from "../kit/framechoice";
import { useShownFrame } from "../kit/frame";
import { Empty } from "../kit/empty";
import { Waiting } from "../kit/waiting";
import { Page, TopBar } from "../kit/topbar";
import { longAgo } from "../kit/when";

const Looks = styled.main`
  padding: 18px 24px 28px;
  > section {
    max-width: 1232px;
    margin: 0 auto;
  }
  header {
    display: flex;
    align-items: center;
    gap: 14px;
    margin-bottom: 14px;
  }
  header h1 {
    flex: 1;
  }
  header span {
    color: var(--t2);
    font-size: 12px;
    display: flex;
    align-items: center;
    gap: 4px;
  }
  h2 {
    margin: 24px 0 10px;
    font-size: 13px;
  }
  ul {
    list-style: none;
    padding: 0;
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
    gap: 18px 14px;
  }
  a {
    display: block;
    text-decoration: none;
  }
  .picture {
    display: block;
    aspect-ratio: 16 / 9;
    border-radius: 4px;
    overflow: hidden;
    background: var(--g2);
  }
  .picture img {
    width: 100%;
    height: 100%;
    object-fit: cover;
    display: block;
  }
  a:hover .picture,
  a:focus-visible .picture {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
  b {
    display: block;
    font-weight: 560;
    margin-top: 6px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  small {
    color: var(--t2);
    display: block;
    font-size: 12px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .last {
    display: grid;
    grid-template-columns: minmax(0, 620px) 1fr;
    gap: 26px;
    align-items: center;
  }
  .last .picture {
    border-radius: 6px;
  }
  .last b {
    font-size: 20px;
    margin: 0 0 6px;
  }
  .last p {
    color: var(--t2);
    margin-bottom: 16px;
  }
  .last .go {
    display: inline-block;
    padding: 8px 18px;
    border-radius: 17px;
    background: var(--accent);
    color: var(--on-accent);
    font-weight: 600;
  }
`;

const WIDE = 960;
const SMALL = 480;

/** How far a look is: a draft alone, or one that goes on from a revision. */
function stage(look: LookLine): string {
  if (look.revision === null)
    return look.parent ? `draft, variation of ${look.parent.name}` : "draft without a revision";
  return `draft after r${look.revision}, ${look.status}`;
}

const when = (look: LookLine) => longAgo(Date.parse(look.draft_at));

function Picture({ look, frame, width }: { look: LookLine; frame: Frame | null; width: number }) {
  // A draft that cannot be computed, for want of a table, has no picture: its name stays.
  const [none, setNone] = useState(false);
  const src = frame
    ? `/api/looks/${look.id}/still?frame=${frame.id}&width=${width}&v=${look.draft_version}-${frame.version}`
    : "";
  useEffect(() => setNone(false), [src]);
  return (
    <span className="picture">
      {src && !none ? <img src={src} alt="" loading="lazy" onError={() => setNone(true)} /> : null}
    </span>
  );
}

function Row({ title, looks, frame }: { title: string; looks: LookLine[]; frame: Frame | null }) {
  if (!looks.length) return null;
  return (
    <>
      <h2>{title}</h2>
      <ul>
        {looks.map((look) => (
          <li key={look.id}>
            <Link to={`/bench/${look.id}`}>
              <Picture look={look} frame={frame} width={SMALL} />
              <b>{look.name}</b>
              <small>{stage(look)}</small>
              <small>{look.mine ? when(look) : `${look.draft_by}, ${when(look)}`}</small>
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}

export default function BenchDoor() {
  const looks = useQuery(asked.worked);
  const { data: me } = useMe();
  const { all, frame, show } = useShownFrame();
  const [starting, setStarting] = useState(false);
  useEffect(() => {
    document.title = "Bench · Saucer";
  }, []);
  const [last, ...mine] = looks.data?.filter((l) => l.mine) ?? [];
  const others = looks.data?.filter((l) => !l.mine) ?? [];
  return (
    <Page>
      <TopBar>
        <span className="space" />
        {me?.may_design ? (
          <Button look="main" onPress={() => setStarting(true)}>
            New look
          </Button>
        ) : null}
      </TopBar>
      <Looks>
        <section>
          <header>
            <h1>Which look goes on the bench?</h1>
            {all.length ? (
              <span>
                <FrameChoice all={all} frame={frame} onChoose={show} />
              </span>
            ) : null}
          </header>
          {!looks.data ? <Waiting query={looks} what="looks" /> : null}
          {looks.data && !looks.data.length ? (
            <Empty title="No looks yet">A look designer starts the first one.</Empty>
          ) : null}
          {last ? (
            <Link to={`/bench/${last.id}`} className="last">
              <Picture look={last} frame={frame} width={WIDE} />
              <span>
                <small>worked on last, {when(last)}</small>
                <b>{last.name}</b>
                <p>{stage(last)}</p>
                <span className="go">Go on</span>
              </span>
            </Link>
          ) : null}
          <Row title="Yours before that" looks={mine} frame={frame} />
          <Row title={last ? "The team's" : "Looks, the newest work first"} looks={others} frame={frame} />
        </section>
      </Looks>
      {starting ? <NewLook onClose={() => setStarting(false)} /> : null}
    </Page>
  );
}
