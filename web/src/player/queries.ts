/** What is asked of the server for clips that play. */
import { queryOptions } from "@tanstack/react-query";
import { got, server } from "../api/client";

/** States of work that is not at its end. */
const UNDER_WAY = new Set(["waiting", "running"]);
/** Milliseconds after which it is asked again how far the work is. */
const AGAIN = 1500;

export const askedOfClip = {
  one: (id: number) =>
    queryOptions({
      queryKey: ["clips", id],
      queryFn: () => got(server.GET("/api/clips/{clip_id}", { params: { path: { clip_id: id } } })),
      refetchInterval: ({ state }) =>
        state.data && !state.data.plays && UNDER_WAY.has(state.data.proxy_job?.state ?? "") ? AGAIN : false,
    }),
  index: (id: number) =>
    queryOptions({
      queryKey: ["clips", id, "index"],
      queryFn: () => got(server.GET("/api/clips/{clip_id}/proxy", { params: { path: { clip_id: id } } })),
      staleTime: Infinity,
    }),
};

export const fileOf = (id: number) => `/api/clips/${id}/proxy/file`;
