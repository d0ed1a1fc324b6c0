/** The bench: order, control, result. */
import { useCallback, useMemo, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { useShallow } from "zustand/react/shallow";
import { client, useFrames, useKinds, useLook } from "../api/queries";
import type { Frame, Kind, LookRecord, Trim } from "../api/types";
import { Page, TopBar } from "../kit/topbar";
import { Waiting } from "../kit/waiting";
import { useTrouble, type Feed } from "../viewer/live";
import { useClipsAhead } from "../player/use";
import { settle, useAutosave } from "./autosave";
import { Control } from "./control";
import type { EffectName } from "./finish";
import { Head, type SheetName } from "./head";
import { KeepSheet } from "./keepsheet";
import { KeySheet } from "./keysheet";
import { Kin } from "./kin";
import { useLiveFeed } from "./livefeed";
import { Notices } from "./notices";
import { useOpened } from "./opened";
import { Order } from "./order";
import { usePresence } from "./presence";
import { Result } from "./result";
import { useBench } from "./store";
import { TrimControl } from "./trim";
import { useKeys } from "./usekeys";
import { VarySheet } from "./varysheet";
import { useView } from "./view";

const Body = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
`;

/** The sheet that is open over the bench. */
function Sheets(props: {
  look: LookRecord;
  sheet: SheetName;
  onClose: () => void;
  onBake: (which: string) => void;
}) {
  const { look, sheet, onClose, onBake } = props;
  const navigate = useNavigate();
  if (sheet === "keep")
    return (
      <KeepSheet
        id={look.id}
        next={(look.revisions[0]?.number ?? 0) + 1}
        onClose={onClose}
        onBake={(revision) => onBake(`?revision=${revision.id}`)}
      />
    );
  if (sheet === "vary")
    return (
      <VarySheet
        look={look}
        onClose={onClose}
        onMade={(made) => {
          onClose();
          void navigate(`/bench/${made}`);
        }}
      />
    );
  return sheet === "keys" ? <KeySheet onClose={onClose} /> : null;
}

/** Order and control on the left, the result beside them. */
function Work(props: {
  look: LookRecord;
  kinds: Kind[];
  frames: Frame[];
  frame: Frame | null;
  loading: boolean;
  feed: Feed;
  broken: string | null;
  readOnly: boolean;
  held: boolean;
  onChoose: (frame: number) => void;
  onHelp: () => void;
}) {
  const { look, kinds, frames, frame, feed, readOnly } = props;
  const { trimming, full } = useView(useShallow(({ trimming, full }) => ({ trimming, full })));
  const [surround, setSurround] = useState<string>("#161616");
  const [effect, setEffect] = useState<EffectName | null>(null);
  const [trim, setTrim] = useState<Trim | null>(null);
  const kin = useMemo(() => (look.parent ? <Kin look={look} /> : null), [look]);
  return (
    <Body>
      {full ? null : (
        <>
          <Order
            feed={feed}
            kinds={kinds}
            readOnly={readOnly}
            broken={props.broken}
            effect={effect}
            onEffect={setEffect}
            parent={kin}
          />
          {trimming && frame ? (
            <TrimControl key={frame.id} frame={frame} frames={frames} onTrim={setTrim} />
          ) : (
            <Control feed={feed} kinds={kinds} readOnly={readOnly} effect={effect} frame={frame} />
          )}
        </>
      )}
      <Result
        record={look}
        frames={frames}
        frame={frame}
        loading={props.loading}
        feed={feed}
        held={props.held}
        surround={surround}
        onSurround={setSurround}
        onChoose={props.onChoose}
        trim={trimming ? trim : null}
        readOnly={readOnly}
        onHelp={props.onHelp}
      />
    </Body>
  );
}

/** The frames, and the one that the address names or the first. */
function useChosenFrame() {
  const frames = useFrames();
  const [search, setSearch] = useSearchParams();
  const all = useMemo(() => frames.data ?? [], [frames.data]);
  useClipsAhead(all);
  const frame = all.find((f) => f.id === Number(search.get("frame"))) ?? all[0] ?? null;
  const choose = useCallback((f: number) => setSearch({ frame: String(f) }, { replace: true }), [setSearch]);
  return { all, frame, choose, known: !!frames.data, loading: frames.isPending, step: search.get("step") };
}

export default function Bench() {
  const id = Number(useParams().id);
  const record = useLook(id);
  const kinds = useKinds();
  const navigate = useNavigate();
  const [held, setHeld] = useState(false);
  const [sheet, setSheet] = useState<SheetName>("");
  const { all, frame, choose, known, loading, step } = useChosenFrame();
  const late = useBench((s) => s.late);
  const open = useBench((s) => s.id) === id;
  const mayEdit = !!record.data?.may_edit;
  const { presence, take } = usePresence(id, mayEdit && open);
  const away = !!presence && !presence.mine;
  const readOnly = !mayEdit || late !== null || away;
  const { refetch } = record;
  useAutosave(mayEdit && open && !away);
  useOpened({ look: record.data, step, away, refetch });
  const shown = frame?.id ?? null;
  const feed = useLiveFeed(id, shown, open && known);
  const trouble = useTrouble(feed);
  const trimming = useView((v) => v.trimming);
  const help = useCallback(() => setSheet("keys"), []);
  const keys = useMemo(() => ({ frames: all, frame: shown, choose, help }), [all, shown, choose, help]);
  useKeys(keys, setHeld);

  if (!record.data || !kinds.data || !open) {
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
        look={record.data}
        presence={presence}
        readOnly={readOnly}
        trimming={trimming}
        onSheet={setSheet}
        onBake={() => void bake("")}
      />
      <Notices
        look={record.data}
        presence={presence}
        trouble={trouble?.status ? trouble.message : ""}
        onVary={() => setSheet("vary")}
        onTake={() => void takeOver()}
      />
      <Work
        look={record.data}
        kinds={kinds.data}
        frames={all}
        frame={frame}
        loading={loading}
        feed={feed}
        broken={typeof trouble?.detail.step === "string" ? trouble.detail.step : null}
        readOnly={readOnly}
        held={held}
        onChoose={choose}
        onHelp={help}
      />
      <Sheets
        look={record.data}
        sheet={sheet}
        onClose={() => setSheet("")}
        onBake={(which) => void bake(which)}
      />
    </Page>
  );
}
