/** What is done with a cut: clips and CDLs chosen, taken, filled, let go of. */
import { useNavigate } from "react-router";
import { got, server } from "../api/client";
import { client } from "../api/queries";
import type { Cut, CutSaid } from "../api/types";
import { useWrite } from "../api/writes";

export function useCutActs(project: number, cut: Cut) {
  const navigate = useNavigate();
  const path = { project_id: project, cut_id: cut.id };
  const say = useWrite(
    (said: CutSaid) =>
      got(server.PATCH("/api/projects/{project_id}/cuts/{cut_id}", { params: { path }, body: said })),
    [],
    (answer) => client.setQueryData(["project", project, "cuts", cut.id], answer),
  );
  const take = useWrite(
    () =>
      got(
        server.POST("/api/projects/{project_id}/cuts/{cut_id}/take", {
          params: { path },
          body: { seen: cut.seen },
        }),
      ),
    ["project"],
  );
  const fill = useWrite(
    (said: { place: number; clip: number }) =>
      got(server.POST("/api/projects/{project_id}/cuts/{cut_id}/clips", { params: { path }, body: said })),
    ["project", "jobs"],
  );
  const drop = useWrite(
    () => got(server.DELETE("/api/projects/{project_id}/cuts/{cut_id}", { params: { path } })),
    ["project"],
    () => void navigate(`/projects/${project}/cuts`),
  );
  const error = [say, take, fill, drop].find((write) => write.error)?.error ?? null;
  return { say, take, fill, drop, error };
}
export type CutActs = ReturnType<typeof useCutActs>;

/** Sends a list to a project; it is looked at, and nothing of the project changes. */
export const useSendList = (project: number) => {
  const navigate = useNavigate();
  return useWrite(
    ({ file, rate }: { file: File; rate: string }) => {
      const body = new FormData();
      body.append("file", file);
      body.append("rate", rate);
      return got(
        server.POST("/api/projects/{project_id}/cuts", {
          params: { path: { project_id: project } },
          body,
        }),
      );
    },
    ["project"],
    (cut) => void navigate(`/projects/${project}/cuts/${cut.id}`),
  );
};
