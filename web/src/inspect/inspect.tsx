/**
 * The inspector: what a table or look does, to the last colour; two held against each other; taking one
 * apart.
 */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Button as AriaButton } from "react-aria-components";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useMe } from "../api/queries";

import { Empty } from "../kit/empty";
import { useShownFrame } from "../kit/frame";
import { FrameChoice } from "../kit/framechoice";
import { Apart, Grow, Level, Quiet } from "../kit/layout";
import { Saucer } from "../kit/saucer";
import { Page, TopBar } from "../kit/topbar";
import { ToBin } from "../kit/tobin";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { TakeApart } from "./apart";
import { Cloud } from "./cloud";
import { Plots } from "./plots";
import { SliceRow } from "./slices";
import { inspection, inspectorOf, nameOf, subjectOf, type Subject } from "./subject";
import { Compare, OnFrame } from "./onframe";

const Body = styled.main`
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: clamp(200px, 20vw, 252px) minmax(0, 1fr) clamp(330px, 37vw, 470px);
  grid-template-rows: auto minmax(0, 1fr);
  > header {
    grid-column: 1 / -1;
    display: flex;
    align-items: center;
    gap: 13px;
    padding: 8px 18px;
    border-bottom: 1px solid var(--line);
  }
  > header h1 {
    line-height: 1.25;
  }
  > header ${Level} {
    margin: 0;
  }
  .side {
    background: var(--g1);
    border-right: 1px solid var(--line);
    padding: 14px 16px;
    overflow-y: auto;
    display: grid;
    gap: 18px;
    align-content: start;
  }
  .middle {
    display: flex;
    flex-direction: column;
    gap: 8px;
    padding: 12px 18px;
    min-height: 0;
  }
  .right {
    border-left: 1px solid var(--line);
    padding: 12px 16px;
    overflow-y: auto;
    display: flex;
    flex-direction: column;
    gap: 14px;
  }
  dl {
    display: grid;
    grid-template-columns: 68px minmax(0, 1fr);
    gap: 4px 8px;
    margin-top: 6px;
  }
  dt {
    color: var(--t2);
  }
  dd {
    margin: 0;
    overflow-wrap: anywhere;
  }
`;
const Health = styled.ul`
  list-style: none;
  padding: 0;
  margin-top: 4px;
  button {
    width: 100%;
    display: flex;
    justify-content: space-between;
    gap: 8px;
    background: none;
    border: 0;
    border-bottom: 1px solid var(--line);
    padding: 5px 2px;
    text-align: left;
    cursor: pointer;
  }
  button[data-hovered],
  button[aria-pressed="true"] {
    background: var(--g3);
  }
  button[data-disabled] {
    cursor: default;
  }
  button > :last-child {
    text-align: right;
    white-space: nowrap;
  }
  .doubtful {
    color: var(--warn);
  }
`;
const Near = styled.div`
  display: grid;
  gap: 6px;
  margin-top: 6px;
  a {
    display: flex;
    align-items: center;
    gap: 8px;
    text-decoration: none;
  }
  small {
    color: var(--t2);
    display: block;
  }
`;

export default function Inspector() {
  const { kind, key } = useParams();
  const subject = subjectOf(kind, key);
  useEffect(() => {
    document.title = "Inspect · Saucer";
  }, []);
  return (
    <Page>
      <TopBar />
      {subject ? (
        <Loaded key={nameOf(subject)} subject={subject} />
      ) : (
        <Empty title="Nothing to inspect here">A table or look is opened from the catalogue.</Empty>
      )}
    </Page>
  );
}

