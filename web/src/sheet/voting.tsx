/**
 * A contact sheet: looks by frames, one's own votes on the cells, everybody's sums, and the names at the end.
 */
import { useMemo, useState, type KeyboardEvent } from "react";
import { Menu, MenuItem, MenuTrigger, SliderThumb, SliderTrack } from "react-aria-components";
import { Link, useNavigate } from "react-router";
import { KeyCap } from "../kit/keycap";
import styled from "styled-components";
import { got, server } from "../api/client";
import { client, useFrames } from "../api/queries";
import type { ContactSheet, SheetRow } from "../api/types";
import { useWrite } from "../api/writes";
import { useScales } from "../catalogue/asked";
import { Line } from "../kit/amount";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Grow, Quiet } from "../kit/layout";
import { Menued } from "../kit/menued";
import { Saucer, saucerOf } from "../kit/saucer";
import { Segments } from "../kit/segments";
import { ShareLine } from "../kit/shareline";
import { Sheet } from "../kit/sheet";
import { Text } from "../kit/text";
import { Page, TopBar } from "../kit/topbar";
import { ToBin } from "../kit/tobin";
import { Trouble } from "../kit/trouble";
import { cellOf } from "./asked";
import { Sign, VERDICTS, type Verdict } from "./sign";

const Body = styled.main`
  display: flex;
  flex-direction: column;
  .head {
    display: flex;
    align-items: center;
    gap: 16px;
    padding: 12px 18px;
    flex: none;
    color: var(--t2);
  }
  .head h1 {
    color: var(--t1);
  }
  .head .line {
    width: 80px;
  }
  .all {
    flex: 1;
    min-height: 0;
    overflow: auto;
    padding: 0 18px 12px;
  }
  table {
    border-collapse: collapse;
  }
  thead th {
    position: sticky;
    top: 0;
    background: var(--g0);
    z-index: 2;
    text-align: left;
    font-weight: 400;
    padding: 4px 7px 6px 0;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  tbody th {
    text-align: left;
    font-weight: 400;
    padding: 4px 10px 4px 0;
    min-width: 168px;
    max-width: 190px;
  }
  tbody tr {
    border-top: 1px solid var(--line);
  }
  .name {
    display: grid;
    grid-template-columns: 46px 1fr;
    gap: 0 10px;
    align-items: center;
  }
  .name > :first-child {
    grid-row: span 2;
  }
  .name strong,
  .name small {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    font-weight: 600;
  }
  .name small {
    font-weight: 400;
    color: var(--t2);
    font-size: 12px;
  }
  .name a {
    text-decoration: none;
  }
  .letter {
    width: 44px;
    height: 44px;
    border-radius: 50%;
    border: 1px solid var(--g4);
    display: grid;
    place-items: center;
    box-shadow: inset 0 0 0 7px var(--g2);
    font-weight: 600;
  }
  td {
    padding: 4px 7px 4px 0;
  }
  .cell {
    position: relative;
    display: block;
    border: 0;
    padding: 0;
    background: var(--g2);
    border-radius: 3px;
    overflow: hidden;
    width: var(--cell);
    height: calc(var(--cell) * 9 / 16);
    cursor: pointer;
  }
  .cell img {
    width: 100%;
    height: 100%;
    object-fit: cover;
    display: block;
  }
  .cell svg {
    position: absolute;
    right: 5px;
    bottom: 5px;
  }
  .cell .others {
    position: absolute;
    left: 5px;
    bottom: 5px;
    background: #161616c8;
    border-radius: 9px;
    padding: 0 7px;
    font-size: 12px;
  }
  .cell .noted {
    position: absolute;
    right: 5px;
    top: 5px;
    background: #161616c8;
    border-radius: 9px;
    padding: 0 7px;
    font-size: 12px;
  }
  .cell:focus-visible {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
    overflow: visible;
  }
  .sums {
    display: flex;
    gap: 10px;
    white-space: nowrap;
  }
  .sums span {
    display: inline-flex;
    gap: 4px;
    align-items: center;
  }
  .foot {
    flex: none;
    border-top: 1px solid var(--line);
    background: var(--g1);
    display: flex;
    align-items: center;
    gap: 16px;
    padding: 10px 18px;
    color: var(--t2);
  }
  .foot .sign {
    display: inline-flex;
    align-items: center;
    gap: 6px;
  }
`;

const Large = styled.div`
  img {
    display: block;
    width: 100%;
    max-height: 66vh;
    object-fit: contain;
    background: var(--surround);
  }
`;

type Sums = { yes: number; changes: number; no: number };
const NONE: Sums = { yes: 0, changes: 0, no: 0 };
const KEYS: Record<string, Verdict> = { f: "for", w: "with changes", a: "against" };

