/**
 * Camera encodings of the team: a maker's published numbers typed in, seen as a curve with check values, and
 * kept for everybody.
 */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { ListBox, ListBoxItem } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { asked, useMe } from "../api/queries";
import type { CameraForm, CameraNumbers, TeamEncoding } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";

import { Empty } from "../kit/empty";
import { Grow, Said } from "../kit/layout";
import { Text } from "../kit/text";
import { Page, TopBar } from "../kit/topbar";

import { Waiting } from "../kit/waiting";
import { longAgo } from "../kit/when";
import type { Typed } from "./typed";
import { begin, complete } from "./typed";
import { Numbers, Seen } from "./numbers";

const STALE = ["encodings"] as const;

const Halves = styled.div`
  display: grid;
  grid-template-columns: 260px 1fr;
  height: 100%;
  nav {
    border-right: 1px solid var(--line);
    padding: 16px 12px;
    overflow: auto;
    display: flex;
    flex-direction: column;
    gap: 10px;
  }
  nav a {
    color: var(--t2);
    padding: 0 10px;
  }
  [role="option"] {
    padding: 8px 10px;
    border-radius: var(--r);
    cursor: pointer;
    display: block;
  }
  [role="option"][data-hovered] {
    background: var(--g2);
  }
  [role="option"][data-selected] {
    background: var(--g3);
  }
  small {
    color: var(--t2);
    font-size: 12px;
    display: block;
  }
  > section {
    overflow: auto;
    padding: 18px 22px 28px;
  }
`;

const Entry = styled.div`
  display: grid;
  grid-template-columns: minmax(300px, 380px) minmax(360px, 620px);
  gap: 18px 30px;
  align-items: start;
  .top {
    grid-column: 1 / -1;
    display: flex;
    align-items: end;
    gap: 12px;
  }
  .top > :first-child {
    width: 340px;
  }
  .numbers,
  .seen {
    display: grid;
    gap: 14px;
  }
  .pairs {
    display: grid;
    grid-template-columns: 52px 1fr 1fr;
    gap: 6px 8px;
    align-items: center;
  }
  .pairs span {
    color: var(--t2);
  }
  .two {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 10px;
  }
  .below {
    display: grid;
    grid-template-columns: 190px 1fr;
    gap: 18px;
    align-items: start;
  }
  .below p {
    margin-top: 10px;
  }
`;

export default function Encodings() {
  const team = useQuery(asked.teamEncodings);
  const form = useQuery(asked.cameraForm);
  const { data: me } = useMe();
  const [chosen, setChosen] = useState<number | "new" | null>(null);
  const [from, setFrom] = useState<{ numbers: Typed | null; times: number }>({ numbers: null, times: 0 });
  useEffect(() => {
    document.title = "Camera encodings · Saucer";
  }, []);
  const rows = team.data ?? [];
  const row = rows.find((r) => r.id === chosen) ?? (chosen === null ? rows[0] : undefined);
  const type = (numbers: Typed | null) => {
    setFrom({ numbers, times: from.times + 1 });
    setChosen("new");
  };
  const typeIn = me?.may_design ? (
    <Button look="main" onPress={() => type(null)}>
      Type in an encoding
    </Button>
  ) : null;
  return (
    <Page>
      <TopBar>
        <Grow />
        {typeIn}
      </TopBar>
      <main>
        <h1 className="unseen">Camera encodings</h1>
        {!team.data || !form.data ? (
          <Waiting query={team.data ? form : team} what="encodings" />
        ) : !rows.length && chosen !== "new" ? (
          <Empty title="No camera encoding of your own yet" action={typeIn}>
            A camera records light through its maker&apos;s logarithm. Type the published numbers once; then
            frames, looks and LUTs can be said to be encoded so. <Link to="/frames">Back to the frames</Link>
          </Empty>
        ) : (
          <Halves>
            <nav aria-label="Camera encodings">
              <Link to="/frames">‹ Frames</Link>
              <ListBox
                aria-label="The team's encodings"
                selectionMode="single"
                disallowEmptySelection
                selectedKeys={row ? [row.id] : []}
                items={rows}
                onSelectionChange={(keys) => {
                  const [key] = [...(keys as Set<number>)];
                  if (key !== undefined) setChosen(key);
                }}
              >
                {(r) => (
                  <ListBoxItem id={r.id} textValue={r.name}>
                    {r.name}
                    <small>{r.offered ? facts(r) : "withdrawn"}</small>
                  </ListBoxItem>
                )}
              </ListBox>
            </nav>
            <section aria-label={row ? row.name : "A new encoding"}>
              {row ? (
                <Kept
                  key={row.id}
                  row={row}
                  form={form.data}
                  onAgain={() => type({ ...row.definition, name: "" })}
                />
              ) : (
                <New
                  key={from.times}
                  form={form.data}
                  from={from.numbers ?? begin(form.data)}
                  onKept={setChosen}
                  onLeave={() => setChosen(null)}
                />
              )}
            </section>
          </Halves>
        )}
      </main>
    </Page>
  );
}

