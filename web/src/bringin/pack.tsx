/** A pack: what it brings, judged on a frame; what is kept of it. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { FileTrigger } from "react-aria-components";
import { useNavigate, useParams } from "react-router";
import { KeyCap } from "../kit/keycap";
import styled from "styled-components";
import { got, server } from "../api/client";
import { asked, client } from "../api/queries";
import type { Pack } from "../api/types";
import { askAgain, useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { bytes } from "../kit/bytes";
import { Empty } from "../kit/empty";
import { useShownFrame } from "../kit/frame";
import { FrameChoice } from "../kit/framechoice";
import { Grow, Level, Quiet, Warned } from "../kit/layout";
import { Segments } from "../kit/segments";
import { Page, TopBar } from "../kit/topbar";
import { turnOf } from "../kit/turn";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { AboutPack, type PackSaid } from "./about";
import { chosen } from "./gather";
import { counts, folders, unread, willBeKept, type View } from "./judging";
import { Heads, Rows, type Say } from "./rows";
import { useSending } from "./send";

const Body = styled.main`
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  grid-template-rows: minmax(0, 1fr) auto;
  .left {
    display: flex;
    flex-direction: column;
    min-height: 0;
  }
  .left > header {
    display: flex;
    align-items: center;
    gap: 12px;
    padding: 10px 14px;
    white-space: nowrap;
  }
  .left > header ${Quiet} {
    overflow: hidden;
    text-overflow: ellipsis;
  }
  footer {
    grid-column: 1 / -1;
    border-top: 1px solid var(--line);
    padding: 10px 16px;
    display: flex;
    align-items: center;
    gap: 14px;
    position: relative;
    min-height: 58px;
  }
  footer progress {
    position: absolute;
    top: -2px;
    left: 0;
    width: 100%;
    height: 3px;
    appearance: none;
    border: 0;
    background: none;
  }
  footer progress::-webkit-progress-bar {
    background: none;
  }
  footer progress::-webkit-progress-value {
    background: var(--accent);
  }
  footer progress::-moz-progress-bar {
    background: var(--accent);
  }
  footer strong {
    font-weight: 600;
  }
  footer kbd {
    margin: 0 4px 0 10px;
  }
`;

/** The choice of a frame as the head of a column. */
const OnFrame = styled.span`
  display: flex;
  align-items: center;
  white-space: nowrap;
  min-width: 0;
`;

const busy = (pack: Pack | undefined) => pack?.stage === "reading" || pack?.stage === "keeping";
/** Milliseconds that typing rests before what was said is sent. */
const REST = 500;
/** Milliseconds between two looks at work under way: longer where there is more to be sent each time. */
const again = (pack: Pack | undefined) => 900 + 5 * (pack?.items.length ?? 0);

export default function PackPage() {
  const id = Number(useParams().id);
  const query = useQuery({
    ...asked.pack(id),
    refetchInterval: (q) => (busy(q.state.data) ? again(q.state.data) : false),
  });
  useEffect(() => {
    document.title = "Bring in · Saucer";
  }, []);
  return (
    <Page>
      <TopBar />
      {query.data ? <Loaded pack={query.data} /> : <Waiting query={query} what="pack" />}
    </Page>
  );
}

/**
 * Said of the whole pack: shown at once, sent when typing rests. `sent` waits until the server knows all of
 * it.
 */
function useSaid(pack: Pack) {
  const [said, setSaid] = useState<PackSaid>({});
  const held = useRef<PackSaid>({});
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const write = useWrite(
    (fields: PackSaid & { collections?: Record<string, string> }) =>
      got(server.PATCH("/api/packs/{pack_id}", { params: { path: { pack_id: pack.id } }, body: fields })),
    [],
    (answer) => client.setQueryData(["pack", pack.id], answer),
  );
  const sent = async () => {
    clearTimeout(timer.current);
    const fields = held.current;
    held.current = {};
    if (Object.keys(fields).length) await write.mutateAsync(fields);
  };
  const say = (fields: PackSaid) => {
    setSaid((last) => ({ ...last, ...fields }));
    held.current = { ...held.current, ...fields };
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void sent().catch(() => undefined), REST);
  };
  return { shown: { ...pack, ...said }, say, sent, write };
}

