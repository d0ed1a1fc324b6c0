/** The bench: order, control, result. */
import { memo, useCallback, useEffect, useMemo, useState } from "react";
import { Menu, MenuItem, MenuTrigger } from "react-aria-components";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { got, server, whole } from "../api/client";
import { client, useFrames, useKinds, useLook } from "../api/queries";
import type { Change, LookRecord, Revision, Seats, Trim } from "../api/types";
import { BakeSheet } from "../bake/sheet";
import { Button, Menued, Text } from "../kit/controls";
import { Notice, Sheet, Trouble, Waiting } from "../kit/sheet";
import { Page, TopBar } from "../kit/topbar";
import { longAgo } from "../kit/when";
import { createFeed, useTrouble } from "../viewer/live";
import { WHOLE, zoomed } from "../viewer/zoom";
import { decide, restore, settle, useAutosave } from "./autosave";
import { useCalmDraft } from "./calm";
import { Control } from "./control";
import type { EffectName } from "./finish";
import { KEYS } from "./keys";
import { Order } from "./order";
import { Portrait } from "./portrait";
import { useSeats } from "./presence";
import { Result } from "./result";
import { openStates, setAside } from "./states";
import { redo, undo, useBench } from "./store";
import { TrimControl } from "./trim";
import { resetView, useView, view, type Show } from "./view";

const Body = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
`;
const Title = styled.div`
  flex: 1;
  display: flex;
  align-items: center;
  gap: 10px;
  min-width: 0;
  justify-content: center;
  .names {
    min-width: 0;
  }
  .names b {
    display: block;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    font-weight: 600;
  }
  .names span {
    color: var(--t2);
    font-size: 12px;
    white-space: nowrap;
  }
