/**
 * The filters of the catalogue. They stand in the address, so that a link shows the same looks and back takes
 * one step back.
 */
import { useMemo } from "react";
import { useSearchParams } from "react-router";
import type { operations } from "../api/schema";

export type Query = NonNullable<
  operations["saucer_server_catalogue_api_filter_values"]["parameters"]["query"]
>;

/** Kinds of which several may be chosen. */
export const SEVERAL = [
  "tag",
  "status",
  "maker",
  "rights",
  "expects",
  "range",
] as const satisfies (keyof Query)[];
/** Kinds of which one may be chosen. */
export const SINGLE = [
  "q",
  "collection",
  "origin",
  "project",
  "since",
  "fits",
  "mine",
] as const satisfies (keyof Query)[];
const ORDER = ["order", "backwards"] as const satisfies (keyof Query)[];
/** Does not compile where the server knows a kind of filter that stands in none of the lists. */
type Unlisted = Exclude<keyof Query, Several | Single | (typeof ORDER)[number]>;
export const ALL_LISTED: [Unlisted] extends [never] ? true : Unlisted = true;
export type Several = (typeof SEVERAL)[number];
export type Single = (typeof SINGLE)[number];

/** The query of an address that filters or orders the list, without the words of the view. */
export function filtersOf(search: URLSearchParams): URLSearchParams {
  const kept = new URLSearchParams();
  for (const kind of [...SEVERAL, ...SINGLE, ...ORDER])
    for (const value of search.getAll(kind)) if (value) kept.append(kind, value);
  return kept;
}

/** The same as the server is asked. */
export function queryOf(search: URLSearchParams): Query {
  const query: Record<string, string | string[]> = {};
  for (const kind of SEVERAL) if (search.getAll(kind).length) query[kind] = search.getAll(kind);
  for (const kind of [...SINGLE, ...ORDER]) if (search.get(kind)) query[kind] = search.get(kind)!;
  return query;
}

/** A range of a trait as an address has it; an open end is left out. */
export const rangeWord = (key: string, low: number | null, high: number | null): string =>
  `${key}:${low ?? ""}:${high ?? ""}`;

/** Both ends of the range of a trait; `null` is open. */
export function rangeOf(search: URLSearchParams, key: string): [number | null, number | null] {
  const word = search.getAll("range").find((r) => r.startsWith(`${key}:`));
  const [, low = "", high = ""] = word?.split(":") ?? [];
  return [low === "" ? null : Number(low), high === "" ? null : Number(high)];
}

export interface Filters {
  search: URLSearchParams;
  query: Query;
  /** Whether fewer than all looks are asked for. */
  set: boolean;
  get: (kind: Single | "order" | "view" | "frame" | "across" | "up") => string;
  all: (kind: Several) => string[];
  put: (kind: string, value: string | null) => void;
  putAll: (kind: Several, values: Iterable<string>) => void;
  range: (key: string, low: number | null, high: number | null) => void;
  /** Takes every filterValues away; the order and the view stay. */
  clear: () => void;
  /** Sets the filters of a kept search. */
  open: (kept: string) => void;
}

export function useFilters(): Filters {
  const [search, setSearch] = useSearchParams();
  return useMemo(() => {
    const change = (edit: (next: URLSearchParams) => void) =>
      setSearch(
        (last) => {
          const next = new URLSearchParams(last);
          edit(next);
          return next;
        },
        { replace: true },
      );
    const clear = (next: URLSearchParams) => [...SEVERAL, ...SINGLE].forEach((kind) => next.delete(kind));
    const putAll = (kind: Several, values: Iterable<string>) =>
      change((next) => {
        next.delete(kind);
        for (const value of values) next.append(kind, value);
      });
    return {
      search,
      query: queryOf(search),
      set: [...SEVERAL, ...SINGLE].some((kind) => search.get(kind)),
      get: (kind) => search.get(kind) ?? "",
      all: (kind) => search.getAll(kind),
      put: (kind, value) => change((next) => (value ? next.set(kind, value) : next.delete(kind))),
      putAll,
      range: (key, low, high) => {
        const others = search.getAll("range").filter((r) => !r.startsWith(`${key}:`));
        putAll("range", low === null && high === null ? others : [...others, rangeWord(key, low, high)]);
      },
      clear: () => change(clear),
      open: (kept) =>
        change((next) => {
          clear(next);
          ORDER.forEach((kind) => next.delete(kind));
          for (const [kind, value] of new URLSearchParams(kept)) next.append(kind, value);
        }),
    };
  }, [search, setSearch]);
}
