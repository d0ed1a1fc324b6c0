/** What the page of people asks the server for. */
import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";
import { got, server } from "../api/client";
import type { Happening } from "../api/types";

/** Which events: of what kind, by whom, and how far back in days. */
export interface ActivityAsked {
  kind: Happening | null;
  by: number | null;
  days: number | null;
}

export const askedOfPeople = {
  team: queryOptions({
    queryKey: ["people", "team"],
    queryFn: () => got(server.GET("/api/people", { params: { query: { gone: true } } })),
    refetchInterval: 60_000,
  }),
  invitations: queryOptions({
    queryKey: ["people", "invitations"],
    queryFn: () => got(server.GET("/api/invitations")),
  }),
  may: queryOptions({
    queryKey: ["people", "may"],
    queryFn: () => got(server.GET("/api/people/may")),
    staleTime: Infinity,
  }),
  sessions: queryOptions({
    queryKey: ["people", "sessions"],
    queryFn: () => got(server.GET("/api/me/sessions")),
  }),
  tokens: queryOptions({ queryKey: ["people", "tokens"], queryFn: () => got(server.GET("/api/me/tokens")) }),
  factor: queryOptions({
    queryKey: ["people", "factor"],
    queryFn: () => got(server.GET("/api/me/second-factor")),
  }),
  waysIn: (id: number) =>
    queryOptions({
      queryKey: ["people", "ways in", id],
      queryFn: () =>
        got(server.GET("/api/people/{person_id}/ways-in", { params: { path: { person_id: id } } })),
    }),
  holdings: queryOptions({
    queryKey: ["people", "holdings"],
    queryFn: () => got(server.GET("/api/people/holdings")),
  }),
  bin: queryOptions({ queryKey: ["bin"], queryFn: () => got(server.GET("/api/bin")) }),
  others: queryOptions({
    queryKey: ["waiting", "others"],
    queryFn: () => got(server.GET("/api/waiting/others")),
  }),
  activity: (asked: ActivityAsked) =>
    infiniteQueryOptions({
      queryKey: ["people", "activity", asked],
      queryFn: ({ pageParam }) =>
        got(
          server.GET("/api/activity", {
            params: {
              query: {
                kind: asked.kind ?? undefined,
                by: asked.by ?? undefined,
                days: asked.days ?? undefined,
                before: pageParam ?? undefined,
              },
            },
          }),
        ),
      initialPageParam: null as number | null,
      getNextPageParam: (page) => (page.events.length ? (page.events.at(-1)?.id ?? null) : null),
      refetchInterval: 60_000,
    }),
  comeIn: (secret: string) =>
    queryOptions({
      queryKey: ["come in", secret],
      queryFn: () => got(server.GET("/api/come-in/{secret}", { params: { path: { secret } } })),
      retry: false,
    }),
};
