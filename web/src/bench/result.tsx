/** The result: frames, the picture in every way it can be held against another, readings and checks. */
import { memo, useCallback, useEffect, useMemo, useRef } from "react";
import { Menu, MenuItem, MenuSection, MenuTrigger, Header, Collection } from "react-aria-components";
import styled from "styled-components";
import { got, server } from "../api/client";
import type { Frame, Look, LookRecord, Place, Trim } from "../api/types";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Menued } from "../kit/menued";
import { Segments } from "../kit/segments";
import { Empty } from "../kit/empty";
import { useFeed, type Feed, type Wish } from "../viewer/live";
import type { ExactWish } from "../viewer/exact";
import { MARKS } from "../viewer/masks";
import { ask, useReadings, type ReadingsWish } from "../viewer/readings";
import { Stage, type Mode, type Other } from "../viewer/stage";
import { Strip } from "../viewer/strip";
import { WHOLE, type Zoom } from "../viewer/zoom";
import { useCalmDraft } from "./calm";
import { Checks } from "./checks";
import { larger } from "./commands";
import { usePointed } from "./pointed";
import { RivalMenu } from "./rivals";
import { Scopes } from "./scopes";
import { find } from "./steps";
import { useBench } from "./store";
import {
  FULLS,
  GRIDS,
  SPOTS,
  TILES,
  useView,
  view,
  type Full,
  type Grid,
  type Rival,
  type Show,
  type Tiles,
} from "./view";

const GAP = 6;
const zoomTo = (zoom: Zoom) => view({ zoom });

const Column = styled.main`
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding: 10px 16px 10px;
  background: var(--g0);
  .bar {
    display: flex;
    align-items: center;
    gap: 8px;
    flex: none;
    color: var(--t2);
    font-size: 12px;
    min-height: 26px;
  }
  .grow {
    flex: 1;
  }
  .wall {
    flex: 1;
    min-height: 0;
    display: grid;
    gap: ${GAP}px;
  }
  .cell {
    display: flex;
    min-width: 0;
    min-height: 0;
    position: relative;
    flex-direction: column;
    gap: 4px;
  }
  .cell > header {
    display: flex;
    align-items: center;
    gap: 6px;
    color: var(--t2);
    font-size: 12px;
    min-height: 22px;
  }
  .cell > header b {
    font-weight: 500;
    color: var(--t1);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .cell > header button {
    height: 22px;
    font-size: 12px;
  }
  .alone {
    align-self: center;
  }
`;

const SHOWS = [
  ["original", "Original"],
  ["look", "Look"],
  ["split", "Split"],
  ["beside", "Beside"],
  ["difference", "Difference"],
  ["baked", "As baked"],
] as const satisfies readonly (readonly [Show, string])[];

const SURROUNDS = [
  ["#161616", "Dark"],
  ["#767676", "Mid grey"],
  ["#ffffff", "White"],
] as const;
/**
 * So many pictures in a landscape place, each on whole pixels: half a pixel off, and the browser blurs what
 * it shows.
 */
function wall(count: number): React.CSSProperties {
  const columns = count <= 1 ? 1 : count <= 4 ? 2 : 3;
  const share = (of: number) => `repeat(${of}, round(down, calc((100% - ${(of - 1) * GAP}px) / ${of}), 1px))`;
  return { gridTemplateColumns: share(columns), gridTemplateRows: share(Math.ceil(count / columns)) };
}

/** Another look beside the draft, live from its own table. */
function RivalCell(props: {
  rival: Rival;
  frame: Frame;
  surround: string;
  onKeep: (() => void) | null;
  onPoint: (at: Place | null, pressed: boolean) => void;
}) {
  const { rival, frame } = props;
  const zoom = useView((s) => s.zoom);
  const spots = useView((s) => s.spots);
  const wish = useMemo<Wish | null>(
    () => (rival.look ? { look: rival.look, frame: frame.id, traces: false } : null),
    [rival, frame.id],
  );
  const feed = useFeed(wish);
  return (
    <div className="cell">
      <header>
        <b>{rival.name}</b>
        <span className="grow" />
        {props.onKeep ? (
          <Button look="quiet" onPress={props.onKeep}>
            Go on with this
          </Button>
        ) : null}
        <Button
          look="icon"
          aria-label={`Take ${rival.name} away`}
          onPress={() => view({ rivals: useView.getState().rivals.filter((r) => r.key !== rival.key) })}
        >
          ✕
        </Button>
      </header>
      <Stage
        frame={frame}
        input={rival.look?.input ?? frame.encoding}
        feed={feed}
        mode={rival.look ? "look" : "original"}
        wish={wish}
        surround={props.surround}
        zoom={zoom}
        onZoom={zoomTo}
        onPoint={props.onPoint}
        spots={rival.look ? spots : undefined}
        tag={rival.look ? undefined : "reference"}
      />
    </div>
  );
}

