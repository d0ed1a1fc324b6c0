/** What the screens of cuts ask for. All of it stands under the project: one word asks for it anew. */
import { queryOptions } from "@tanstack/react-query";
import { got, server } from "../api/client";
import type { Cut } from "../api/types";
import { UNDER_WAY } from "../projects/asked";

/** Whether a cut is being taken. */
export const taking = (cut: Cut | undefined): boolean =>
  cut?.number === null && cut.job !== null && UNDER_WAY.has(cut.job.state);

export const askedOfCuts = {
  all: (project: number) =>
    queryOptions({
      queryKey: ["project", project, "cuts"],
      queryFn: () =>
        got(server.GET("/api/projects/{project_id}/cuts", { params: { path: { project_id: project } } })),
    }),
  one: (project: number, cut: number) =>
    queryOptions({
      queryKey: ["project", project, "cuts", cut],
      queryFn: () =>
        got(
          server.GET("/api/projects/{project_id}/cuts/{cut_id}", {
            params: { path: { project_id: project, cut_id: cut } },
          }),
        ),
    }),
};

/** Address of a cut's list with looks on it. */
export const listOf = (project: number, cut: number, form: "otio" | "edl") =>
  `/api/projects/${project}/cuts/${cut}/list?form=${form}`;
