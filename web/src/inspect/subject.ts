/** What is inspected, as its address names it. */
import { queryOptions } from "@tanstack/react-query";
import { got, server } from "../api/client";

const KINDS = ["lut", "look", "revision", "item"] as const;
export type SubjectKind = (typeof KINDS)[number];

export interface Subject {
  kind: SubjectKind;
  key: number;
}

/** A subject from two parts of an address; `null` where they name none. */
export function subjectOf(kind: string | undefined, key: string | undefined): Subject | null {
  const known = KINDS.find((k) => k === kind);
  const number = Number(key);
  return known && Number.isInteger(number) && number > 0 ? { kind: known, key: number } : null;
}

export const nameOf = (subject: Subject) => `${subject.kind}/${subject.key}`;
/** Where the inspector shows it, held against another if wanted. */
export const inspectorOf = (subject: Subject, other?: Subject) =>
  `/catalogue/inspect/${nameOf(subject)}${other ? `?with=${nameOf(other)}` : ""}`;
export const stillOf = (subject: Subject, frame: number, width: number) =>
  `/api/inspect/${nameOf(subject)}/still?frame=${frame}&width=${width}`;
export const differenceOf = (subject: Subject, other: Subject | null, frame: number, width: number) =>
  `/api/inspect/${nameOf(subject)}/difference?frame=${frame}&width=${width}${other ? `&other=${other.kind}&other_key=${other.key}` : ""}`;

export type By = "red" | "green" | "blue" | "lightness";

const path = (s: Subject) => ({ path: { kind: s.kind, key: s.key } });

export const inspection = {
  of: (s: Subject) =>
    queryOptions({
      queryKey: ["inspected", nameOf(s)],
      queryFn: () => got(server.GET("/api/inspect/{kind}/{key}", { params: path(s) })),
    }),
  cloud: (s: Subject, other: Subject | null) =>
    queryOptions({
      queryKey: ["inspected", nameOf(s), "cloud", other && nameOf(other)],
      queryFn: () =>
        got(
          server.GET("/api/inspect/{kind}/{key}/cloud", {
            params: { ...path(s), query: other ? { other: other.kind, other_key: other.key } : {} },
          }),
        ),
    }),
  slices: (s: Subject, by: By) =>
    queryOptions({
      queryKey: ["inspected", nameOf(s), "slices", by],
      queryFn: () =>
        got(server.GET("/api/inspect/{kind}/{key}/slices", { params: { ...path(s), query: { by } } })),
    }),
  unbaking: (id: number) =>
    queryOptions({
      queryKey: ["unbaking", id],
      queryFn: () => got(server.GET("/api/unbakings/{key}", { params: { path: { key: id } } })),
      staleTime: 0,
    }),
};
