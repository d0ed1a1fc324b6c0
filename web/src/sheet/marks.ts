/** One's own marks on a sheet, everybody's sums, and the order of its rows. */
import { useMemo } from "react";
import { got, server } from "../api/client";
import { client } from "../api/queries";
import type { ContactSheet, SheetRow } from "../api/types";
import { useWrite } from "../api/writes";
import type { Sums } from "./counted";
import type { Verdict } from "./sign";

/** The name of a cell; of a row as a whole without a column. */
export const at = (row: number, column: number | null) => `${row} ${column}`;

/** The mean of the votes, 0 to 1, one with changes as half; below 0 without any. */
const worth = ({ yes, changes, no }: Sums) =>
  yes + changes + no ? (yes + changes / 2) / (yes + changes + no) : -1;

/** The rows by votes, by a trait, or as they are laid out; those to judge by first. */
export function sorted(rows: SheetRow[], by: string): SheetRow[] {
  return [...rows].sort((a, b) => {
    if (a.judged_by !== b.judged_by) return a.judged_by ? -1 : 1;
    if (by === "votes") return worth(b.sums) - worth(a.sums);
    return by ? (b.traits[by] ?? -Infinity) - (a.traits[by] ?? -Infinity) : 0;
  });
}

export function useMarks(sheet: ContactSheet) {
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
      got(server.PATCH("/api/sheets/{sheet_id}", { ...path, body })),
    [],
    keep,
  );
  const close = useWrite(() => got(server.POST("/api/sheets/{sheet_id}/close", path)), ["sheets"], keep);
  const own = useMemo(() => new Map(sheet.own.map((m) => [at(m.row, m.column), m])), [sheet.own]);
  const cells = useMemo(() => new Map(sheet.cells.map((c) => [at(c.row, c.column), c])), [sheet.cells]);
  const noted = useMemo(() => new Set(sheet.notes.map((n) => at(n.row, n.column))), [sheet.notes]);
  const closed = sheet.closed_by !== null;
  const verdictOf = (row: number, column: number) =>
    (own.get(at(row, column))?.verdict ?? "") as Verdict | "";
  return {
    ...{ own, cells, noted, closed, change, close, verdictOf },
    error: mark.error ?? change.error ?? close.error,
    /** The same verdict again takes it back. */
    vote: (row: SheetRow, column: number, verdict: Verdict) => {
      if (row.judged_by || closed) return;
      const before = own.get(at(row.id, column));
      const said = before?.verdict === verdict ? "" : verdict;
      mark.mutate({ row: row.id, column, verdict: said, note: before?.note ?? "" });
    },
    note: (row: number, column: number | null, note: string) =>
      mark.mutate({ row, column, verdict: column === null ? "" : verdictOf(row, column), note }),
  };
}
export type Marks = ReturnType<typeof useMarks>;
