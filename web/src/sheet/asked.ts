/** What contact sheets ask the server for. */
import { queryOptions } from "@tanstack/react-query";
import { got, server } from "../api/client";

export const askedOfSheets = {
  all: queryOptions({ queryKey: ["sheets"], queryFn: () => got(server.GET("/api/sheets")), staleTime: 0 }),
  one: (id: number) =>
    queryOptions({
      queryKey: ["sheet", id],
      queryFn: () => got(server.GET("/api/sheets/{sheet_id}", { params: { path: { sheet_id: id } } })),
      staleTime: 0,
      // Others vote at the same time.
      refetchInterval: 8000,
    }),
  /** The look of a row at the strength of the sheet. */
  look: (sheet: number, row: number) =>
    queryOptions({
      queryKey: ["sheet", sheet, "look", row],
      queryFn: () =>
        got(
          server.GET("/api/sheets/{sheet_id}/rows/{row_id}/look", {
            params: { path: { sheet_id: sheet, row_id: row } },
          }),
        ),
      staleTime: Infinity,
    }),
};

/** Address of a cell; no row is the frame as it is. */
export const cellOf = (
  sheet: { id: number; strength: number },
  row: number | null,
  column: number,
  width: number,
): string =>
  `/api/sheets/${sheet.id}/still?column=${column}${row === null ? "" : `&row=${row}`}&width=${width}&v=${sheet.strength}`;
