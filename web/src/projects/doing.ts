/** What people do to a project; each writes, asks for the project anew, and tells what went wrong. */
import { got, server } from "../api/client";
import { useWrite } from "../api/writes";
import type { Project, Trim } from "../api/types";

export type Wish = {
  shots?: number[];
  scenes?: number[];
  whole?: boolean;
  how: "replace" | "stack" | "inherit";
  layers: { revision: number; strength: number }[];
};
export type TrimPart = "exposure" | "balance" | "contrast" | "cdl";

const STALE = ["project", "projects"] as const;

/** The newest change that this screen shows: the server tells where somebody else was quicker. */
const seenOf = (project: Project) => project.changes[0]?.id ?? 0;

export function useDoing(project: Project) {
  const at = { params: { path: { project_id: project.id } } };
  return {
    assign: useWrite(
      (wish: Wish) =>
        got(
          server.POST("/api/projects/{project_id}/assign", {
            ...at,
            body: { ...wish, seen: seenOf(project) },
          }),
        ),
      STALE,
    ),
    trim: useWrite(
      (said: { shots: number[]; trim: Trim; parts?: TrimPart[]; words?: string }) =>
        got(
          server.POST("/api/projects/{project_id}/trim", { ...at, body: { ...said, seen: seenOf(project) } }),
        ),
      STALE,
    ),
    undo: useWrite(
      (change: number) =>
        got(
          server.POST("/api/projects/{project_id}/changes/{change_id}/undo", {
            params: { path: { project_id: project.id, change_id: change } },
          }),
        ),
      STALE,
    ),
    rollOut: useWrite(
      (said: { now: number; then: number; shots: number[] }) =>
        got(
          server.POST("/api/projects/{project_id}/roll-out", {
            ...at,
            body: { ...said, seen: seenOf(project) },
          }),
        ),
      STALE,
    ),
    addShots: useWrite(
      (said: { frames: number[]; scene: number | null }) =>
        got(server.POST("/api/projects/{project_id}/shots", { ...at, body: said })),
      STALE,
    ),
    addScene: useWrite(
      (said: { name: string; shots: number[] }) =>
        got(server.POST("/api/projects/{project_id}/scenes", { ...at, body: said })),
      STALE,
    ),
    changeScene: useWrite(
      (said: { scene: number; name?: string; place?: number }) =>
        got(
          server.PATCH("/api/projects/{project_id}/scenes/{scene_id}", {
            params: { path: { project_id: project.id, scene_id: said.scene } },
            body: { name: said.name ?? "", place: said.place ?? null },
          }),
        ),
      STALE,
    ),
    removeScene: useWrite(
      (scene: number) =>
        got(
          server.DELETE("/api/projects/{project_id}/scenes/{scene_id}", {
            params: { path: { project_id: project.id, scene_id: scene } },
          }),
        ),
      STALE,
    ),
    gather: useWrite(
      (said: { shots: number[]; scene: number | null }) =>
        got(server.POST("/api/projects/{project_id}/gather", { ...at, body: said })),
      STALE,
    ),
    removeShot: useWrite(
      (shot: number) =>
        got(
          server.DELETE("/api/projects/{project_id}/shots/{shot_id}", {
            params: { path: { project_id: project.id, shot_id: shot } },
          }),
        ),
      STALE,
    ),
    meant: useWrite(
      (said: { shot: number; meant: ("skin" | "grey" | "tone")[] }) =>
        got(
          server.PATCH("/api/projects/{project_id}/shots/{shot_id}", {
            params: { path: { project_id: project.id, shot_id: said.shot } },
            body: { meant: said.meant },
          }),
        ),
      STALE,
    ),
  };
}

export type Doing = ReturnType<typeof useDoing>;

/** What went wrong last with any of it. */
export const trouble = (doing: Doing): Error | null =>
  Object.values(doing).reduce<Error | null>((found, one) => found ?? one.error, null);

export const forget = (doing: Doing): void => Object.values(doing).forEach((one) => one.reset());
