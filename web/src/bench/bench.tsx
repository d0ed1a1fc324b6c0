/** The bench: order, control, result. */
import { memo, useCallback, useEffect, useMemo, useState } from "react";
import { Menu, MenuItem, MenuTrigger } from "react-aria-components";
import { useNavigate, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { client, useFrames, useKinds, useLook, useMe } from "../api/queries";
import type { DraftPresence, LookRecord, Trim } from "../api/types";
import { Button } from "../kit/button";
import { Menued } from "../kit/menued";
import { Notice } from "../kit/notice";
import { Waiting } from "../kit/waiting";
import { Page, TopBar } from "../kit/topbar";
import { longAgo } from "../kit/when";
import { createFeed, useTrouble } from "../viewer/live";
import { decide, restore, settle, useAutosave } from "./autosave";
import { keysOf } from "./commands";
import { Control } from "./control";
import type { EffectName } from "./finish";
import { KeepSheet } from "./keepsheet";
import { KeySheet } from "./keysheet";
import { Kin } from "./kin";
import { Order } from "./order";
import { Portrait } from "./portrait";
import { usePresence } from "./presence";
import { Result } from "./result";
import { openStates, setAside } from "./states";
import { redo, undo, useBench } from "./store";
import { TrimControl } from "./trim";
import { useKeys } from "./usekeys";
import { VarySheet } from "./varysheet";
import { resetView, useView, view } from "./view";

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
function UndoRedo({ readOnly }: { readOnly: boolean }) {
  const edit = useBench((s) => s.edit);
  const past = useStore(useBench.temporal, (s) => s.pastStates.length > 0);
  const future = useStore(useBench.temporal, (s) => s.futureStates.length > 0);
  return (
    <>
      <Button
        look="quiet"
        aria-label={past ? `Undo ${edit}` : "Nothing to undo"}
        isDisabled={!past || readOnly}
        onPress={undo}
      >
        ↶{past && edit ? ` ${edit.length > 16 ? `${edit.slice(0, 15)}…` : edit}` : ""}
      </Button>
      <Button look="quiet" aria-label="Redo" isDisabled={!future || readOnly} onPress={redo}>
        ↷
      </Button>
    </>
  );
}

type SheetName = "" | "keep" | "keys" | "vary";

/** The top bar: the look, how far it is kept, and what to do with it as a whole. */
const Head = memo(function Head(props: {
  look: LookRecord;
  presence: DraftPresence | null;
  readOnly: boolean;
  trimming: boolean;
  onSheet: (sheet: SheetName) => void;
  onBake: () => void;
}) {
  const { look, presence, readOnly, trimming, onSheet } = props;
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
          {presence?.mine && presence.others.length ? (
            <span role="status">{` · ${presence.others.join(", ")} ${presence.others.length > 1 ? "look" : "looks"} on`}</span>
          ) : null}
        </div>
      </Title>
      <UndoRedo readOnly={readOnly} />
      <MenuTrigger>
        <Button look="quiet">More ▾</Button>
        <Menued placement="bottom end">
          <Menu aria-label="More" onAction={(key) => more(String(key))}>
            {[
              { id: "vary", name: "Make a variation", note: "" },
              { id: "aside", name: "Set the draft aside as a state", note: keysOf("aside") },
              { id: "trim", name: trimming ? "Back to the look" : "Trim this frame", note: keysOf("trim") },
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
      <Button look="main" isDisabled={readOnly && !look.revisions.length} onPress={props.onBake}>
        Bake
      </Button>
    </TopBar>
  );
});

export default function Bench() {
  const id = Number(useParams().id);
  const record = useLook(id);
  const frames = useFrames();
  const { data: me } = useMe();
  const kinds = useKinds();
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const [held, setHeld] = useState(false);
  const [surround, setSurround] = useState<string>("#161616");
  const [sheet, setSheet] = useState<SheetName>("");
  const [effect, setEffect] = useState<EffectName | null>(null);
  const [trim, setTrim] = useState<Trim | null>(null);
  const step = search.get("step");
  const late = useBench((s) => s.late);
  const opened = useBench((s) => s.id);
  const { preview, only, trimming, full } = useView(
    useShallow(({ preview, only, trimming, full }) => ({ preview, only, trimming, full })),
  );
  const { presence, take } = usePresence(id, !!record.data?.may_edit && opened === id);
  const away = !!presence && !presence.mine;
  const readOnly = !record.data?.may_edit || late !== null || away;
  useAutosave(!!record.data?.may_edit && opened === id && !away);

  useEffect(() => {
    if (record.data && useBench.getState().id !== record.data.id) {
      resetView();
      openStates(record.data.id);
      useBench.getState().open(record.data, restore(record.data.id, record.data.draft_version));
      if (step) useBench.getState().choose(new Set([step]));
    }
  }, [record.data, step]);
  // Whoever only looks on sees what the other one does.
  const { refetch } = record;
  useEffect(() => {
    if (!away) return;
    const timer = setInterval(() => void refetch(), 4000);
    return () => clearInterval(timer);
  }, [away, refetch]);
  useEffect(() => {
    const now = useBench.getState();
    if (
      away &&
      record.data &&
      now.id === record.data.id &&
      now.saving === "kept" &&
      now.version < record.data.draft_version
    )
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
  // The store asks for the picture when the draft changes, without waiting for React to redraw.
  useEffect(() => {
    if (!ready) return;
    // As it is now: what the control shows in place of the draft may have come since this was drawn.
    feed.ask({
      look: useView.getState().preview?.look ?? useBench.getState().draft,
      frame: shown,
      traces: true,
      only,
    });
    return useBench.subscribe((now, last) => {
      if (now.draft !== last.draft && now.id === id)
        feed.ask({ look: now.draft, frame: shown, traces: true, only });
    });
  }, [ready, feed, id, shown, only, preview]);

  const help = useCallback(() => setSheet("keys"), []);
  const keys = useMemo(() => ({ frames: all, frame: shown, choose, help }), [all, shown, choose, help]);
  useKeys(keys, setHeld);

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
  /** The draft is saved first, as baking asks for it. */
  const bake = async (which: string) => {
    if (!readOnly) await settle();
    await client.invalidateQueries({ queryKey: ["look", id] });
    await navigate(`/bench/${id}/bake${which}`);
  };
  const takeOver = async () => {
    await take();
    const { data } = await refetch();
    if (data && useBench.getState().version < data.draft_version) useBench.getState().open(data);
  };
  return (
    <Page>
      <Head
        look={look}
        presence={presence}
        readOnly={readOnly}
        trimming={trimming}
        onSheet={setSheet}
        onBake={() => void bake("")}
      />
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
      {away && presence ? (
        <Notice
          actions={
            <>
              <Button onPress={() => setSheet("vary")}>Work on a variation</Button>
              <Button onPress={() => void takeOver()}>Take over</Button>
            </>
          }
        >
          {presence.holder} is working on this draft. You see it as it is kept, and change nothing in it.
        </Notice>
      ) : null}
      {look.may_edit ? null : me?.may_design ? (
        <Notice actions={<Button onPress={() => setSheet("vary")}>Work on a variation</Button>}>
          {look.maker} made this look and has not shared it. Try it, and work on a variation of it.
        </Notice>
      ) : (
        <Notice>You can look at this look and try it; changing it is for look designers.</Notice>
      )}
      {trouble && trouble.status ? <Notice>{trouble.message}</Notice> : null}
      <Body>
        {full ? null : (
          <>
            <Order
              feed={feed}
              kinds={kinds.data}
              readOnly={readOnly}
              broken={broken}
              effect={effect}
              onEffect={setEffect}
              parent={kin}
            />
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
          onBake={(revision) => void bake(`?revision=${revision.id}`)}
        />
      ) : null}
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
