/** What was done, day by day. */
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Event, Happening } from "../api/types";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Quiet, Said } from "../kit/layout";
import { Segments } from "../kit/segments";
import { Waiting } from "../kit/waiting";
import { askedOfPeople } from "./asked";
import { Initials } from "./list";

const Box = styled.section`
  padding: 16px 20px;
  header {
    display: flex;
    align-items: center;
    gap: 8px;
    margin-bottom: 10px;
  }
  header h2 {
    margin-right: auto;
    font-size: 15px;
    font-weight: 640;
    color: var(--t1);
  }
  h3 {
    display: flex;
    align-items: center;
    gap: 10px;
    font-size: 12px;
    font-weight: 400;
    color: var(--t2);
    margin: 16px 0 6px;
  }
  h3::after {
    content: "";
    flex: 1;
    border-top: 1px solid var(--line);
  }
  ol {
    list-style: none;
    margin: 0;
    padding: 0;
  }
  li {
    display: grid;
    grid-template-columns: 40px 32px minmax(0, 1fr);
    gap: 11px;
    align-items: start;
    padding: 7px 0;
  }
  time {
    color: var(--t2);
    font-size: 12px;
    padding-top: 2px;
    font-variant-numeric: tabular-nums;
  }
  .saucer {
    width: 30px;
    height: 30px;
    border-radius: 50%;
    display: block;
  }
  li p {
    overflow-wrap: anywhere;
  }
  li small {
    display: block;
    color: var(--t2);
    font-size: 12px;
    overflow-wrap: anywhere;
  }
  > p {
    margin-top: 16px;
  }
  b {
    font-weight: 560;
  }
  li a {
    font-weight: 560;
    text-decoration: none;
  }
  li a:hover {
    text-decoration: underline;
  }
  footer {
    display: flex;
    justify-content: space-between;
    align-items: center;
    margin-top: 14px;
  }
`;
type Kind = Happening | "all";
const KINDS: readonly (readonly [Kind, string])[] = [
  ["all", "All"],
  ["looks", "Looks"],
  ["reviews", "Reviews"],
  ["projects", "Projects"],
  ["deliveries", "Deliveries"],
  ["people", "People"],
];
const SPANS = [
  { key: "1", label: "today and yesterday" },
  { key: "7", label: "the last week" },
  { key: "30", label: "the last month" },
  { key: "0", label: "always" },
] as const;
type Span = (typeof SPANS)[number]["key"];
const DAY = 86_400_000;

/** A day in words: today, yesterday, a weekday of this week, or its date. */
export function dayOf(at: string, now = new Date()): string {
  const then = new Date(at);
  const days = Math.round(
    (new Date(now.toDateString()).getTime() - new Date(then.toDateString()).getTime()) / DAY,
  );
  if (days === 0) return "Today";
  if (days === 1) return "Yesterday";
  return days < 7
    ? then.toLocaleDateString("en-GB", { weekday: "long" })
    : then.toLocaleDateString("en-GB", { day: "numeric", month: "long", year: "numeric" });
}

function Line({ event }: { event: Event }) {
  const time = new Date(event.at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  return (
    <li>
      <time dateTime={event.at}>{time}</time>
      {event.revision ? (
        <img
          className="saucer"
          src={`/api/revisions/${event.revision}/saucer?size=64`}
          alt=""
          loading="lazy"
        />
      ) : (
        <Initials name={event.by} asked={!event.by} />
      )}
      <div>
        <p>
          <b>{event.by}</b> {event.said}{" "}
          {event.to ? <Link to={event.to}>{event.about}</Link> : <b>{event.about}</b>}
        </p>
        {event.more ? <small>{event.more}</small> : null}
      </div>
    </li>
  );
}

export function Activity() {
  const [kind, setKind] = useState<Kind>("all");
  const [by, setBy] = useState("0");
  const [span, setSpan] = useState<Span>("7");
  const team = useQuery(askedOfPeople.team);
  const asked = { kind: kind === "all" ? null : kind, by: Number(by) || null, days: Number(span) || null };
  const query = useInfiniteQuery(askedOfPeople.activity(asked));
  const events = query.data?.pages.flatMap((p) => p.events) ?? [];
  const count = query.data?.pages[0]?.count ?? 0;
  const days = new Map<string, Event[]>();
  for (const event of events) days.set(dayOf(event.at), [...(days.get(dayOf(event.at)) ?? []), event]);
  const people = [
    { key: "0", label: "anyone" },
    ...(team.data ?? []).map((p) => ({ key: String(p.id), label: p.name })),
  ];
  return (
    <Box aria-label="Activity">
      <header>
        <h2>Activity</h2>
        <Choice label="By" hidden look="bare" chosen={by} options={people} onChange={setBy} />
        <Choice label="How far back" hidden look="bare" chosen={span} options={SPANS} onChange={setSpan} />
      </header>
      <Segments label="What about" options={KINDS} chosen={kind} onChange={setKind} />
      {query.data ? null : <Waiting query={query} what="activity" />}
      {query.data && !events.length ? (
        <Said>Nothing was done that fits. Look further back, or at all of it.</Said>
      ) : null}
      {[...days].map(([name, lines]) => (
        <div key={name}>
          <h3>{name}</h3>
          <ol>
            {lines.map((e) => (
              <Line key={e.id} event={e} />
            ))}
          </ol>
        </div>
      ))}
      {events.length ? (
        <footer>
          <Quiet>{count.toLocaleString("en-GB")} events · kept, never rewritten</Quiet>
          {events.length < count ? (
            <Button
              look="quiet"
              isDisabled={query.isFetchingNextPage}
              onPress={() => void query.fetchNextPage()}
            >
              Earlier
            </Button>
          ) : null}
        </footer>
      ) : null}
    </Box>
  );
}
