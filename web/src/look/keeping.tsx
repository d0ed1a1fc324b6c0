/** Who sees a look: everybody, or the members of one private project. */
import { useQuery } from "@tanstack/react-query";
import { got, server } from "../api/client";
import type { LookRecord } from "../api/types";
import { useWrite } from "../api/writes";
import { Choice } from "../kit/choice";
import { Quiet } from "../kit/layout";
import { Trouble } from "../kit/trouble";
import { askedOfLook } from "./asked";

const EVERYBODY = "everybody";

export function Keeping({ look }: { look: LookRecord }) {
  const { data: projects = [] } = useQuery(askedOfLook.keeping(look.id));
  const keeper = projects.find((p) => p.kept);
  const keep = useWrite(
    ({ project, kept }: { project: number; kept: boolean }) =>
      got(
        server.PUT("/api/projects/{project_id}/looks/{look_id}", {
          params: { path: { project_id: project, look_id: look.id } },
          body: { kept },
        }),
      ),
    ["look", "keeping", "catalogue"],
  );
  if (!projects.length && !look.kept) return null;
  const options = [
    { key: EVERYBODY, label: "Everybody", note: "in the team" },
    ...projects.map((p) => ({ key: String(p.id), label: `Members of ${p.name}`, note: "and leads" })),
  ];
  const choose = (key: string) => {
    if (key !== EVERYBODY) keep.mutate({ project: Number(key), kept: true });
    else if (keeper) keep.mutate({ project: keeper.id, kept: false });
  };
  return (
    <>
      <h2>Who sees it</h2>
      {look.may_edit ? (
        <Choice
          label="Who sees it"
          hidden
          chosen={keeper ? String(keeper.id) : EVERYBODY}
          options={options}
          onChange={choose}
        />
      ) : (
        <Quiet>{keeper ? `members of ${keeper.name}, and leads` : "everybody in the team"}</Quiet>
      )}
      <Trouble error={keep.error} />
    </>
  );
}
