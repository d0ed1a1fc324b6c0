/** Baking: what is in, which files, which table is enough, and where it is off. */
import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { asked, useEncodingLabel, useFrames, useLook } from "../api/queries";
import type { Frame, Look, LookRecord, Revision } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { useShownFrame } from "../kit/frame";
import { Grow, Quiet } from "../kit/layout";
import { saucerOf, Saucer } from "../kit/saucer";
import { Page, TopBar } from "../kit/topbar";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { Files } from "./files";
import { Finished } from "./finished";
import { Grids, key } from "./grids";
import { Inside } from "./inside";
import { Made } from "./made";
import { Naming } from "./naming";
import { Off } from "./off";
import { begin, GRIDS, naming, type BakeOrder, type Method } from "./order";
import { useProofs } from "./proofs";

const Body = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
  .middle,
  .right {
    overflow: auto;
    padding: 14px 18px;
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 18px;
    align-content: start;
  }
  .middle {
    flex: 1;
    min-width: 0;
    border-right: 1px solid var(--line);
  }
  .right {
    width: 452px;
    flex: none;
  }
  h1 small {
    color: var(--t2);
    font-size: 12px;
    font-weight: 400;
    margin-left: 8px;
  }
`;
const Foot = styled.footer`
  height: 58px;
  flex: none;
  border-top: 1px solid var(--line);
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 18px;
  small {
    color: var(--t2);
    font-size: 12px;
    display: block;
  }
`;
const Title = styled.div`
  flex: 1;
  display: flex;
  align-items: center;
  justify-content: center;
  gap: 10px;
  b {
    display: block;
    font-weight: 600;
  }
  span {
    color: var(--t2);
    font-size: 12px;
  }