export function Result(props: {
  record: LookRecord;
  frames: Frame[];
  frame: Frame | null;
  loading: boolean;
  feed: Feed;
  held: boolean;
  surround: string;
  onSurround: (surround: string) => void;
  onChoose: (frame: number) => void;
  trim: Trim | null;
  readOnly: boolean;
  onHelp: () => void;
}) {
  const { frames, frame, feed, trim } = props;
  const draft = useCalmDraft();
  const {
    show,
    tiles,
    down,
    rivals,
    white,
    grid,
    interpolation,
    zoom,
    mask,
    spots,
    only,
    picking,
    full,
    trimming,
    preview,
  } = useView();
  const count = Math.min(Number(tiles), frames.length);
  const against = rivals.find((r) => r.look) ?? null;

  const seen = preview?.look ?? draft;
  const wish = useMemo<Wish | null>(
    () => (props.loading ? null : { look: seen, frame: frame?.id ?? null, traces: true, only }),
    [props.loading, seen, frame?.id, only],
  );
  const trimWish = useMemo<Wish | null>(
    () => (trimming && trim && wish ? { ...wish, trim, traces: false } : null),
    [trimming, trim, wish],
  );
  const trimFeed = useFeed(trimWish);
  const shown = trimWish ?? wish;
  // The editors of curves and levels show the tones that the step is given, so those are read too.
  const step = useBench((s) => {
    const id = [...s.chosen].at(-1) ?? null;
    const kind = find(s.draft, id)?.kind;
    return kind === "curves" || kind === "levels" ? id : null;
  });
  const readWish = useMemo<ReadingsWish | null>(
    () =>
      shown
        ? { look: shown.look, frame: shown.frame, trim: shown.trim, only: shown.only, spots, step }
        : null,
    [shown, spots, step],
  );
  useReadings(readWish, "read", feed);
  // Asked for by the change itself, as the picture is; React redraws later.
  useEffect(
    () =>
      useBench.subscribe((now, last) => {
        if (now.draft !== last.draft && readWish && now.id === props.record.id)
          ask.read({ ...readWish, look: now.draft }, feed);
      }),
    [readWish, feed, props.record.id],
  );
  const reference = show !== "beside" ? undefined : rivals.find((r) => r.frame !== undefined)?.frame;
  const referenceWish = useMemo<ReadingsWish | null>(
    () => (reference ? { look: null, frame: reference } : null),
    [reference],
  );
  useReadings(referenceWish, "reference");

  const mainWish = useMemo<ExactWish | null>(() => {
    if (!shown) return null;
    if (show === "difference")
      return { ...shown, show: "difference", against: against?.look ?? null, full: Number(white) };
    if (show === "baked") return { ...shown, show: "baked", grid: Number(grid), interpolation };
    return shown;
  }, [shown, show, against, white, grid, interpolation]);
  const otherWish = useMemo<Wish | null>(
    () =>
      show === "split" && against?.look && frame
        ? { look: against.look, frame: frame.id, traces: false }
        : null,
    [show, against, frame],
  );
  const otherFeed = useFeed(otherWish);
  const other = useMemo<Other | null>(
    () =>
      otherWish && against
        ? { feed: otherFeed, wish: otherWish, input: otherWish.look.input, name: against.name }
        : null,
    [otherWish, otherFeed, against],
  );
  const mode: Mode = props.held || show === "original" ? "original" : show === "split" ? "split" : "look";
  const first = Math.max(
    0,
    frames.findIndex((f) => f.id === frame?.id),
  );
  const tiled = useMemo(
    () => (count > 1 ? Array.from({ length: count }, (_, k) => frames[(first + k) % frames.length]!) : []),
    [frames, first, count],
  );

  // Pointing asks for one spot at a time; the newest place wins.
  const probing = useRef<{ busy: boolean; inside: boolean; next: Place | null }>({
    busy: false,
    inside: false,
    next: null,
  });
  const probe = useCallback(
    (place: Place, step?: string) =>
      got(server.POST("/api/probe", { body: { ...shown, traces: false, spot: place, step } })),
    [shown],
  );
  const point = useCallback(
    (at: Place | null, pressed: boolean) => {
      if (!shown) return;
      const now = useView.getState();
      if (pressed && at) {
        if (now.picking) {
          const { take, step } = now.picking;
          void probe(at, step)
            .then(take, () => undefined)
            .finally(() => view({ picking: null }));
        } else {
          const near = now.spots.findIndex(
            (s) => Math.hypot(s.x - at.x, s.y - at.y) < 0.012 / now.zoom.scale,
          );
          view({
            spots: near >= 0 ? now.spots.filter((_, k) => k !== near) : [...now.spots, at].slice(-SPOTS),
          });
        }
        return;
      }
      probing.current.next = at;
      probing.current.inside = !!at;
      if (!at) usePointed.setState({ found: null });
      if (probing.current.busy || !at) return;
      const run = async () => {
        probing.current.busy = true;
        while (probing.current.next) {
          const place: Place = probing.current.next;
          probing.current.next = null;
          const found = await probe(place).catch(() => null);
          // The pointer may have left while the server was asked.
          if (found && probing.current.inside) usePointed.setState({ found });
          await new Promise((done) => setTimeout(done, 60));
        }
        probing.current.busy = false;
      };
      void run();
    },
    [shown, probe],
  );

  const keep = (rival: Rival) => {
    if (!rival.look) return;
    const { look } = rival;
    useBench.getState().change(`Go on with ${rival.name}`, () => look);
    view({ rivals: useView.getState().rivals.filter((r) => r.key !== rival.key), show: "look" });
  };
  const common = {
    surround: props.surround,
    zoom,
    onZoom: zoomTo,
    onPoint: point,
    spots,
    picking: !!picking,
  };
  const pickFrame = (id: number) => frames.find((f) => f.id === id) ?? frame;

  let cells = null;
  if (frame && show === "beside" && rivals.length) {
    cells = (
      <div className="wall" style={wall(rivals.length + 1)}>
        <div className="cell">
          <header>
            <b>{props.record.name}, this draft</b>
          </header>
          <Stage
            frame={frame}
            input={draft.input}
            feed={trimWish ? trimFeed : feed}
            mode={mode}
            wish={mainWish}
            trimmed={!trimWish}
            mask={mask}
            {...common}
          />
        </div>
        {rivals.map((r) => (
          <RivalCell
            key={r.key}
            rival={r}
            frame={(r.frame !== undefined ? pickFrame(r.frame) : frame) ?? frame}
            surround={props.surround}
            onKeep={r.look && !props.readOnly ? () => keep(r) : null}
            onPoint={r.look ? point : () => undefined}
          />
        ))}
      </div>
    );
  } else if (tiled.length && show !== "split" && !trimWish) {
    cells = (
      <div className="wall" style={wall(tiled.length)}>
        {tiled.map((f) => (
          <Tile
            key={f.id}
            frame={f}
            draft={draft}
            feed={feed}
            mode={mode}
            wish={mainWish}
            chosen={f.id === frame?.id}
            common={common}
            onChoose={props.onChoose}
          />
        ))}
      </div>
    );
  } else {
    const tag =
      show === "baked" && mode === "look"
        ? `as baked, ${grid}³ ${interpolation}`
        : show === "difference" && mode === "look"
          ? `difference from ${against?.name ?? "the original"}, white at ΔE ${white}`
          : preview?.name && mode === "look"
            ? `shown, not taken: ${preview.name}`
            : undefined;
    cells = (
      <Stage
        frame={frame}
        input={trimWish && frame ? frame.encoding : seen.input}
        feed={trimWish ? trimFeed : feed}
        mode={mode}
        wish={mainWish}
        trimmed={!trimWish}
        mask={mask}
        other={other}
        down={down}
        tag={tag}
        {...common}
      />
    );
  }

  return (
    <Column className={full ? "result full" : "result"}>
      {!frames.length && !props.loading ? (
        <Empty title="No frames yet">
          Bring in a few reference pictures under Frames: daylight, dusk, night, skin. A look is judged on all
          of them.
        </Empty>
      ) : (
        <>
          {full ? null : (
            <Strip
              frames={frames}
              chosen={frame?.id ?? null}
              input={seen.input}
              feed={feed}
              onChoose={props.onChoose}
            />
          )}
          {cells}
          <Bar
            record={props.record}
            frames={frames}
            surround={props.surround}
            onSurround={props.onSurround}
            onHelp={props.onHelp}
          />
          {full ? null : (
            <>
              <Scopes />
              <Checks draft={draft} frames={frames} readOnly={props.readOnly} onFrame={props.onChoose} />
            </>
          )}
        </>
      )}
    </Column>
  );
}

