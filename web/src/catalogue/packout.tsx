/** Packs that go out: what is in the next one, how far it is, and those that went before. */
import { queryOptions, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { CheckboxGroup } from "react-aria-components";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import { got, Problem, server } from "../api/client";
import { useMe } from "../api/queries";
import type { Outgoing } from "../api/types";
import { useWrite } from "../api/writes";
import { GRIDS } from "../bake/order";
import { bytes } from "../kit/bytes";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Fields, Grow, Quiet, Said } from "../kit/layout";
import { Text } from "../kit/text";
import { Page, TopBar } from "../kit/topbar";
import { turnOf } from "../kit/turn";
import { Trouble } from "../kit/trouble";
import { longAgo } from "../kit/when";
import { useFilterValues } from "./asked";
import { Tick } from "../kit/tick";

const Body = styled.main`
  padding: 18px 24px;
  .columns {
    display: grid;
    grid-template-columns: 300px 250px minmax(0, 1fr);
    gap: 40px;
    margin-top: 14px;
    align-items: start;
  }
  h2 {
    margin-bottom: 8px;
  }
  .one {
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 4px 0;
    cursor: pointer;
  }
  .one > span:nth-child(2) {
    flex: 1;
  }
  article {
    border-top: 1px solid var(--line);
    padding: 9px 0;
  }
  article > div {
    display: flex;
    gap: 12px;
    align-items: center;
  }
  article p {
    color: var(--t2);
  }
  a {
    border: 1px solid var(--g4);
    border-radius: 15px;
    padding: 4px 13px;
    text-decoration: none;
    font-weight: 500;
  }
`;

/** What stands beside the recipes. */
const KINDS = [
  ["cube", ".cube, a table"],
  ["clf", ".clf, a table"],
  ["clf_exact", ".clf, exact steps"],
  ["cdl", ".cdl, where it can be said so"],
] as const;

const asked = queryOptions({
  queryKey: ["outgoing"],
  queryFn: () => got(server.GET("/api/outgoing")),
  staleTime: 0,
  refetchInterval: (query) => (query.state.data?.some(busy) ? 700 : false),
});

const busy = (pack: Outgoing) => pack.job.state === "waiting" || pack.job.state === "running";

function Box({ value, label, note }: { value: string; label: string; note?: string }) {
  return (
    <div className="one">
      <Tick value={value} aria-label={label} />
      <span>{label}</span>
      {note ? <Quiet>{note}</Quiet> : null}
    </div>
  );
}

export default function PackOut() {
  const [search] = useSearchParams();
  const { data: packs = [] } = useQuery(asked);
  const { data: there } = useFilterValues({});
  const { data: me } = useMe();
  const [name, setName] = useState("");
  const [collections, setCollections] = useState<string[]>(search.getAll("collection"));
  const [kinds, setKinds] = useState<string[]>(["cube"]);
  const [grid, setGrid] = useState(33);
  useEffect(() => {
    document.title = "Pack out · Saucer";
  }, []);
  const order = useWrite(
    (anyway: boolean) =>
      got(server.POST("/api/outgoing", { body: { name, collections, kinds, grid, anyway } })),
    ["outgoing"],
  );
  const held = order.error instanceof Problem && Array.isArray(order.error.detail.held);
  return (
    <Page>
      <TopBar />
      <Body>
        <h1>Pack out</h1>
        <div className="columns">
          <section aria-label="Collections">
            <h2>Collections that go out</h2>
            {there?.collections.length ? (
              <CheckboxGroup aria-label="Collections" value={collections} onChange={setCollections}>
                {there.collections.map((c) => (
                  <Box
                    key={c.name}
                    value={c.name}
                    label={c.name}
                    note={`${c.count} ${c.count === 1 ? "look" : "looks"}`}
                  />
                ))}
              </CheckboxGroup>
            ) : (
              <Quiet>There is no collection yet. Put looks into one, from their pages or from the map.</Quiet>
            )}
          </section>
          <Fields>
            <Text label="Name of the pack" value={name} onChange={setName} maxLength={120} required />
            <CheckboxGroup aria-label="Beside the recipes" value={kinds} onChange={setKinds}>
              <h2>Beside the recipes</h2>
              {KINDS.map(([key, label]) => (
                <Box key={key} value={key} label={label} />
              ))}
            </CheckboxGroup>
            <Choice
              label="Grid of tables"
              chosen={String(grid)}
              onChange={(g) => setGrid(Number(g))}
              options={GRIDS.map((g) => ({ key: String(g), label: `${g} × ${g} × ${g}` }))}
            />
            <Said>
              Each look goes whole: steps, revisions, rights, tags, collections and all it borrows. Previews,
              a contact sheet and a list with checksums lie beside.
            </Said>
            <Trouble error={order.error} />
            <Button
              look="main"
              isDisabled={!me?.may_design || !name.trim() || !collections.length || order.isPending}
              onPress={() => order.mutate(false)}
            >
              Pack
            </Button>
            {held && me?.may_lead ? (
              <Button onPress={() => order.mutate(true)}>Let them go out all the same</Button>
            ) : null}
          </Fields>
          <section aria-label="Packs">
            <h2>Packs that went out</h2>
            {packs.length ? packs.map((p) => <One key={p.id} pack={p} />) : <Quiet>none yet</Quiet>}
          </section>
        </div>
      </Body>
    </Page>
  );
}

function One({ pack }: { pack: Outgoing }) {
  const stop = useWrite(
    () => got(server.POST("/api/jobs/{job_id}/cancel", { params: { path: { job_id: pack.job.id } } })),
    ["outgoing"],
  );
  return (
    <article aria-label={pack.name}>
      <div>
        <strong>{pack.name}</strong>
        <Quiet>
          {pack.made_by}, {longAgo(Date.parse(pack.made_at), Date.now())}
        </Quiet>
        <Grow />
        {pack.ready ? (
          <>
            <Quiet>
              {pack.count} {pack.count === 1 ? "look" : "looks"}, {bytes(pack.bytes)}
            </Quiet>
            <a href={`/api/outgoing/${pack.id}/file`} aria-label={`Take ${pack.name}`}>
              Take
            </a>
          </>
        ) : busy(pack) ? (
          <>
            <progress
              value={pack.job.done}
              max={Math.max(1, pack.job.total)}
              aria-label={`How far ${pack.name} is`}
            />
            <Button look="quiet" onPress={() => stop.mutate()}>
              Stop
            </Button>
          </>
        ) : (
          <Quiet>{turnOf(pack.job) || pack.job.state}</Quiet>
        )}
      </div>
      {pack.job.reason ? <p>{pack.job.reason}</p> : null}
      {pack.changes.length ? <p>Since the last: {pack.changes.join("; ")}</p> : null}
      {pack.left_out.length ? <p>Not written: {pack.left_out.join("; ")}</p> : null}
    </article>
  );
}
