/** An event of either cut as a row: what becomes of it, and what it keeps. */
import { GridListItem } from "react-aria-components";
import styled, { css } from "styled-components";
import type { Cut, CutStretch, Recutting } from "../api/types";
import { Line, Name } from "../kit/deciding";
import { around } from "../kit/partshown";
import { Saucer, saucerOf } from "../kit/saucer";
import { trimWords } from "../kit/trim";
import { keyOf, lengthOf, pictureOf } from "./judging";

/** Pixels: the height of a row. */
export const ROW = 38;

/** The columns of rows and of their heads. */
export const inColumns = css`
  display: grid;
  grid-template-columns: 26px 50px minmax(110px, 1.1fr) 108px minmax(150px, 1.5fr) minmax(130px, 1fr);
  gap: 0 12px;
  align-items: center;
  @media (max-width: 1150px) {
    grid-template-columns: 50px minmax(100px, 1fr) 104px minmax(130px, 1.4fr) minmax(110px, 1fr);
    gap: 0 9px;
    .drawn {
      display: none;
    }
  }
`;

const Row = styled(GridListItem)`
  ${inColumns}
  height: ${ROW}px;
  padding: 0 18px;
  border-bottom: 1px solid var(--line);
  outline-offset: -2px !important;
  cursor: default;
  &[data-hovered] {
    background: var(--g2);
  }
  &[data-selected] {
    background: var(--g3);
    box-shadow: inset 2px 0 var(--accent);
  }
  > * {
    min-width: 0;
  }
`;
const Picture = styled.img`
  display: block;
  width: 50px;
  height: 28px;
  object-fit: cover;
  border-radius: 2px;
  &[data-gone] {
    opacity: 0.45;
  }
`;
const None = styled.span`
  display: block;
  width: 50px;
  height: 28px;
  border: 1px dashed var(--warn);
  border-radius: 2px;
`;
const Lengths = styled(Line)`
  font-variant-numeric: tabular-nums;
`;
const On = styled.div`
  display: flex;
  gap: 9px;
  align-items: center;
  > :last-child {
    min-width: 0;
  }
`;
const Marks = styled.svg`
  display: block;
  rect:first-child {
    fill: var(--t3);
  }
  rect:last-child {
    fill: var(--t1);
  }
  &[data-waits] rect {
    fill: var(--warn);
  }
`;

/** A small drawing of an event before, above, and after, below: where it begins and how long it is. */
function Drawn({ row }: { row: Recutting }) {
  const longest = Math.max(row.was ?? 0, row.now ?? 0, 1);
  const moved = row.kinds.includes("moved") ? 6 : 0;
  const wide = (frames: number | null) => (frames === null ? 0 : Math.max((20 * frames) / longest, 2));
  return (
    <Marks className="drawn" width={26} height={14} aria-hidden data-waits={row.waits || undefined}>
      <rect x={0} y={2} width={wide(row.was)} height={2} rx={1} />
      <rect x={moved} y={10} width={wide(row.now)} height={2} rx={1} />
    </Marks>
  );
}

/** How long it was and is, in seconds and frames. */
function lengths(row: Recutting, unit: number): string {
  const was = row.was === null ? "" : lengthOf(row.was, unit);
  if (row.now === null) return `${was} → gone`;
  const now = lengthOf(row.now, unit);
  return was && was !== now ? `${was} → ${now}` : now;
}

const kept = (row: Recutting): string => {
  if (row.looks.length) return row.looks.map((look) => look.words).join(" + ");
  if (row.kinds[0] === "back") return "as it was";
  return row.shot === null ? "from its scene" : "no look";
};

/** Which frames of its clip an event shows, and how many are left around them. */
const Frames = ({ of }: { of: CutStretch }) => (
  <div>
    <Lengths $quiet>{of.range}</Lengths>
    {of.clip === null ? null : (
      <Line $quiet>
        {of.before} left before, {of.behind} behind
      </Line>
    )}
  </div>
);

export function EventRow(props: { project: number; cut: Cut; row: Recutting }) {
  const { cut, row } = props;
  const stretch = row.new !== null && row.now !== null ? cut.after[row.new] : cut.before[row.old ?? 0];
  const picture = stretch ? pictureOf(props.project, stretch, 160) : null;
  const [look] = row.looks;
  return (
    <Row id={keyOf(row)} textValue={`${row.number ?? ""} ${row.name}`}>
      <Drawn row={row} />
      {picture ? (
        <Picture
          src={picture}
          alt=""
          loading="lazy"
          style={around(row.part)}
          data-gone={row.now === null || undefined}
        />
      ) : (
        <None />
      )}
      <div>
        <Name $warns={row.waits} title={row.name}>
          {row.number === null ? "" : `${row.number} · `}
          {row.name}
        </Name>
        <Line $quiet $warns={row.waits}>
          {row.kinds.join(", ").replace("same", "")}
          {row.waits ? `${row.kinds[0] === "same" ? "" : ", "}waits for its clip` : ""}
        </Line>
      </div>
      <Lengths>{lengths(row, cut.unit)}</Lengths>
      {row.how || !stretch ? (
        <Line $quiet title={row.how}>
          {row.how}
        </Line>
      ) : (
        <Frames of={stretch} />
      )}
      <On>
        <Saucer src={look ? saucerOf(look, 48) : null} size={22} />
        <div>
          <Line title={kept(row)}>{kept(row)}</Line>
          <Line $quiet>{row.trim ? `trim ${trimWords(row.trim)}` : row.shot === null ? "" : "no trim"}</Line>
        </div>
      </On>
    </Row>
  );
}