`;

/** As many frames as a table is measured on. */
const MOST_FRAMES = 8;

export default function Bake() {
  const id = Number(useParams().id);
  const look = useLook(id);
  const frames = useFrames();
  useEffect(() => {
    document.title = look.data ? `Bake ${look.data.name} · Saucer` : "Saucer";
  }, [look.data]);
  if (!look.data || !frames.data)
    return (
      <Page>
        <TopBar />
        <main>
          <Waiting query={look.data ? frames : look} what="look" />
        </main>
      </Page>
    );
  return <Prepared key={id} look={look.data} frames={frames.data} />;
}

/** The files that can be made, by what they are called. */
function useOffers(look: LookRecord, revision: Revision | null, mark: string, order: BakeOrder) {
  return useQuery({
    queryKey: ["offers", look.id, mark, naming(order)],
    queryFn: () =>
      got(
        server.POST("/api/looks/{look_id}/offers", {
          params: { path: { look_id: look.id }, query: revision ? { revision: revision.id } : {} },
          body: naming(order),
        }),
      ),
    placeholderData: (last) => last,
    staleTime: 60_000,
  });
}

/** Bakes a revision; the draft is kept as one first. onKept: told its id. */
function useBake(
  look: LookRecord,
  revision: Revision | null,
  order: BakeOrder,
  offers: ReturnType<typeof useOffers>["data"],
  onKept: (revision: number) => void,
) {
  return useWrite(
    async () => {
      const of =
        revision ?? (await got(server.POST("/api/looks/{look_id}/revisions", keeping(look.id, order.note))));
      const kinds = order.kinds.filter((k) => offers?.some((o) => o.offer.key === k && !o.offer.why));
      const made = await got(
        server.POST("/api/revisions/{revision_id}/bakes", {
          params: { path: { revision_id: of.id } },
          body: { ...order, kinds },
        }),
      );
      return { made, of };
    },
    ["bakes", "look", "catalogue"],
    ({ of }) => onKept(of.id),
  );
}

/** How many files will be baked, or were. ready: those that can be. */
function Bottom(props: { look: LookRecord; ready: number; bake: ReturnType<typeof useBake> }) {
  const { look, ready, bake } = props;
  const navigate = useNavigate();
  const files = `${ready} ${ready === 1 ? "file" : "files"}`;
  const made = bake.data?.made.length;
  return (
    <Foot>
      <div>
        {made ? (
          <span role="status">{made === 1 ? "1 file was baked." : `${made} files were baked.`}</span>
        ) : (
          files
        )}
        <small>kept with the revision; what was baked never changes</small>
      </div>
      <Grow />
      <Trouble error={bake.error} />
      <Quiet>keys 1 2 3: grid · F: fitted or sampled</Quiet>
      <Button onPress={() => void navigate(`/bench/${look.id}`)}>Back to the bench</Button>
      {look.may_edit ? (
        <Button look="main" isDisabled={!ready || bake.isPending} onPress={() => bake.mutate()}>
          {bake.isPending ? "Baking …" : `Bake ${files}`}
        </Button>
      ) : null}
    </Foot>
  );
}

function Prepared({ look, frames }: { look: LookRecord; frames: Frame[] }) {
  const [search, setSearch] = useSearchParams();
  const [order, setOrder] = useState(() => begin(look.name));
  const change = useCallback((said: Partial<BakeOrder>) => setOrder((last) => ({ ...last, ...said })), []);
  const { all, frame, show } = useShownFrame();
  const label = useEncodingLabel();
  const named = look.revisions.find((r) => r.id === Number(search.get("revision")));
  const draft = search.get("revision") === "draft" || !look.revisions.length;
  const revision = draft ? null : (named ?? look.revisions[0])!;
  const recipe = useQuery({ ...asked.recipe(revision?.id ?? 0), enabled: revision !== null });
  const inside: Look | undefined = revision ? recipe.data : look.draft;
  const mark = revision ? revision.digest.slice(0, 8) : `draft ${look.draft_version}`;
  const measured = useMemo(() => frames.filter((f) => !f.chart).slice(0, MOST_FRAMES), [frames]);

  const offers = useOffers(look, revision, mark, order);
  const bakes = useQuery({
    queryKey: ["bakes", look.id],
    queryFn: () => got(server.GET("/api/looks/{look_id}/bakes", { params: { path: { look_id: look.id } } })),
  });
  const [proofs, trouble] = useProofs(
    { id: look.id, revision: revision?.id ?? null, mark, frames: measured },
    order.grid,
  );

  const bake = useBake(look, revision, order, offers.data, (of) =>
    setSearch({ revision: String(of) }, { replace: true }),
  );
  useKeys(
    useCallback((said) => change(said), [change]),
    order,
  );

  const ready = (offers.data ?? []).filter((o) => order.kinds.includes(o.offer.key) && !o.offer.why).length;
  return (
    <Page>
      <TopBar>
        <Title>
          {revision ? <Saucer src={saucerOf(revision)} size={30} of={look.name} /> : null}
          <div>
            <b>{look.name}</b>
            <span>{revision ? `bake of r${revision.number}, ${revision.status}` : "bake of the draft"}</span>
          </div>
        </Title>
        <Choice
          label="What is baked"
          look="inline"
          chosen={revision ? String(revision.id) : "draft"}
          onChange={(chosen) => setSearch({ revision: chosen }, { replace: true })}
          options={[
            ...look.revisions.map((r) => ({
              key: String(r.id),
              label: `r${r.number}, ${r.status}`,
              note: r.note,
            })),
            ...(look.may_edit
              ? [{ key: "draft", label: "the draft", note: "kept as a new revision first" }]
              : []),
          ]}
        />
      </TopBar>
      <Body>
        {inside ? <Inside look={inside} strength={inside.strength ?? 1} /> : null}
        <main className="middle">
          {offers.error ? <Trouble error={offers.error} /> : null}
          <Files offers={offers.data ?? []} order={order} onChange={change} />
          <Grids
            proofs={proofs}
            frames={measured.length}
            grid={order.grid}
            method={order.method}
            onChoose={(grid, method) => change({ grid, method })}
          />
          <Trouble error={trouble} />
          <Naming order={order} offers={offers.data ?? []} onChange={change} />
        </main>
        <div className="right">
          {inside ? (
            <Off
              id={look.id}
              look={inside}
              revision={revision?.id ?? null}
              mark={mark}
              frames={measured}
              all={all}
              frame={frame}
              onFrame={show}
              grid={order.grid}
              method={order.method}
              proof={proofs.get(key(order.grid, order.method))}
            />
          ) : null}
          {inside ? (
            <Finished
              id={look.id}
              revision={revision?.id ?? null}
              frames={frames}
              output={label(inside.output)}
              finish={Object.values(inside.finish ?? {}).some(
                (effect) => "amount" in effect && effect.amount !== 0,
              )}
            />
          ) : null}
          <Made bakes={bakes.data ?? []} revision={revision?.id ?? null} method={order.method} />
        </div>
      </Body>
      <Bottom look={look} ready={ready} bake={bake} />
    </Page>
  );
}

const keeping = (id: number, note: string) => ({
  params: { path: { look_id: id } },
  body: { note: note || "kept for a bake" },
});

/** 1, 2 and 3 choose the grid, F the method, wherever no letters are typed. */
function useKeys(change: (said: Partial<BakeOrder>) => void, { method }: { method: Method }): void {
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (
        e.ctrlKey ||
        e.metaKey ||
        e.altKey ||
        (e.target instanceof Element && e.target.closest("input:not([type=radio]), textarea"))
      )
        return;
      const grid = GRIDS[Number(e.key) - 1];
      if (grid) change({ grid });
      else if (e.key.toLowerCase() === "f") change({ method: method === "fitted" ? "sampled" : "fitted" });
      else return;
      e.preventDefault();
    };
    document.addEventListener("keydown", press);
    return () => document.removeEventListener("keydown", press);
  }, [change, method]);
}
