/** The bench: order, control, result. */
import { useCallback, useEffect, useMemo, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { useStore } from "zustand";
import { api } from "../api/client";
import { client, useFrames, useKinds, useLook } from "../api/queries";
import type { LookRecord, Revision } from "../api/types";
import { BakeSheet } from "../bake/sheet";
import { Button, Segments, Text } from "../kit/controls";
import { Empty, Notice, Sheet, Trouble, Waiting } from "../kit/sheet";
import { Page, TopBar } from "../kit/topbar";
import { useFeed, useTrouble, type Wish } from "../viewer/live";
import { useReadings } from "../viewer/readings";
import { Stage, type Mode } from "../viewer/stage";
import { Strip } from "../viewer/strip";
import { decide, restore, settle, useAutosave } from "./autosave";
import { useCalmDraft } from "./calm";
import { Control } from "./control";
import { Histogram } from "./histogram";
import { Order } from "./order";
import { Portrait } from "./portrait";
import { redo, undo, useBench } from "./store";
import { flatten } from "./steps";

const Body = styled.div`
  flex: 1; min-height: 0; display: flex;
  .result { flex: 1; min-width: 0; display: flex; flex-direction: column; gap: 8px; padding: 10px 16px 12px; background: var(--g0); }
  .below { display: flex; align-items: center; gap: 12px; flex: none; color: var(--t2); font-size: 12px; flex-wrap: wrap; }
  .readings { flex: none; display: grid; grid-template-columns: minmax(240px, 420px) 1fr; gap: 22px; align-items: start; }
`;
const Title = styled.div`
  flex: 1; display: flex; align-items: center; gap: 10px; min-width: 0; justify-content: center;
  .names { min-width: 0; }
  .names b { display: block; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; font-weight: 600; }
  .names span { color: var(--t2); font-size: 12px; white-space: nowrap; }
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
  const ago = Math.max(0, Math.round((Date.now() - savedAt) / 1000));
  const when = ago < 3 ? "just now" : ago < 90 ? `${ago} s ago` : ago < 5400 ? `${Math.round(ago / 60)} min ago` : new Date(savedAt).toLocaleDateString("en-GB");
  if (saving === "kept") return `${from} · kept ${when}`;
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
      <Button look="quiet" aria-label="Redo" isDisabled={!future || readOnly} onPress={redo}>↷</Button>
    </>
  );
}

const SURROUNDS = [["#161616", "Dark"], ["#767676", "Mid grey"], ["#ffffff", "White"]] as const;

export default function Bench() {
  const id = Number(useParams().id);
  const record = useLook(id);
  const frames = useFrames();
  const kinds = useKinds();
  const [search, setSearch] = useSearchParams();
  const [mode, setMode] = useState<Mode>("look");
  const [held, setHeld] = useState(false);
  const [surround, setSurround] = useState<string>("#161616");
  const [sheet, setSheet] = useState<"" | "keep" | "bake" | "keys">("");
  const [baked, setBaked] = useState<Revision | null>(null);
  const draft = useCalmDraft();
  const late = useBench((s) => s.late);
  const opened = useBench((s) => s.id);
  const readOnly = !record.data?.may_edit || late !== null;
  useAutosave(!!record.data?.may_edit && opened === id);

  useEffect(() => {
    if (record.data && useBench.getState().id !== record.data.id) {
      useBench.getState().open(record.data, restore(record.data.id, record.data.draft_version));
    }
  }, [record.data]);
  useEffect(() => () => {
    useBench.setState({ id: 0 });
    void client.invalidateQueries({ queryKey: ["look"] });
  }, []);
  useEffect(() => {
    document.title = record.data ? `${record.data.name} · Saucer` : "Saucer";
  }, [record.data]);

  const all = useMemo(() => frames.data ?? [], [frames.data]);
  const frame = all.find((f) => f.id === Number(search.get("frame"))) ?? all[0] ?? null;
  const wish = useMemo<Wish | null>(
    () => (opened === id && frames.data ? { look: draft, frame: frame?.id ?? null, traces: true } : null),
    [opened, id, draft, frame?.id, frames.data],
  );
  const choose = useCallback((f: number) => setSearch({ frame: String(f) }, { replace: true }), [setSearch]);
  const feed = useFeed(wish);
  const trouble = useTrouble(feed);
  const read = useReadings(wish);
  const shown = frame?.id ?? null;
  // The change itself asks, so that the picture does not wait for the screen to be drawn anew.
  useEffect(
    () => useBench.subscribe((now, last) => {
      if (now.draft !== last.draft && now.id === id) feed.ask({ look: now.draft, frame: shown, traces: true });
    }),
    [feed, id, shown],
  );

  useEffect(() => {
    const typing = (e: KeyboardEvent) => e.target instanceof Element && e.target.closest("input, textarea, [role=dialog], [contenteditable]");
    const down = (e: KeyboardEvent) => {
      const mod = e.ctrlKey || e.metaKey;
      if (mod && e.key.toLowerCase() === "z" && !typing(e)) {
        e.preventDefault();
        if (e.shiftKey) redo();
        else undo();
      } else if (!mod && !typing(e)) {
        if (e.key === "o") setHeld(true);
        else if (e.key === "h") setMode((m) => (m === "split" ? "look" : "split"));
        else if (e.key === "?") setSheet("keys");
        else if (e.key === "," || e.key === ".") {
          const k = all.findIndex((f) => f.id === frame?.id) + (e.key === "," ? -1 : 1);
          const next = all[(k + all.length) % all.length];
          if (next) setSearch({ frame: String(next.id) }, { replace: true });
        }
      }
    };
    const up = (e: KeyboardEvent) => e.key === "o" && setHeld(false);
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    return () => {
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
    };
  }, [all, frame?.id, setSearch]);

  if (!record.data || !kinds.data || opened !== id) {
    const failing = record.error ? record : kinds.error ? kinds : record;
    return <Page><TopBar /><main><Waiting query={failing} what="look" /></main></Page>;
  }
  const look = record.data;
  const broken = trouble && typeof trouble.detail.step === "string" ? trouble.detail.step : null;
  const known = new Set(flatten(draft.steps).map((r) => r.step.id));
  const failing = broken && known.has(broken) ? broken : null;

  return (
    <Page>
      <TopBar>
        <Title>
          <Portrait draft={draft} name={look.name} />
          <div className="names"><b>{look.name}</b><Saved record={look} /></div>
        </Title>
        <Steps readOnly={readOnly} />
        <Button isDisabled={readOnly} onPress={() => setSheet("keep")}>Keep revision</Button>
        <Button look="main" isDisabled={readOnly && !look.revisions.length} onPress={() => { setBaked(null); setSheet("bake"); }}>Bake</Button>
      </TopBar>
      {late ? (
        <Notice
          actions={<><Button onPress={() => void decide(false)}>Go on with theirs</Button><Button look="main" onPress={() => void decide(true)}>Go on with mine</Button></>}
        >
          {late.message}
        </Notice>
      ) : null}
      {!look.may_edit ? <Notice>You can look at this look and try it; changing it is for look designers.</Notice> : null}
      {trouble && trouble.status ? <Notice>{trouble.message}</Notice> : null}
      <Body>
        <Order feed={feed} kinds={kinds.data} readOnly={readOnly} broken={failing} />
        <Control feed={feed} read={read} kinds={kinds.data} readOnly={readOnly} />
        <main className="result">
          {all.length ? (
            <>
              <Strip frames={all} chosen={frame?.id ?? null} input={draft.input} feed={feed} onChoose={choose} />
              <Stage frame={frame} input={draft.input} feed={feed} mode={held ? "original" : mode} wish={wish} surround={surround} />
              <div className="below">
                <Segments label="Show" options={[["original", "Original"], ["look", "Look"], ["split", "Split"]] as const} chosen={mode} onChange={setMode} />
                <span>hold O for the original</span>
                <span style={{ flex: 1 }} />
                <span>surround</span>
                <Segments label="Surround" options={SURROUNDS} chosen={surround} onChange={setSurround} />
                <Button look="icon" aria-label="Keys" onPress={() => setSheet("keys")}>?</Button>
              </div>
              <div className="readings">
                <Histogram counts={read?.histogram ?? null} />
                <FrameFacts frame={frame} />
              </div>
            </>
          ) : frames.isPending ? null : (
            <Empty title="No frames yet">Bring in a few reference pictures under Frames: daylight, dusk, night, skin. A look is judged on all of them.</Empty>
          )}
        </main>
      </Body>
      {sheet === "keep" ? <KeepSheet id={id} next={(look.revisions[0]?.number ?? 0) + 1} onClose={() => setSheet("")} onKept={setBaked} onBake={() => setSheet("bake")} /> : null}
      {sheet === "bake" ? <BakeSheet look={look} revision={baked} onClose={() => setSheet("")} /> : null}
      {sheet === "keys" ? <KeySheet onClose={() => setSheet("")} /> : null}
    </Page>
  );
}

function FrameFacts({ frame }: { frame: import("../api/types").Frame | null }) {
  if (!frame) return null;
  const t = frame.trim;
  const trims = [
    t.exposure ? `${t.exposure > 0 ? "+" : "−"}${Math.abs(t.exposure).toFixed(2).replace(/\.?0+$/, "")} stops` : "",
    t.temperature ? `temperature ${t.temperature}` : "",
    t.tint ? `tint ${t.tint}` : "",
    t.contrast !== 1 ? `contrast × ${t.contrast}` : "",
  ].filter(Boolean);
  return (
    <div>
      <h2>Frame</h2>
      <p style={{ color: "var(--t2)", fontSize: 12, marginTop: 4 }}>
        <span style={{ color: "var(--t1)", fontSize: 13 }}>{frame.name}</span><br />
        {frame.width} × {frame.height}, {frame.kind} {frame.depth}<br />
        trim {trims.length ? trims.join(", ") : "none"}
      </p>
    </div>
  );
}

function KeepSheet(props: { id: number; next: number; onClose: () => void; onKept: (r: Revision) => void; onBake: () => void }) {
  const [note, setNote] = useState("");
  const [error, setError] = useState<unknown>(null);
  const keep = async (then: () => void) => {
    try {
      await settle();
      const revision = await api.post<Revision>(`/looks/${props.id}/revisions`, { note });
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
        <Button look="main" onPress={() => void keep(props.onClose)}>Keep</Button>
      </footer>
    </Sheet>
  );
}

const KEYS = [
  ["hold O", "the original"], ["H", "split on and off"], [", and .", "frame before, frame after"], ["Ctrl Z", "undo"],
  ["Ctrl Shift Z", "redo"], ["Alt ↑, Alt ↓", "move the chosen step"], ["Delete", "remove the chosen steps"],
  ["arrows on a curve point", "move it by one 8-bit step, with Shift by ten"], ["?", "this sheet"],
] as const;

function KeySheet({ onClose }: { onClose: () => void }) {
  return (
    <Sheet title="Keys" width={420} onClose={onClose}>
      <dl style={{ display: "grid", gridTemplateColumns: "auto 1fr", gap: "7px 22px" }}>
        {KEYS.map(([key, does]) => [<dt key={key} style={{ fontWeight: 600 }}>{key}</dt>, <dd key={does} style={{ color: "var(--t2)", margin: 0 }}>{does}</dd>])}
      </dl>
    </Sheet>
  );
}