const facts = (r: TeamEncoding): string => {
  const grey = r.measured.checks.find((c) => c.name === "mid grey");
  return `mid grey at ${grey?.ten_bit.toFixed(0)}, ${r.measured.stops_above?.toFixed(1)} stops above it`;
};

function New(props: { form: CameraForm; from: Typed; onKept: (id: number) => void; onLeave: () => void }) {
  const [typed, setTyped] = useState(props.from);
  const keep = useWrite(
    (body: CameraNumbers) => got(server.POST("/api/encodings/team", { body })),
    STALE,
    (row) => props.onKept(row.id),
  );
  const numbers = complete(typed);
  return (
    <Entry>
      <div className="top">
        <Text
          label="Name"
          hint="as people will choose it"
          value={typed.name}
          onChange={(name) => setTyped({ ...typed, name })}
          maxLength={60}
          autoFocus
        />
        <Grow />
        <Button onPress={props.onLeave}>Cancel</Button>
        <Button
          look="main"
          isDisabled={!numbers || !typed.name.trim() || keep.isPending}
          onPress={() => numbers && keep.mutate({ ...numbers, name: typed.name.trim() })}
        >
          Keep for everybody
        </Button>
      </div>
      <Numbers form={props.form} typed={typed} onChange={setTyped} />
      <Seen form={props.form} numbers={numbers} typed={typed} error={keep.error} />
    </Entry>
  );
}

function Kept({ row, form, onAgain }: { row: TeamEncoding; form: CameraForm; onAgain: () => void }) {
  const { data: me } = useMe();
  const [name, setName] = useState(row.name);
  const change = useWrite(
    (body: { name?: string; offered?: boolean }) =>
      got(
        server.PATCH("/api/encodings/team/{encoding_id}", {
          params: { path: { encoding_id: row.id } },
          body,
        }),
      ),
    STALE,
  );
  const mine = me?.may_lead === true || me?.name === row.added_by;
  return (
    <Entry>
      <div className="top">
        {mine ? <Text label="Name" value={name} onChange={setName} maxLength={60} /> : <h2>{row.name}</h2>}
        {mine && name.trim() && name !== row.name ? (
          <Button onPress={() => change.mutate({ name: name.trim() })}>Rename</Button>
        ) : null}
        <Grow />
        {me?.may_design ? <Button onPress={onAgain}>Type in another from these</Button> : null}
        {mine ? (
          <Button look="quiet" onPress={() => change.mutate({ offered: !row.offered })}>
            {row.offered ? "Withdraw" : "Offer again"}
          </Button>
        ) : null}
      </div>
      <Numbers form={form} typed={row.definition} />
      <Seen form={form} numbers={row.definition} typed={row.definition} error={change.error}>
        <Said>
          {row.offered
            ? "Frames, looks, steps and LUTs can be said to be encoded so."
            : "Withdrawn: nothing new can be encoded so. What was made with it goes on as before."}{" "}
          Added by {row.added_by}, {longAgo(Date.parse(row.added_at))}. The numbers stay as they are: frames
          and looks were made with them.
        </Said>
      </Seen>
    </Entry>
  );
}
