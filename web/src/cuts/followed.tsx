/** Which cut a project follows, and what of it still waits for a clip. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { askedOfCuts } from "./asked";

export function Followed({ project }: { project: number }) {
  const cuts = useQuery(askedOfCuts.all(project));
  const cut = cuts.data?.find((one) => one.current);
  if (!cut) return null;
  return (
    <small>
      · follows <Link to={`/projects/${project}/cuts/${cut.id}`}>cut {cut.number}</Link>
      {cut.waiting ? `, ${cut.waiting} ${cut.waiting === 1 ? "event waits" : "events wait"} for a clip` : ""}
    </small>
  );
}
