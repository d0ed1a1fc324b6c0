/** What the reel asks the server for beside the project. */
import { queryOptions } from "@tanstack/react-query";
import { got, server } from "../api/client";
import type { Shot } from "../api/types";

const of = (project: number) => ({ params: { path: { project_id: project } } });

export const askedOfReel = {
  /** The cuts inside a scene; 0 for the shots that are in none. */
  scene: (project: number, scene: number) =>
    queryOptions({
      queryKey: ["project", project, "reel", scene],
      queryFn: () =>
        got(
          server.GET("/api/projects/{project_id}/reel/scenes/{scene_id}", {
            params: { path: { project_id: project, scene_id: scene } },
          }),
        ),
    }),
  mended: (project: number, shot: number) =>
    queryOptions({
      queryKey: ["project", project, "mended", shot],
      queryFn: () =>
        got(
          server.GET("/api/projects/{project_id}/reel/shots/{shot_id}/mended", {
            params: { path: { project_id: project, shot_id: shot } },
          }),
        ),
    }),
  notes: (project: number) =>
    queryOptions({
      queryKey: ["reel notes", project],
      queryFn: () => got(server.GET("/api/projects/{project_id}/notes", of(project))),
    }),
  /** The looks on a shot with the newer revisions that stand ready. */
  newer: (project: number, shot: Shot) =>
    queryOptions({
      queryKey: ["project", project, "newer", shot.id, shot.version],
      queryFn: () =>
        got(
          server.GET("/api/projects/{project_id}/shots/{shot_id}/worn", {
            params: { path: { project_id: project, shot_id: shot.id }, query: { newer: true } },
          }),
        ),
    }),
  /** The looks that were on a shot when a note was written. */
  then: (project: number, note: number) =>
    queryOptions({
      queryKey: ["project", project, "then", note],
      queryFn: () =>
        got(
          server.GET("/api/projects/{project_id}/notes/{note_id}/worn", {
            params: { path: { project_id: project, note_id: note } },
          }),
        ),
      staleTime: Infinity,
    }),
};