function Counted({ sums }: { sums: Sums }) {
  return (
    <span
      className="sums"
      role="img"
      aria-label={`${sums.yes} for it, ${sums.changes} with changes, ${sums.no} against`}
    >
      {(["for", "with changes", "against"] as const).map((v, k) => (
        <span key={v}>
          <Sign verdict={v} size={13} /> {[sums.yes, sums.changes, sums.no][k]}
        </span>
      ))}
    </span>
  );
}

export function Voting({ sheet }: { sheet: ContactSheet }) {
  const [size, setSize] = useState(134);
  const [sort, setSort] = useState("");
  const [strength, setStrength] = useState(sheet.strength);
  const [open, setOpen] = useState<{ row: SheetRow; column: number } | null>(null);
  const [noting, setNoting] = useState<SheetRow | null>(null);
  const { data: frames = [] } = useFrames();
  const { data: scales = [] } = useScales();
  const navigate = useNavigate();
  const path = { params: { path: { sheet_id: sheet.id } } };
  const keep = (made: ContactSheet) => client.setQueryData(["sheet", sheet.id], made);
  const mark = useWrite(
    (body: { row: number; column: number | null; verdict: Verdict | ""; note?: string }) =>
      got(server.PUT("/api/sheets/{sheet_id}/marks", { ...path, body })),
    [],
    keep,
  );
  const change = useWrite(
    (body: { blind?: boolean; strength?: number }) =>
      got(server.PATCH("/api/sheets/{sheet_id}", { ...path, body: body as never })),
    [],
    keep,
  );
  const close = useWrite(() => got(server.POST("/api/sheets/{sheet_id}/close", path)), ["sheets"], keep);
  const own = useMemo(() => new Map(sheet.own.map((m) => [`${m.row} ${m.column}`, m])), [sheet.own]);
  const cells = useMemo(() => new Map(sheet.cells.map((c) => [`${c.row} ${c.column}`, c])), [sheet.cells]);
  const notes = useMemo(
    () => new Set(sheet.notes.filter((n) => n.column !== null).map((n) => `${n.row} ${n.column}`)),
    [sheet.notes],
  );
  const closed = sheet.closed_by !== null;
  const worth = (s: Sums) =>
    s.yes + s.changes + s.no ? (s.yes + s.changes / 2) / (s.yes + s.changes + s.no) : -1;
  const rows = [...sheet.rows].sort((a, b) => {
    if (a.judged_by !== b.judged_by) return a.judged_by ? -1 : 1;
    if (sort === "votes") return worth(b.sums) - worth(a.sums);
    if (sort) return (b.traits[sort] ?? -Infinity) - (a.traits[sort] ?? -Infinity);
    return 0;
  });
  const voted = sheet.own.filter((m) => m.verdict).length;
  const vote = (row: SheetRow, column: number, verdict: Verdict) => {
    if (row.judged_by || closed) return;
    const before = own.get(`${row.id} ${column}`);
    mark.mutate({
      row: row.id,
      column,
      verdict: before?.verdict === verdict ? "" : verdict,
      note: before?.note ?? "",
    });
  };
  const keys = (e: KeyboardEvent<HTMLTableElement>) => {
    if (!(e.target instanceof HTMLElement) || e.ctrlKey || e.metaKey || e.altKey) return;
    const [j, k] = (e.target.dataset.at ?? "").split(" ").map(Number);
    if (j === undefined || k === undefined || Number.isNaN(j) || Number.isNaN(k)) return;
    const way = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[e.key];
    const verdict = KEYS[e.key.toLowerCase()];
    if (way) e.currentTarget.querySelector<HTMLElement>(`[data-at="${j + way[0]!} ${k + way[1]!}"]`)?.focus();
    else if (verdict && rows[j - 1]) vote(rows[j - 1]!, sheet.columns[k]!.id, verdict);
    else return;
    e.preventDefault();
  };
  const votes = sheet.hidden || closed || sheet.people.length > 0;
  const cell = (row: SheetRow | null, j: number, column: (typeof sheet.columns)[number], k: number) => {
    const key = `${row?.id} ${column.id}`;
    const said = own.get(key);
    const sums = row ? cells.get(key) : undefined;
    const verdict = (said?.verdict ?? "") as Verdict | "";
    const gone = column.frame === null || row?.gone;
    const name = `${row?.name ?? "Original"} on ${column.name}${verdict ? `, ${verdict}` : row && !row.judged_by ? ", open" : ""}`;
    return (
      <td key={column.id}>
        <button
          type="button"
          className="cell"
          data-at={`${j} ${k}`}
          tabIndex={j === 0 && k === 0 ? 0 : -1}
          aria-label={name}
          onFocus={(e) => {
            // One cell at a time is reached by Tab: the one that was last in use.
            e.currentTarget
              .closest("table")
              ?.querySelectorAll<HTMLElement>(".cell")
              .forEach((c) => (c.tabIndex = -1));
            e.currentTarget.tabIndex = 0;
          }}
          onClick={() => row && setOpen({ row, column: column.id })}
        >
          {gone ? "gone" : <img src={cellOf(sheet, row?.id ?? null, column.id, 320)} alt="" loading="lazy" />}
          {row && !row.judged_by && !closed ? <Sign verdict={verdict} size={17} ringed /> : null}
          {closed && sums ? (
            <span className="others">{`${sums.yes} · ${sums.changes} · ${sums.no}`}</span>
          ) : null}
          {notes.has(key) ? <span className="noted">note</span> : null}
        </button>
      </td>
    );
  };
  return (
    <Page>
      <TopBar>
        <Grow />
        {sheet.may_close ? (
          <ToBin
            what="sheet"
            remove={() =>
              got(server.DELETE("/api/sheets/{sheet_id}", { params: { path: { sheet_id: sheet.id } } }))
            }
            stale={["sheets"]}
            onGone={() => void navigate("/catalogue/sheet/all")}
          />
        ) : null}
        <Button look="quiet" onPress={() => void navigate("/catalogue/sheet/all")}>
          All sheets
        </Button>
      </TopBar>
      <Body style={{ "--cell": `${size}px` }}>
        <div className="head">
          <h1>{sheet.name}</h1>
          <Grow />
          {sheet.may_close && !closed ? (
            <>
              names
              <Segments
                label="Names"
                options={
                  [
                    ["shown", "shown"],
                    ["over", "turned over"],
                  ] as const
                }
                chosen={sheet.blind ? "over" : "shown"}
                onChange={(how) => change.mutate({ blind: how === "over" })}
              />
              strength
              <ShareLine
                label="Strength of all looks"
                value={strength}
                onChange={setStrength}
                onSettle={(v) => change.mutate({ strength: v })}
              />
            </>
          ) : null}
          size
          <Line
            className="line"
            aria-label="Size of pictures"
            minValue={90}
            maxValue={300}
            step={2}
            value={size}
            onChange={(v) => setSize(v as number)}
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
            chosen={sort}
            onChange={setSort}
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
        </div>
        <div className="all">
          <table onKeyDown={keys} aria-label={sheet.name}>
            <thead>
              <tr>
                <th scope="col">
                  <Quiet>
                    {sheet.rows.length} looks · {sheet.columns.length} frames
                  </Quiet>
                </th>
                {sheet.columns.map((c) => (
                  <th scope="col" key={c.id} style={{ maxWidth: size }}>
                    {c.name} <Quiet>{frames.find((f) => f.id === c.frame)?.light}</Quiet>
                  </th>
                ))}
                <th scope="col">
                  <Quiet>{sheet.hidden && voted < sheet.to_vote ? "your votes" : "votes"}</Quiet>
                </th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <th scope="row">
                  <div className="name">
                    <Saucer src="/api/saucer/neutral" size={44} />
                    <strong>Original</strong>
                    <small>trimmed</small>
                  </div>
                </th>
                {sheet.columns.map((c, k) => cell(null, 0, c, k))}
                <td>
                  <Quiet>to judge by</Quiet>
                </td>
              </tr>
              {rows.map((row, j) => (
                <tr key={row.id}>
                  <th scope="row">
                    <div className="name">
                      {row.revision !== null ? (
                        <Saucer src={saucerOf({ id: row.revision, digest: "" })} size={44} />
                      ) : (
                        <span className="letter" aria-hidden>
                          {row.gone ? "–" : row.name.replace("Look ", "")}
                        </span>
                      )}
                      <strong title={row.name}>
                        {row.look !== null ? (
                          <Link to={`/catalogue/look/${row.look}`}>{row.name}</Link>
                        ) : (
                          row.name
                        )}
                      </strong>
                      <small>
                        {row.gone ? (
                          "gone"
                        ) : row.judged_by ? (
                          "always named"
                        ) : (
                          <Button
                            look="quiet"
                            style={{ height: 18, padding: 0, fontSize: 12 }}
                            onPress={() => setNoting(row)}
                          >
                            {sheet.notes.find((n) => n.row === row.id && n.column === null)?.note ?? "+ note"}
                          </Button>
                        )}
                      </small>
                    </div>
                  </th>
                  {sheet.columns.map((c, k) => cell(row, j + 1, c, k))}
                  <td>{row.judged_by ? <Quiet>to judge by</Quiet> : <Counted sums={row.sums} />}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <div className="foot">
          {closed ? (
            <span>The vote is over, closed by {sheet.closed_by}.</span>
          ) : (
            <>
              {VERDICTS.map(([verdict, label, key]) => (
                <span className="sign" key={verdict}>
                  <Sign verdict={verdict} size={15} /> {label} <KeyCap>{key}</KeyCap>
                </span>
              ))}
              <span>
                <KeyCap>arrows</KeyCap> move <KeyCap>Enter</KeyCap> large
              </span>
            </>
          )}
          <Trouble error={mark.error ?? change.error ?? close.error} />
          <Grow />
          <span>
            {closed ? null : (
              <strong>
                {voted} of {sheet.to_vote} voted{" "}
              </strong>
            )}
            {sheet.people.map((p) => `${p.name} ${p.votes}`).join(" · ")}
          </span>
          {sheet.may_close && !closed ? (
            <Button look="main" isDisabled={close.isPending} onPress={() => close.mutate()}>
              {sheet.blind ? "Close the vote, show names" : "Close the vote"}
            </Button>
          ) : null}
        </div>
      </Body>
      {open ? (
        <CellSheet
          sheet={sheet}
          row={open.row}
          column={open.column}
          said={own.get(`${open.row.id} ${open.column}`)}
          sums={cells.get(`${open.row.id} ${open.column}`) ?? NONE}
          closed={closed}
          onVote={(v) => vote(open.row, open.column, v)}
          onNote={(note) =>
            mark.mutate({
              row: open.row.id,
              column: open.column,
              verdict: (own.get(`${open.row.id} ${open.column}`)?.verdict ?? "") as Verdict | "",
              note,
            })
          }
          onClose={() => setOpen(null)}
        />
      ) : null}
      {noting ? (
        <NoteSheet
          row={noting}
          note={own.get(`${noting.id} null`)?.note ?? ""}
          others={sheet.notes.filter((n) => n.row === noting.id && n.column === null)}
          closed={closed}
          onKeep={(note) => {
            mark.mutate({ row: noting.id, column: null, verdict: "", note });
            setNoting(null);
          }}
          onClose={() => setNoting(null)}
        />
      ) : null}
    </Page>
  );
}

/** One cell, large, with the vote and a note on it. */
function CellSheet(props: {
  sheet: ContactSheet;
  row: SheetRow;
  column: number;
  said: { verdict: string; note: string } | undefined;
  sums: Sums;
  closed: boolean;
  onVote: (verdict: Verdict) => void;
  onNote: (note: string) => void;
  onClose: () => void;
}) {
  const { sheet, row, said } = props;
  const column = sheet.columns.find((c) => c.id === props.column);
  const [note, setNote] = useState(said?.note ?? "");
  const others = sheet.notes.filter((n) => n.row === row.id && n.column === props.column);
  return (
    <Sheet title={row.name} note={column?.name} width={1040} onClose={props.onClose}>
      <Large>
        <img src={cellOf(sheet, row.id, props.column, 1280)} alt={`${column?.name} under ${row.name}`} />
      </Large>
      {others.map((n, k) => (
        <div key={k}>
          <strong>{n.by}</strong> {n.note}
        </div>
      ))}
      <footer>
        {props.closed || row.judged_by ? (
          <Counted sums={props.sums} />
        ) : (
          <>
            {VERDICTS.filter(([v]) => v).map(([verdict, label]) => (
              <Button
                key={verdict}
                aria-pressed={said?.verdict === verdict}
                onPress={() => props.onVote(verdict)}
              >
                <Sign verdict={verdict} size={14} /> {label}
                {said?.verdict === verdict ? " ✓" : ""}
              </Button>
            ))}
            <Grow />
            <Text
              label="Note on this picture"
              hidden
              hint="a note on this picture"
              value={note}
              onChange={setNote}
              maxLength={500}
            />
            <Button isDisabled={note === (said?.note ?? "")} onPress={() => props.onNote(note)}>
              Keep the note
            </Button>
          </>
        )}
      </footer>
    </Sheet>
  );
}

function NoteSheet(props: {
  row: SheetRow;
  note: string;
  others: { by: string; note: string }[];
  closed: boolean;
  onKeep: (note: string) => void;
  onClose: () => void;
}) {
  const [note, setNote] = useState(props.note);
  return (
    <Sheet title={`Note on ${props.row.name}`} width={420} onClose={props.onClose}>
      {props.others.map((n, k) => (
        <div key={k}>
          <strong>{n.by}</strong> {n.note}
        </div>
      ))}
      {props.closed ? null : (
        <>
          <Text label="Your note" lines={3} value={note} onChange={setNote} maxLength={500} autoFocus />
          <footer>
            <Button onPress={props.onClose}>Cancel</Button>
            <Button look="main" onPress={() => props.onKeep(note)}>
              Keep
            </Button>
          </footer>
        </>
      )}
    </Sheet>
  );
}
