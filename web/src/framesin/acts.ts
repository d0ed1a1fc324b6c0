/** What is done with an intake: said of it and of its files, read on, stopped, kept, let go of. */
import { useNavigate } from "react-router";
import { got, server } from "../api/client";
import { client } from "../api/queries";
import type { Intake, IntakeSaid } from "../api/types";
import { useWrite } from "../api/writes";
import { stopSending } from "./sending";

export type FileSaid = Omit<IntakeSaid, "ids">;
export type Say = (ids: number[], said: FileSaid) => void;

/** back: the screen that is gone to once its pictures are frames. */
export function useIntakeActs(intake: Intake, back: string) {
  const navigate = useNavigate();
  const path = { intake_id: intake.id };
  const there = (changed: Intake["files"]) => {
    const now = new Map(changed.map((file) => [file.id, file]));
    client.setQueryData<Intake>(
      ["intake", intake.id],
      (last) => last && { ...last, files: last.files.map((file) => now.get(file.id) ?? file) },
    );
    if (changed.some((file) => file.stage === "waiting"))
      void client.invalidateQueries({ queryKey: ["intake", intake.id] });
  };
  const files = useWrite(
    (said: IntakeSaid) =>
      got(server.PATCH("/api/intakes/{intake_id}/files", { params: { path }, body: said })),
    [],
    there,
  );
  const grey = useWrite(
    ({ file, x, y }: { file: number; x: number; y: number }) =>
      got(
        server.POST("/api/intakes/{intake_id}/files/{file_id}/grey", {
          params: { path: { ...path, file_id: file } },
          body: { x, y },
        }),
      ),
    [],
    (changed) => there([changed]),
  );
  const sets = useWrite(
    (names: string[]) =>
      got(server.PATCH("/api/intakes/{intake_id}", { params: { path }, body: { sets: names } })),
    [],
    (answer) => client.setQueryData(["intake", intake.id], answer),
  );
  const read = useWrite(
    () => got(server.POST("/api/intakes/{intake_id}/read", { params: { path } })),
    ["intake"],
  );
  const stop = useWrite(async () => {
    stopSending();
    if (intake.job)
      await got(server.POST("/api/jobs/{job_id}/cancel", { params: { path: { job_id: intake.job.id } } }));
  }, ["intake"]);
  const { project } = intake;
  const keep = useWrite(
    async () => {
      if (project)
        await got(
          server.POST("/api/projects/{project_id}/intakes/{intake_id}/keep", {
            params: { path: { ...path, project_id: project.id } },
          }),
        );
      else await got(server.POST("/api/intakes/{intake_id}/keep", { params: { path } }));
    },
    ["frames", "intakes", "project", "projects"],
    () => void navigate(project ? `/projects/${project.id}` : back),
  );
  const drop = useWrite(
    async () => {
      stopSending();
      await got(server.DELETE("/api/intakes/{intake_id}", { params: { path } }));
    },
    ["intakes"],
    () => void navigate("/frames/in"),
  );
  const error = [files, grey, sets, read, stop, keep, drop].find((write) => write.error)?.error ?? null;
  const say: Say = (ids, said) => files.mutate({ ids, ...said });
  return { say, grey, sets, read, stop, keep, drop, error };
}
export type IntakeActs = ReturnType<typeof useIntakeActs>;