function Loaded({ pack }: { pack: Pack }) {
  const navigate = useNavigate();
  const { all, frame, show } = useShownFrame();
  const [view, setView] = useState<View>("all");
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const about = useSaid(pack);
  const sending = useSending(frame?.id);
  const at = { params: { path: { pack_id: pack.id } } };

  const items = useWrite(
    (said: { ids: number[] } & Parameters<Say>[1]) =>
      got(server.PATCH("/api/packs/{pack_id}/items", { ...at, body: said })),
    [],
    (changed) => {
      const now = new Map(changed.map((i) => [i.id, i]));
      client.setQueryData<Pack>(
        ["pack", pack.id],
        (last) => last && { ...last, items: last.items.map((i) => now.get(i.id) ?? i) },
      );
    },
  );
  const say: Say = (ids, said) => items.mutate({ ids, ...said });
  const read = useWrite(
    () => got(server.POST("/api/packs/{pack_id}/read", { ...at, body: { frame: frame?.id } })),
    ["pack"],
  );
  const keep = useWrite(async () => {
    await about.sent();
    return got(server.POST("/api/packs/{pack_id}/keep", at));
  }, ["pack"]);
  const stop = useWrite(async () => {
    if (pack.job)
      await got(server.POST("/api/jobs/{job_id}/cancel", { params: { path: { job_id: pack.job.id } } }));
  }, ["pack"]);
  const drop = useWrite(
    () => got(server.DELETE("/api/packs/{pack_id}", at)),
    ["packs"],
    () => void navigate("/catalogue/bring-in"),
  );
  // What was kept stands in the catalogue from then on.
  const finished = pack.stage === "kept";
  useEffect(() => {
    if (!finished) return;
    void askAgain(["catalogue", "luts", "worked", "packs"]);
  }, [finished]);

  const many = counts(pack.items);
  const kept = pack.items.filter((i) => i.kept).length;
  const will = pack.items.filter(willBeKept).length;
  const working = busy(pack);
  const failed = pack.job && pack.job.state === "failed" ? pack.job.reason : "";

  if (finished) {
    return (
      <main>
        <Empty
          title={`${kept} ${kept === 1 ? "look" : "looks"} of ${pack.name} kept`}
          action={
            <Level>
              <Button look="main" onPress={() => void navigate("/catalogue")}>
                Open the catalogue
              </Button>
              <Button onPress={() => void navigate("/catalogue/bring-in")}>Bring in more</Button>
            </Level>
          }
        >
          They stand in the catalogue, with where they come from and who may pass them on.
        </Empty>
      </main>
    );
  }
  return (
    <Body>
      <div className="left">
        <header>
          <h1>Bring in</h1>
          <Quiet>
            {pack.name}, {pack.files} {pack.files === 1 ? "file" : "files"} sent, {bytes(pack.bytes)}
          </Quiet>
          <FileTrigger allowsMultiple onSelect={(files) => void sending.send(chosen(files), pack.id)}>
            <Button look="quiet" isDisabled={working || sending.sent !== null}>
              {sending.sent ? `Sending ${sending.sent.done} of ${sending.sent.of} …` : "+ more files"}
            </Button>
          </FileTrigger>
          <Grow />
          {pack.items.length ? (
            <Segments
              label="Rows shown"
              chosen={view}
              onChange={setView}
              options={[
                ["all", `All ${many.all}`],
                ["look", `To look at ${many.look}`],
                ["twins", `Twins ${many.twins}`],
                ["unread", `Not read ${many.unread}`],
              ]}
            />
          ) : null}
        </header>
        {pack.items.length ? (
          <>
            <Heads>
              <span />
              <span />
              <span>look</span>
              <OnFrame>
                <FrameChoice all={all} frame={frame} onChoose={show} />
              </OnFrame>
              <span>kind</span>
              <span>expects → gives</span>
              <span>health</span>
            </Heads>
            <Rows
              folders={folders(pack.items, view, open)}
              frame={frame}
              collections={pack.collections}
              onCollection={(folder, name) =>
                about.write.mutate({ collections: { ...pack.collections, [folder]: name } })
              }
              onOpen={(folder) => setOpen((last) => new Set([...last, folder]))}
              onSay={say}
            />
          </>
        ) : pack.stage === "gathering" ? (
          <Empty
            title="Not read yet"
            action={
              <Button look="main" isDisabled={read.isPending} onPress={() => read.mutate()}>
                Read it
              </Button>
            }
          >
            {pack.files} {pack.files === 1 ? "file waits" : "files wait"}. Reading keeps nothing: each look is
            measured and shown on your frame first.
          </Empty>
        ) : (
          <Empty title="Reading …">The first looks appear here in a moment.</Empty>
        )}
      </div>
      <AboutPack
        pack={about.shown}
        disabled={working}
        onSay={about.say}
        onEncodings={(meant, said) =>
          say(
            meant.map((i) => i.id),
            said,
          )
        }
      />
      <footer>
        {working && pack.job ? (
          <progress value={pack.job.done} max={Math.max(pack.job.total, 1)} aria-label="How far it is" />
        ) : null}
        <div>
          <div role="status">
            {working ? (
              <strong>
                {pack.stage === "reading" ? "Reading" : "Keeping"} {pack.job?.done ?? 0} of{" "}
                {pack.job?.total ?? 0}
              </strong>
            ) : (
              <strong>
                {will} of {many.all} will be kept
              </strong>
            )}
            {many.twins ? <Quiet>, {many.twins} twins</Quiet> : null}
            {pack.items.some(unread) ? <Quiet>, {many.unread} cannot be read</Quiet> : null}
            {kept ? <Quiet>, {kept} kept already</Quiet> : null}
          </div>
          {working ? (
            <Quiet>
              {pack.job && turnOf(pack.job) ? `${turnOf(pack.job)}; ` : ""}you may go on working elsewhere
            </Quiet>
          ) : null}
          {failed ? <Warned role="alert">{failed}</Warned> : null}
          {sending.error ||
          about.write.error ||
          items.error ||
          read.error ||
          keep.error ||
          stop.error ||
          drop.error ? (
            <Trouble
              error={
                sending.error ??
                about.write.error ??
                items.error ??
                read.error ??
                keep.error ??
                stop.error ??
                drop.error
              }
            />
          ) : null}
        </div>
        <Grow />
        {!working && will && !about.shown.origin.trim() ? (
          <Quiet>To keep them, say where they come from.</Quiet>
        ) : (
          <Quiet>
            <KeyCap>Space</KeyCap>keep or leave<KeyCap>E</KeyCap>encodings
          </Quiet>
        )}
        {working ? (
          <Button isDisabled={stop.isPending} onPress={() => stop.mutate()}>
            Stop
          </Button>
        ) : (
          <Button isDisabled={drop.isPending} onPress={() => drop.mutate()}>
            Let go of it
          </Button>
        )}
        <Button
          look="main"
          isDisabled={working || !will || keep.isPending || !about.shown.origin.trim()}
          onPress={() => keep.mutate()}
        >
          Keep {will} {will === 1 ? "look" : "looks"}
        </Button>
      </footer>
    </Body>
  );
}
