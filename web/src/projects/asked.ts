/** What the screens of a project ask for beside the project itself. */
import { queryOptions } from "@tanstack/react-query";
import { got, server } from "../api/client";
import type { EncodingKey, Plan, Reading, Shot } from "../api/types";
import { signed } from "../kit/signed";

const of = (project: number) => ({ params: { path: { project_id: project } } });

/** All of it stands under `project` and the number, so that one word asks for everything anew. */
export const askedOfProject = {
  wall: (id: number) =>
    queryOptions({
      queryKey: ["project", id, "wall"],
      queryFn: () => got(server.GET("/api/projects/{project_id}/wall", of(id))),
    }),
  offers: (id: number) =>
    queryOptions({
      queryKey: ["project", id, "offers"],
      queryFn: () => got(server.GET("/api/projects/{project_id}/offers", of(id))),
    }),
  changed: (id: number, now: number, then: number) =>
    queryOptions({
      queryKey: ["project", id, "changed", now, then],
      queryFn: () =>
        got(
          server.GET("/api/projects/{project_id}/changed", {
            params: { path: { project_id: id }, query: { now, then } },
          }),
        ),
    }),
  suggested: (id: number, shot: number, hero?: number) =>
    queryOptions({
      queryKey: ["project", id, "suggested", shot, hero ?? 0],
      queryFn: () =>
        got(
          server.GET("/api/projects/{project_id}/shots/{shot_id}/suggested", {
            params: { path: { project_id: id, shot_id: shot }, query: hero ? { hero } : {} },
          }),
        ),
    }),
  /** The looks on a shot as one, as it is now. */
  worn: (id: number, shot: Shot) =>
    queryOptions({
      queryKey: ["project", id, "worn", shot.id, shot.version],
      queryFn: () =>
        got(
          server.GET("/api/projects/{project_id}/shots/{shot_id}/worn", {
            params: { path: { project_id: id, shot_id: shot.id } },
          }),
        ),
    }),
  /** The same with one revision in place of another. */
  wornWith: (id: number, shot: Shot, now: number, then: number) =>
    queryOptions({
      queryKey: ["project", id, "worn", shot.id, shot.version, now, then],
      queryFn: () =>
        got(
          server.GET("/api/projects/{project_id}/shots/{shot_id}/worn", {
            params: { path: { project_id: id, shot_id: shot.id }, query: { now, then } },
          }),
        ),
    }),
  deliveries: (id: number) =>
    queryOptions({
      queryKey: ["project", id, "deliveries"],
      queryFn: () => got(server.GET("/api/projects/{project_id}/deliveries", of(id))),
      refetchInterval: (query) => (query.state.data?.some(running) ? 700 : false),
    }),
  review: (id: number, number: number) =>
    queryOptions({
      queryKey: ["project", id, "review", number],
      queryFn: () =>
        got(
          server.GET("/api/projects/{project_id}/deliveries/{number}/review", {
            params: { path: { project_id: id, number } },
          }),
        ),
      staleTime: Infinity,
    }),
  outlook: (id: number, plan: Plan) =>
    queryOptions({
      queryKey: ["project", id, "outlook", plan],
      queryFn: () => got(server.POST("/api/projects/{project_id}/outlook", { ...of(id), body: plan })),
    }),
  loss: (id: number, encoding: EncodingKey) =>
    queryOptions({
      queryKey: ["project", id, "loss", encoding],
      queryFn: () =>
        got(
          server.GET("/api/projects/{project_id}/losses", {
            params: { path: { project_id: id }, query: { encoding } },
          }),
        ),
    }),
  feeds: (id: number) =>
    queryOptions({
      queryKey: ["project", id, "feeds"],
      queryFn: () => got(server.GET("/api/projects/{project_id}/feeds", of(id))),
    }),
  dropFolder: queryOptions({
    queryKey: ["drop folder"],
    queryFn: () => got(server.GET("/api/drop-folder")),
    staleTime: 0,
  }),
  choices: queryOptions({
    queryKey: ["delivery choices"],
    queryFn: () => got(server.GET("/api/deliveries/choices")),
    staleTime: Infinity,
  }),
  people: queryOptions({ queryKey: ["people"], queryFn: () => got(server.GET("/api/people")) }),
  clips: queryOptions({
    queryKey: ["clips"],
    queryFn: () => got(server.GET("/api/clips")),
    refetchInterval: (query) => (query.state.data?.some((c) => UNDER_WAY.has(c.job.state)) ? 700 : false),
  }),
  clip: (id: number) =>
    queryOptions({
      queryKey: ["clips", id],
      queryFn: () => got(server.GET("/api/clips/{clip_id}", { params: { path: { clip_id: id } } })),
      refetchInterval: (query) =>
        query.state.data && UNDER_WAY.has(query.state.data.job.state) ? 700 : false,
    }),
};

export const UNDER_WAY = new Set(["waiting", "running"]);

/** Whether a delivery is being made, or put in the drop folder. */
export const running = (d: { job: { state: string }; drop_folder: { state: string } }): boolean =>
  UNDER_WAY.has(d.job.state) || d.drop_folder.state === "waiting" || d.drop_folder.state === "under way";

/** Addresses of a shot's pictures. */
export const stillOf = (project: number, shot: Shot, width = 320) =>
  `/api/projects/${project}/shots/${shot.id}/still?width=${width}&v=${shot.version}`;
export const beforeOf = (shot: Shot, width = 320) =>
  `/api/frames/${shot.frame.id}/still?width=${width}&trimmed=false&v=${shot.frame.version}`;

/** The looks on a shot in words: name, revision and strength of each. */
export const layerWords = (shot: Shot): string =>
  shot.layers
    .map(
      (l) =>
        `${l.revision.look_name} r${l.revision.number}${l.strength < 1 ? ` ${Math.round(l.strength * 100)} %` : ""}`,
    )
    .join(" + ");

/** What a shot shows under its look, in words. */
export const readingWords = (r: Reading): string =>
  [
    r.skin === null ? "" : `skin ${Math.round(r.skin)}°`,
    r.grey === null ? "" : `grey ${signed(r.grey.yellow, 1)}`,
    `tone ${Math.round(r.tone)} %`,
  ]
    .filter(Boolean)
    .join(" · ");
