/** What the catalogue asks the server for. */
import { infiniteQueryOptions, queryOptions, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { got, server } from "../api/client";
import { client } from "../api/queries";
import type { Query } from "./filters";

/** Looks of a page: what a large screen shows at once, and the next rows before they scroll in. */
export const PAGE = 48;

export const askedOf = {
  page: (query: Query) =>
    infiniteQueryOptions({
      queryKey: ["catalogue", "cards", query],
      queryFn: ({ pageParam }) =>
        got(
          server.GET("/api/catalogue", { params: { query: { ...query, offset: pageParam, limit: PAGE } } }),
        ),
      initialPageParam: 0,
      getNextPageParam: (last, pages) => {
        const there = pages.reduce((sum, page) => sum + page.cards.length, 0);
        return last.cards.length && there < last.found ? there : undefined;
      },
    }),
  filterValues: (query: Query) =>
    queryOptions({
      queryKey: ["catalogue", "filters", query],
      queryFn: () => got(server.GET("/api/catalogue/filters", { params: { query } })),
    }),
  scales: queryOptions({
    queryKey: ["scales"],
    queryFn: () => got(server.GET("/api/catalogue/scales")),
    staleTime: Infinity,
  }),
  searches: queryOptions({
    queryKey: ["catalogue", "searches"],
    queryFn: () => got(server.GET("/api/catalogue/searches")),
  }),
  places: (query: Query, across: string, up: string) =>
    queryOptions({
      queryKey: ["catalogue", "map", query, across, up],
      queryFn: () => got(server.GET("/api/catalogue/map", { params: { query: { ...query, across, up } } })),
    }),
  cards: (looks: number[]) =>
    queryOptions({
      queryKey: ["catalogue", "some", looks],
      queryFn: () =>
        looks.length ? got(server.GET("/api/catalogue/cards", { params: { query: { look: looks } } })) : [],
    }),
  like: (look: number, but: string[] = [], count = 12) =>
    queryOptions({
      queryKey: ["catalogue", "like", look, but, count],
      queryFn: () =>
        got(
          server.GET("/api/catalogue/{look_id}/like", {
            params: { path: { look_id: look }, query: { but, count } },
          }),
        ),
    }),
};

/** What was there stays in sight until the next answer is here. */
const staying = { placeholderData: <T>(previous: T | undefined) => previous };

export const usePages = (query: Query) => useInfiniteQuery({ ...askedOf.page(query), ...staying });
export const useFilterValues = (query: Query) => useQuery({ ...askedOf.filterValues(query), ...staying });
export const useScales = () => useQuery(askedOf.scales);
export const usePlaces = (query: Query, across: string, up: string) =>
  useQuery({ ...askedOf.places(query, across, up), ...staying });

/** Has everything of the catalogue asked for anew. */
export const catalogueChanged = () => client.invalidateQueries({ queryKey: ["catalogue"] });