/** How the picture is shown, under it. */
const Bar = memo(function Bar(props: {
  record: LookRecord;
  frames: Frame[];
  surround: string;
  onSurround: (surround: string) => void;
  onHelp: () => void;
}) {
  const { show, tiles, down, white, grid, interpolation, zoom, mask, only, full } = useView();
  return (
    <div className="bar">
      <Segments label="Show" options={SHOWS} chosen={show} onChange={(s) => view({ show: s })} />
      {show === "baked" ? (
        <>
          <Segments
            label="Grid"
            options={GRIDS.map((g) => [g, `${g}³`] as const)}
            chosen={grid}
            onChange={(g: Grid) => view({ grid: g })}
          />
          <Choice
            look="bare"
            hidden
            label="Interpolation"
            chosen={interpolation}
            onChange={(i) => view({ interpolation: i })}
            options={[
              { key: "tetrahedral" as const, label: "tetrahedral" },
              { key: "trilinear" as const, label: "trilinear" },
            ]}
          />
        </>
      ) : null}
      {show === "difference" ? (
        <Segments
          label="White at ΔE"
          options={FULLS.map((f) => [f, `ΔE ${f}`] as const)}
          chosen={white}
          onChange={(f: Full) => view({ white: f })}
        />
      ) : null}
      {show === "beside" || show === "difference" || show === "split" ? (
        <RivalMenu record={props.record} frames={props.frames} single={show !== "beside"} />
      ) : null}
      <span className="grow" />
      {only ? (
        <Button look="quiet" onPress={() => view({ only: null })}>
          one step alone ✕
        </Button>
      ) : null}
      {mask ? (
        <Button look="quiet" onPress={() => view({ mask: "" })}>
          {MARKS.find(([m]) => m === mask)?.[1]} ✕
        </Button>
      ) : null}
      {zoom.scale > 1 ? (
        <Button look="quiet" onPress={() => view({ zoom: WHOLE })}>{`× ${zoom.scale.toFixed(1)} ✕`}</Button>
      ) : null}
      <MenuTrigger>
        <Button look="quiet">View ▾</Button>
        <Menued placement="top end">
          <ViewMenu
            tiles={tiles}
            mask={mask}
            down={down}
            full={full}
            surround={props.surround}
            onSurround={props.onSurround}
          />
        </Menued>
      </MenuTrigger>
      <Button look="icon" aria-label="Keys" onPress={props.onHelp}>
        ?
      </Button>
    </div>
  );
});

