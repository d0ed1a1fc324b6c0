/** How the picture is shown, under it. */
import { memo } from "react";
import { Collection, Header, Menu, MenuItem, MenuSection, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import type { Frame, LookRecord } from "../api/types";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Menued } from "../kit/menued";
import { Segments } from "../kit/segments";
import { MARKS } from "../viewer/masks";
import { WHOLE } from "../viewer/zoom";
import { Rate } from "../player/rate";
import { larger } from "./commands";
import { useMotion } from "./motion";
import { RivalMenu } from "./rivals";
import { FULLS, GRIDS, TILES, useView, view, type Full, type Grid, type Show } from "./view";

const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  flex: none;
  color: var(--t2);
  font-size: 12px;
  min-height: 26px;
`;
const Between = styled.span`
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
`;
const Mark = styled.span`
  width: 12px;
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
/** What a difference, or a bake, is shown by; and what the picture is held against. */
function Held(props: { record: LookRecord; frames: Frame[] }) {
  const { show, white, grid, interpolation } = useView();
  return (
    <>
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
    </>
  );
}

/** What is shown otherwise than usual; a press takes it back. */
function Otherwise() {
  const { only, mask, zoom } = useView();
  return (
    <>
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
    </>
  );
}

export const ViewBar = memo(function ViewBar(props: {
  record: LookRecord;
  frames: Frame[];
  surround: string;
  onSurround: (surround: string) => void;
  onHelp: () => void;
}) {
  const show = useView((v) => v.show);
  const player = useMotion((m) => m.player);
  return (
    <Line>
      <Segments label="Show" options={SHOWS} chosen={show} onChange={(s) => view({ show: s })} />
      <Held record={props.record} frames={props.frames} />
      <Between>{player ? <Rate player={player} /> : null}</Between>
      <Otherwise />
      <MenuTrigger>
        <Button look="quiet">View ▾</Button>
        <Menued placement="top end">
          <ViewMenu surround={props.surround} onSurround={props.onSurround} />
        </Menued>
      </MenuTrigger>
      <Button look="icon" aria-label="Keys" onPress={props.onHelp}>
        ?
      </Button>
    </Line>
  );
});

interface Item {
  id: string;
  name: string;
  on: boolean;
  does: () => void;
}

/** The sections of the menu, each with what it can be set to. */
function useSections(surround: string, onSurround: (surround: string) => void) {
  const { tiles, mask, down, full } = useView();
  const item = (id: string, name: string, does: () => void, on = false): Item => ({ id, name, on, does });
  return [
    {
      title: "Frames at once",
      items: TILES.map((t) =>
        item(`tiles-${t}`, t === "1" ? "One" : t, () => view({ tiles: t }), tiles === t),
      ),
    },
    {
      title: "Show where",
      items: MARKS.map(([m, name]) => item(m, name, () => view({ mask: mask === m ? "" : m }), mask === m)),
    },
    {
      title: "Surround",
      items: SURROUNDS.map(([colour, name]) =>
        item(colour, name, () => onSurround(colour), surround === colour),
      ),
    },
    {
      title: "Picture",
      items: [
        item("down", "Split from above", () => view({ down: !down }), down),
        item("larger", "Larger", () => larger(1.5)),
        item("whole", "Whole", () => view({ zoom: WHOLE })),
        item("full", "Nothing but the picture", () => view({ full: !full }), full),
        item("spots", "Take all spots away", () => view({ spots: [] })),
      ],
    },
  ];
}

function ViewMenu(props: { surround: string; onSurround: (surround: string) => void }) {
  const sections = useSections(props.surround, props.onSurround);
  const all = sections.flatMap((s) => s.items);
  return (
    <Menu aria-label="View" onAction={(key) => all.find((i) => i.id === key)?.does()}>
      {sections.map((s) => (
        <MenuSection key={s.title} id={s.title}>
          <Header>{s.title}</Header>
          <Collection items={s.items}>
            {(i) => (
              <MenuItem id={i.id} textValue={i.name}>
                <Mark>{i.on ? "✓" : ""}</Mark>
                {i.name}
              </MenuItem>
            )}
          </Collection>
        </MenuSection>
      ))}
    </Menu>
  );
}
