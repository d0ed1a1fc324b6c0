/** Which cut a project follows, and what of it still waits for a clip. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import styled from "styled-components";
import { askedOfCuts } from "./asked";

/** Gives way before the name of the project does. */
const Short = styled.small`
  flex: 0 9 auto;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
`;

export function Followed({ project }: { project: number }) {
  const cuts = useQuery(askedOfCuts.all(project));
  const cut = cuts.data?.find((one) => one.current);
  if (!cut) return null;
  return (
    <Short>
      · follows <Link to={`/projects/${project}/cuts/${cut.id}`}>cut {cut.number}</Link>
      {cut.waiting ? `, ${cut.waiting} ${cut.waiting === 1 ? "event waits" : "events wait"} for a clip` : ""}
    </Short>
  );
}