function Loaded({ subject }: { subject: Subject }) {
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const [otherKind, otherKey] = (search.get("with") ?? "").split("/");
  const other = subjectOf(otherKind, otherKey);
  const query = useQuery(inspection.of(subject));
  const cloud = useQuery({ ...inspection.cloud(subject, other), placeholderData: (last) => last });
  const against = useQuery({ ...inspection.of(other ?? subject), enabled: other !== null });
  const { all, frame, show } = useShownFrame();
  const { data: me } = useMe();
  const [place, setPlace] = useState<string | null>(null);
  const data = query.data;
  if (!data) return <Waiting query={query} what="inspector" />;
  const marks = data.condition.find((p) => p.key === place)?.places ?? NONE;
  const otherName = other ? (against.data?.name ?? "the other") : null;
  return (
    <Body>
      <header>
        <Saucer src={`/api/inspect/${nameOf(subject)}/saucer?size=112`} size={46} of={data.name} />
        <div>
          <h1>{data.name}</h1>
          <Quiet>{data.origin ? `from ${data.origin}` : "what it does"}</Quiet>
        </div>
        <Grow />
        <Quiet>{data.words.slice(0, 4).join(", ")}</Quiet>
        <Level>
          <Compare
            subject={subject}
            other={other}
            nearest={data.nearest}
            onChoose={(s) => setSearch(s ? { with: nameOf(s) } : {}, { replace: true })}
          />
        </Level>
      </header>
      <aside className="side" aria-label="About it">
        <section>
          <h2>The file says</h2>
          <dl>
            {data.said.map(([word, value], k) => (
              <Pair key={k} word={word} value={value} />
            ))}
            <Pair word="expects" value={data.expects} />
            <Pair word="gives" value={data.gives} />
            {data.rights ? <Pair word="pass on" value={data.rights} /> : null}
          </dl>
          {subject.kind === "lut" ? (
            <ToBin
              what="LUT"
              remove={() =>
                got(server.DELETE("/api/luts/{lut_id}", { params: { path: { lut_id: subject.key } } }))
              }
              stale={["luts", "inspected"]}
              onGone={() => void navigate("/catalogue")}
            />
          ) : null}
        </section>
        <section>
          <h2>Health</h2>
          <Health>
            {data.condition.map((p) => (
              <li key={p.key}>
                <AriaButton
                  className={p.doubtful ? "doubtful" : ""}
                  isDisabled={!p.places.length}
                  aria-pressed={place === p.key}
                  onPress={() => setPlace((last) => (last === p.key ? null : p.key))}
                >
                  <span>{p.words}</span>
                  <span>{p.value}</span>
                </AriaButton>
              </li>
            ))}
          </Health>
          <Quiet>{place ? "Marked in the cloud." : "Press a line to see where."}</Quiet>
        </section>
        {data.nearest.length ? (
          <section>
            <h2>Nearest in the catalogue</h2>
            <Near>
              {data.nearest.map((n) => (
                <Link key={n.look} to={inspectorOf({ kind: "look", key: n.look })}>
                  <Saucer src={`/api/inspect/look/${n.look}/saucer?size=64`} size={28} />
                  <span>
                    {n.name}
                    <small>ΔE {n.apart.toFixed(1)}</small>
                  </span>
                </Link>
              ))}
            </Near>
          </section>
        ) : null}
      </aside>
      <div className="middle">
        <Trouble error={cloud.error} />
        {cloud.data ? (
          <Cloud
            cloud={cloud.data}
            marks={marks}
            names={otherName ? [otherName, data.name] : ["Before", "After"]}
          />
        ) : (
          <Grow />
        )}
        <SliceRow subject={subject} />
      </div>
      <div className="right">
        <Plots greys={data.greys} disc={data.disc} />
        <section>
          <Apart>
            <h2>On a frame</h2>
            <span>
              <Level>
                <FrameChoice all={all} frame={frame} onChoose={show} />
              </Level>
            </span>
          </Apart>
          {frame ? (
            <OnFrame
              subject={subject}
              other={other}
              frame={frame}
              names={[otherName ?? "before", data.name]}
            />
          ) : null}
        </section>
        {me?.may_design ? <TakeApart subject={subject} frame={frame} name={data.name} /> : null}
      </div>
    </Body>
  );
}

const NONE: number[][] = [];

function Pair({ word, value }: { word: string; value: string }) {
  return (
    <>
      <dt>{word}</dt>
      <dd>{value}</dd>
    </>
  );
}