`;

/** How far the draft is kept, in words, brought up to date every few seconds. */
function useSavedWords(record: LookRecord | undefined): string {
  const saving = useBench((s) => s.saving);
  const savedAt = useBench((s) => s.savedAt);
  const trouble = useBench((s) => s.trouble);
  const [, tick] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => tick((n) => n + 1), 5000);
    return () => clearInterval(timer);
  }, []);
  const from = record?.revisions[0] ? `draft after r${record.revisions[0].number}` : "draft";
  if (saving === "kept") return `${from} · kept ${longAgo(savedAt)}`;
  if (saving === "away") return `${from} · kept in this browser, the server is away`;
  if (saving === "late") return `${from} · two versions`;
  if (saving === "refused") return trouble;
  return `${from} · keeping …`;
}

function Saved({ record }: { record: LookRecord }) {
  return <span role="status">{useSavedWords(record)}</span>;
}

/** Back and forth through the changes. */
function Steps({ readOnly }: { readOnly: boolean }) {
  const edit = useBench((s) => s.edit);
  const past = useStore(useBench.temporal, (s) => s.pastStates.length > 0);
  const future = useStore(useBench.temporal, (s) => s.futureStates.length > 0);
  return (
    <>
      <Button look="quiet" aria-label={past ? `Undo ${edit}` : "Nothing to undo"} isDisabled={!past || readOnly} onPress={undo}>
        ↶{past && edit ? ` ${edit.length > 16 ? `${edit.slice(0, 15)}…` : edit}` : ""}
      </Button>
      <Button look="quiet" aria-label="Redo" isDisabled={!future || readOnly} onPress={redo}>
        ↷
      </Button>
    </>
  );
}

const SHOWN: Record<string, Show> = { "1": "original", "2": "look", "3": "split", "4": "beside", "5": "difference", "6": "baked" };

type SheetName = "" | "keep" | "bake" | "keys" | "vary";

/** The top bar: the look, how far it is kept, and what to do with it as a whole. */
const Head = memo(function Head(props: {
  look: LookRecord;
  seats: Seats | null;
  readOnly: boolean;
  trimming: boolean;
  onSheet: (sheet: SheetName) => void;
  onBaked: (revision: Revision | null) => void;
}) {
  const { look, seats, readOnly, trimming, onSheet } = props;
  const more = (key: string) => {
    if (key === "vary") onSheet("vary");
    if (key === "aside") setAside(useBench.getState().draft);
    if (key === "trim") view({ trimming: !trimming });
  };
  return (
    <TopBar>
      <Title>
        <Portrait name={look.name} />
        <div className="names">
          <b>{look.name}</b>
          <Saved record={look} />
          {seats?.mine && seats.others.length ? (
            <span role="status">{` · ${seats.others.join(", ")} ${seats.others.length > 1 ? "look" : "looks"} on`}</span>
          ) : null}
        </div>
      </Title>
      <Steps readOnly={readOnly} />
      <MenuTrigger>
        <Button look="quiet">More ▾</Button>
        <Menued placement="bottom end">
          <Menu aria-label="More" style={{ outline: "none" }} onAction={(key) => more(String(key))}>
            {[
              { id: "vary", name: "Make a variation", note: "" },
              { id: "aside", name: "Set the draft aside as a state", note: "S" },
              { id: "trim", name: trimming ? "Back to the look" : "Trim this frame", note: "T" },
            ].map((o) => (
              <MenuItem key={o.id} id={o.id}>
                {o.name} <small>{o.note}</small>
              </MenuItem>
            ))}
          </Menu>
        </Menued>
      </MenuTrigger>
      <Button isDisabled={readOnly} onPress={() => onSheet("keep")}>
        Keep revision
      </Button>
      <Button
        look="main"
        isDisabled={readOnly && !look.revisions.length}
        onPress={() => {
          props.onBaked(null);
          onSheet("bake");
        }}
      >
        Bake
      </Button>
    </TopBar>
  );
});

export default function Bench() {
  const id = Number(useParams().id);
  const record = useLook(id);
  const frames = useFrames();
  const kinds = useKinds();
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const [held, setHeld] = useState(false);
  const [surround, setSurround] = useState<string>("#161616");
  const [sheet, setSheet] = useState<SheetName>("");
  const [baked, setBaked] = useState<Revision | null>(null);
  const [effect, setEffect] = useState<EffectName | null>(null);
  const [trim, setTrim] = useState<Trim | null>(null);
  const late = useBench((s) => s.late);
  const opened = useBench((s) => s.id);
  const { preview, only, trimming, full } = useView(useShallow(({ preview, only, trimming, full }) => ({ preview, only, trimming, full })));
  const { seats, take } = useSeats(id, !!record.data?.may_edit && opened === id);
  const away = !!seats && !seats.mine;
  const readOnly = !record.data?.may_edit || late !== null || away;
  useAutosave(!!record.data?.may_edit && opened === id && !away);

  useEffect(() => {
    if (record.data && useBench.getState().id !== record.data.id) {
      resetView();
      openStates(record.data.id);
      useBench.getState().open(record.data, restore(record.data.id, record.data.draft_version));
    }
  }, [record.data]);
  // Whoever only looks on sees what the other one does.
  const { refetch } = record;
  useEffect(() => {
    if (!away) return;
    const timer = setInterval(() => void refetch(), 4000);
    return () => clearInterval(timer);
  }, [away, refetch]);
  useEffect(() => {
    const now = useBench.getState();
    if (away && record.data && now.id === record.data.id && now.saving === "kept" && now.version < record.data.draft_version)
      now.open(record.data);
  }, [away, record.data]);
  useEffect(
    () => () => {
      useBench.setState({ id: 0 });
      resetView();
      void client.invalidateQueries({ queryKey: ["look"] });
    },
    [],
  );
  useEffect(() => {
    document.title = record.data ? `${record.data.name} · Saucer` : "Saucer";
  }, [record.data]);

  const all = useMemo(() => frames.data ?? [], [frames.data]);
  const frame = all.find((f) => f.id === Number(search.get("frame"))) ?? all[0] ?? null;
  const choose = useCallback((f: number) => setSearch({ frame: String(f) }, { replace: true }), [setSearch]);
  const [feed] = useState(createFeed);
  const trouble = useTrouble(feed);
  const shown = frame?.id ?? null;
  const ready = opened === id && !!frames.data;
  // The change itself asks, so that the picture does not wait for the screen to be drawn anew.
  useEffect(() => {
    if (!ready) return;
    // As it is now: what the control shows in place of the draft may have come since this was drawn.
    feed.ask({ look: useView.getState().preview?.look ?? useBench.getState().draft, frame: shown, traces: true, only });
    return useBench.subscribe((now, last) => {
      if (now.draft !== last.draft && now.id === id) feed.ask({ look: now.draft, frame: shown, traces: true, only });
    });
  }, [ready, feed, id, shown, only, preview]);

  useEffect(() => {
    const typing = (e: KeyboardEvent) =>
      e.target instanceof Element &&
      e.target.closest(
        "input:not([type=range], [type=radio], [type=checkbox]), textarea, [role=dialog], [role=menu], [role=listbox], [contenteditable]",
      );
    const down = (e: KeyboardEvent) => {
      const mod = e.ctrlKey || e.metaKey;
      if (typing(e) || e.altKey) return;
      const now = useView.getState();
      if (mod && e.key.toLowerCase() === "z") {
        e.preventDefault();
        if (e.shiftKey) redo();
        else undo();
      } else if (!mod) {
        const mode = SHOWN[e.key];
        if (mode) view({ show: mode });
        else if (e.key === "o") setHeld(true);
        else if (e.key === "h") view({ show: now.show === "split" ? "look" : "split" });
        else if (e.key === "v") view({ down: !now.down });
        else if (e.key === "n") view({ full: !now.full });
        else if (e.key === "t") view({ trimming: !now.trimming });
        else if (e.key === "s") setAside(useBench.getState().draft);
        else if (e.key === "a") {
          const last = [...useBench.getState().chosen].at(-1) ?? null;
          view({ only: now.only || !last ? null : last });
        } else if (e.key === "+" || e.key === "-") view({ zoom: zoomed(now.zoom, e.key === "+" ? 1.5 : 1 / 1.5) });
        else if (e.key === "0") view({ zoom: WHOLE });
        else if (e.key === "Escape" && (now.picking || now.only || now.full)) view({ picking: null, only: null, full: false });
        else if (e.key === "?") setSheet("keys");
        else if (e.key === "," || e.key === ".") {
          const k = all.findIndex((f) => f.id === frame?.id) + (e.key === "," ? -1 : 1);
          const next = all[(k + all.length) % all.length];
          if (next) setSearch({ frame: String(next.id) }, { replace: true });
        }
      }
    };
    const up = (e: KeyboardEvent) => e.key === "o" && setHeld(false);
    // Before lists, which would take letters for the beginning of a row's name.
    window.addEventListener("keydown", down, true);
    window.addEventListener("keyup", up);
    return () => {
      window.removeEventListener("keydown", down, true);
      window.removeEventListener("keyup", up);
    };
  }, [all, frame?.id, setSearch]);

  const help = useCallback(() => setSheet("keys"), []);
  const kin = useMemo(() => (record.data?.parent ? <Kin look={record.data} /> : null), [record.data]);
  if (!record.data || !kinds.data || opened !== id) {
    const failing = record.error ? record : kinds.error ? kinds : record;
    return (
      <Page>
        <TopBar />
        <main>
          <Waiting query={failing} what="look" />
        </main>
      </Page>
    );
  }
  const look = record.data;
  const broken = trouble && typeof trouble.detail.step === "string" ? trouble.detail.step : null;
  const takeOver = async () => {
    await take();
    const { data } = await refetch();
    if (data && useBench.getState().version < data.draft_version) useBench.getState().open(data);
  };
  return (
    <Page>
      <Head look={look} seats={seats} readOnly={readOnly} trimming={trimming} onSheet={setSheet} onBaked={setBaked} />
      {late ? (
        <Notice
          actions={
            <>
              <Button onPress={() => void decide(false)}>Go on with theirs</Button>
              <Button look="main" onPress={() => void decide(true)}>
                Go on with mine
              </Button>
            </>
          }
        >
          {late.message}
        </Notice>
      ) : null}
      {away && seats ? (
        <Notice
          actions={
            <>
              <Button onPress={() => setSheet("vary")}>Work on a variation</Button>
              <Button onPress={() => void takeOver()}>Take over</Button>
            </>
          }
        >
          {seats.holder} is working on this draft. You see it as it is kept, and change nothing in it.
        </Notice>
      ) : null}
      {!look.may_edit ? <Notice>You can look at this look and try it; changing it is for look designers.</Notice> : null}
      {trouble && trouble.status ? <Notice>{trouble.message}</Notice> : null}
      <Body>
        {full ? null : (
          <>
            <Order feed={feed} kinds={kinds.data} readOnly={readOnly} broken={broken} effect={effect} onEffect={setEffect} parent={kin} />
            {trimming && frame ? (
              <TrimControl key={frame.id} frame={frame} frames={all} onTrim={setTrim} />
            ) : (
              <Control feed={feed} kinds={kinds.data} readOnly={readOnly} effect={effect} frame={frame} />
            )}
          </>
        )}
        <Result
          record={look}
          frames={all}
          frame={frame}
          loading={frames.isPending}
          feed={feed}
          held={held}
          surround={surround}
          onSurround={setSurround}
          onChoose={choose}
          trim={trimming ? trim : null}
          readOnly={readOnly}
          onHelp={help}
        />
      </Body>
      {sheet === "keep" ? (
        <KeepSheet
          id={id}
          next={(look.revisions[0]?.number ?? 0) + 1}
          onClose={() => setSheet("")}
          onKept={setBaked}
          onBake={() => setSheet("bake")}
        />
      ) : null}
      {sheet === "bake" ? <BakeSheet look={look} revision={baked} onClose={() => setSheet("")} /> : null}
      {sheet === "vary" ? (
        <VarySheet
          look={look}
          onClose={() => setSheet("")}
          onMade={(made) => {
            setSheet("");
            void navigate(`/bench/${made}`);
          }}
        />
      ) : null}
      {sheet === "keys" ? <KeySheet onClose={() => setSheet("")} /> : null}
    </Page>
  );
}

/** Where a variation comes from, and how it differs from that. */
function Kin({ look }: { look: LookRecord }) {
  const draft = useCalmDraft();
  const [found, setFound] = useState<Change[] | null>(null);
  const parent = look.parent?.id;
  useEffect(() => {
    if (!parent) return;
    let late = false;
    const wait = setTimeout(async () => {
      try {
        const before = (await whole<LookRecord>(server.GET("/api/looks/{look_id}", { params: { path: { look_id: parent } } }))).draft;
        const changes = await got(server.POST("/api/changes", { body: { before, after: draft } }));
        if (!late) setFound(changes);
      } catch {
        // The parent may be gone, or the server away: then nothing is said of it.
      }
    }, 800);
    return () => {
      late = true;
      clearTimeout(wait);
    };
  }, [parent, draft]);
  if (!look.parent) return null;
  return (
    <div className="kin">
      variation of <Link to={`/bench/${look.parent.id}`}>{look.parent.name}</Link>
      {found ? (
        <details>
          <summary>{`${found.length || "no"} ${found.length === 1 ? "difference" : "differences"}`}</summary>
          <ul>
            {found.map((c, k) => (
              <li key={k}>{c.text}</li>
            ))}
          </ul>
        </details>
      ) : null}
    </div>
  );
}

function VarySheet(props: { look: LookRecord; onClose: () => void; onMade: (id: number) => void }) {
  const [name, setName] = useState(`${props.look.name}, ${props.look.variations.length + 2}`);
  const [error, setError] = useState<unknown>(null);
  const make = async () => {
    try {
      const made = await whole<LookRecord>(
        server.POST("/api/looks/{look_id}/variations", {
          params: { path: { look_id: props.look.id } },
          body: { name, draft: useBench.getState().draft },
        }),
      );
      props.onMade(made.id);
    } catch (problem) {
      setError(problem);
    }
  };
  return (
    <Sheet title="Make a variation" width={420} onClose={props.onClose}>
      <p style={{ color: "var(--t2)" }}>
        A look of its own that begins as this draft is now, remembers {props.look.name} as its parent, and shows how it differs.
      </p>
      <Text label="Name" value={name} onChange={setName} autoFocus maxLength={120} />
      <Trouble error={error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" isDisabled={!name.trim()} onPress={() => void make()}>
          Make it
        </Button>
      </footer>
    </Sheet>
  );
}

function KeepSheet(props: { id: number; next: number; onClose: () => void; onKept: (r: Revision) => void; onBake: () => void }) {
  const [note, setNote] = useState("");
  const [error, setError] = useState<unknown>(null);
  const keep = async (then: () => void) => {
    try {
      await settle();
      const revision = await got(
        server.POST("/api/looks/{look_id}/revisions", { params: { path: { look_id: props.id } }, body: { note } }),
      );
      props.onKept(revision);
      await client.invalidateQueries({ queryKey: ["look", props.id] });
      await client.invalidateQueries({ queryKey: ["catalogue"] });
      then();
    } catch (problem) {
      setError(problem);
    }
  };
  return (
    <Sheet title={`Keep revision ${props.next}`} width={420} onClose={props.onClose}>
      <p style={{ color: "var(--t2)" }}>A revision never changes. Projects and bakes use revisions, never the moving draft.</p>
      <Text label="What is new in it" lines={3} value={note} onChange={setNote} autoFocus maxLength={4000} />
      <Trouble error={error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button onPress={() => void keep(props.onBake)}>Keep and bake</Button>
        <Button look="main" onPress={() => void keep(props.onClose)}>
          Keep
        </Button>
      </footer>
    </Sheet>
  );
}

function KeySheet({ onClose }: { onClose: () => void }) {
  return (
    <Sheet title="Keys" width={860} onClose={onClose}>
      <div style={{ columns: 2, columnGap: 34 }}>
        {KEYS.map(([title, keys]) => (
          <section key={title} style={{ breakInside: "avoid", marginBottom: 16 }}>
            <h2 style={{ marginBottom: 6 }}>{title}</h2>
            <dl style={{ display: "grid", gridTemplateColumns: "minmax(130px, auto) 1fr", gap: "5px 16px" }}>
              {keys.map(([key, does]) => [
                <dt key={key} style={{ fontWeight: 600 }}>
                  {key}
                </dt>,
                <dd key={does} style={{ color: "var(--t2)", margin: 0 }}>
                  {does}
                </dd>,
              ])}
            </dl>
          </section>
        ))}
      </div>
    </Sheet>
  );
}