/** One of several frames, all under the draft. */
function Tile(props: {
  frame: Frame;
  draft: Look;
  feed: Feed;
  mode: Mode;
  wish: ExactWish | null;
  chosen: boolean;
  onChoose: (id: number) => void;
  common: Pick<Parameters<typeof Stage>[0], "surround" | "zoom" | "onZoom" | "onPoint" | "spots" | "picking">;
}) {
  const { frame, wish, common } = props;
  const own = useMemo<ExactWish | null>(() => (wish ? { ...wish, frame: frame.id } : null), [wish, frame.id]);
  return (
    <div className="cell">
      <Stage
        frame={frame}
        input={props.draft.input}
        feed={props.feed}
        mode={props.mode}
        wish={own}
        {...common}
        spots={props.chosen ? common.spots : undefined}
        onPoint={props.chosen ? common.onPoint : (_, pressed) => pressed && props.onChoose(frame.id)}
        tag={frame.name}
      />
    </div>
  );
}

function ViewMenu(props: {
  tiles: Tiles;
  mask: string;
  down: boolean;
  full: boolean;
  surround: string;
  onSurround: (s: string) => void;
}) {
  const sections: { title: string; items: { id: string; name: string; on: boolean; does: () => void }[] }[] =
    [
      {
        title: "Frames at once",
        items: TILES.map((t) => ({
          id: `tiles-${t}`,
          name: t === "1" ? "One" : t,
          on: props.tiles === t,
          does: () => view({ tiles: t }),
        })),
      },
      {
        title: "Show where",
        items: MARKS.map(([m, name]) => ({
          id: m,
          name,
          on: props.mask === m,
          does: () => view({ mask: props.mask === m ? "" : m }),
        })),
      },
      {
        title: "Surround",
        items: SURROUNDS.map(([colour, name]) => ({
          id: colour,
          name,
          on: props.surround === colour,
          does: () => props.onSurround(colour),
        })),
      },
      {
        title: "Picture",
        items: [
          { id: "down", name: "Split from above", on: props.down, does: () => view({ down: !props.down }) },
          { id: "larger", name: "Larger", on: false, does: () => larger(1.5) },
          { id: "whole", name: "Whole", on: false, does: () => view({ zoom: WHOLE }) },
          {
            id: "full",
            name: "Nothing but the picture",
            on: props.full,
            does: () => view({ full: !props.full }),
          },
          { id: "spots", name: "Take all spots away", on: false, does: () => view({ spots: [] }) },
        ],
      },
    ];
  const all = sections.flatMap((s) => s.items);
  return (
    <Menu aria-label="View" onAction={(key) => all.find((i) => i.id === key)?.does()}>
      {sections.map((s) => (
        <MenuSection key={s.title} id={s.title}>
          <Header>{s.title}</Header>
          <Collection items={s.items}>
            {(i) => (
              <MenuItem id={i.id} textValue={i.name}>
                <span style={{ width: 12 }}>{i.on ? "✓" : ""}</span>
                {i.name}
              </MenuItem>
            )}
          </Collection>
        </MenuSection>
      ))}
    </Menu>
  );
}
