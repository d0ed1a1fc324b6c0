/** How a contact sheet is shown: names, strength, size, order; and its files. */
import { useState } from "react";
import { Menu, MenuItem, MenuTrigger, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import type { ContactSheet } from "../api/types";
import { useScales } from "../catalogue/asked";
import { Line } from "../kit/amount";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Grow } from "../kit/layout";
import { Menued } from "../kit/menued";
import { Segments } from "../kit/segments";
import { ShareLine } from "../kit/shareline";
import type { Marks } from "./marks";

const Head = styled.div`
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 12px 18px;
  flex: none;
  color: var(--t2);
  h1 {
    color: var(--t1);
  }
  .line {
    width: 80px;
  }
`;
const NAMES = [
  ["shown", "shown"],
  ["over", "turned over"],
] as const;

/** What its maker changes as long as nobody has voted. */
function Rules({ sheet, marks }: { sheet: ContactSheet; marks: Marks }) {
  const [strength, setStrength] = useState(sheet.strength);
  return (
    <>
      names
      <Segments
        label="Names"
        options={NAMES}
        chosen={sheet.blind ? "over" : "shown"}
        onChange={(how) => marks.change.mutate({ blind: how === "over" })}
      />
      strength
      <ShareLine
        label="Strength of all looks"
        value={strength}
        onChange={setStrength}
        onSettle={(v) => marks.change.mutate({ strength: v })}
      />
    </>
  );
}

export function Tools(props: {
  sheet: ContactSheet;
  marks: Marks;
  size: number;
  onSize: (size: number) => void;
  sort: string;
  onSort: (sort: string) => void;
}) {
  const { sheet, marks, size } = props;
  const { data: scales = [] } = useScales();
  const votes = sheet.hidden || marks.closed || sheet.people.length > 0;
  return (
    <Head>
      <h1>{sheet.name}</h1>
      <Grow />
      {sheet.may_close && !marks.closed ? <Rules sheet={sheet} marks={marks} /> : null}
      size
      <Line
        className="line"
        aria-label="Size of pictures"
        minValue={90}
        maxValue={300}
        step={2}
        value={size}
        onChange={(v) => props.onSize(Number(v))}
      >
        <SliderTrack className="track">
          <SliderThumb className="thumb" />
        </SliderTrack>
      </Line>
      <output>{size} px</output>
      <Choice
        look="bare"
        hidden
        label="Order of rows"
        chosen={props.sort}
        onChange={props.onSort}
        options={[
          { key: "", label: "as laid out" },
          ...(votes ? [{ key: "votes", label: "by votes" }] : []),
          ...(sheet.hidden ? [] : scales.map((s) => ({ key: s.key, label: s.more }))),
        ]}
      />
      <MenuTrigger>
        <Button>Export</Button>
        <Menued placement="bottom end">
          <Menu
            aria-label="Export"
            onAction={(kind) => {
              window.location.assign(`/api/sheets/${sheet.id}/file?kind=${String(kind)}`);
            }}
          >
            <MenuItem id="html">One page that holds everything</MenuItem>
            <MenuItem id="pdf">PDF</MenuItem>
            <MenuItem id="png">PNG</MenuItem>
          </Menu>
        </Menued>
      </MenuTrigger>
    </Head>
  );
}
