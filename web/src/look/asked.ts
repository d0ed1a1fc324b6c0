/** What the page of a look asks the server for. */
import { queryOptions } from "@tanstack/react-query";
import { got, server } from "../api/client";

const at = (look: number) => ({ params: { path: { look_id: look } } });

export const askedOfLook = {
  history: (look: number) =>
    queryOptions({
      queryKey: ["history", look],
      queryFn: () => got(server.GET("/api/looks/{look_id}/history", at(look))),
      staleTime: 2000,
    }),
  notes: (look: number) =>
    queryOptions({
      queryKey: ["notes", look],
      queryFn: () => got(server.GET("/api/looks/{look_id}/notes", at(look))),
      staleTime: 2000,
    }),
  reviews: (look: number) =>
    queryOptions({
      queryKey: ["reviews", look],
      queryFn: () => got(server.GET("/api/looks/{look_id}/reviews", at(look))),
      staleTime: 2000,
    }),
  uses: (look: number) =>
    queryOptions({
      queryKey: ["uses", look],
      queryFn: () => got(server.GET("/api/projects/using/{look_id}", at(look))),
    }),
  keeping: (look: number) =>
    queryOptions({
      queryKey: ["keeping", look],
      queryFn: () => got(server.GET("/api/projects/keeping/{look_id}", at(look))),
    }),
  bakes: (look: number) =>
    queryOptions({
      queryKey: ["bakes", look],
      queryFn: () => got(server.GET("/api/looks/{look_id}/bakes", at(look))),
    }),
  since: (revision: number, other: number) =>
    queryOptions({
      queryKey: ["since", revision, other],
      queryFn: () =>
        got(
          server.GET("/api/revisions/{revision_id}/since/{other_id}", {
            params: { path: { revision_id: revision, other_id: other } },
          }),
        ),
      staleTime: Infinity,
    }),
  taking: (look: number, revision: number) =>
    queryOptions({
      queryKey: ["taking", look, revision],
      queryFn: () =>
        got(
          server.GET("/api/looks/{look_id}/taking", {
            params: { path: { look_id: look }, query: { revision } },
          }),
        ),
      staleTime: 0,
    }),
  deciders: queryOptions({ queryKey: ["deciders"], queryFn: () => got(server.GET("/api/deciders")) }),
  waiting: queryOptions({
    queryKey: ["waiting"],
    queryFn: () => got(server.GET("/api/waiting")),
    staleTime: 30_000,
    refetchInterval: 60_000,
  }),
  /** Open notes on the projects that one works on. */
  notesWaiting: queryOptions({
    queryKey: ["waiting", "notes"],
    queryFn: () => got(server.GET("/api/projects/notes/waiting")),
    staleTime: 30_000,
    refetchInterval: 60_000,
  }),
};

/** Answers that are stale after a revision was decided on. */
export const DECIDED = ["history", "reviews", "waiting", "catalogue", "look"] as const;
