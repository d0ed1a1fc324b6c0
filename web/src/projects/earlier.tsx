/** What would be otherwise than in the last delivery, and the deliveries that were made. */
import { Link } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useWrite } from "../api/writes";
import type { Delivery, Outlook, Project } from "../api/types";
import { Button } from "../kit/button";
import { bytes } from "../kit/bytes";
import { Apart, Level, Quiet, Said, Warned } from "../kit/layout";
import { Trouble } from "../kit/trouble";
import { around } from "../kit/partshown";
import { stillOf, UNDER_WAY } from "./asked";

const Box = styled.section`
  display: grid;
  gap: 8px;
  .two {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 4px;
  }
  .two img {
    width: 100%;
    aspect-ratio: 16/9;
    object-fit: cover;
    border-radius: 3px;
    display: block;
    background: var(--field);
  }
  .two small {
    color: var(--t2);
  }
  ul {
    list-style: none;
    padding: 0;
  }
  li {
    padding: 9px 0;
    border-bottom: 1px solid var(--line);
    display: grid;
    gap: 3px;
  }
  a {
    color: var(--accent);
  }
`;

export function Since(props: { project: Project; outlook: Outlook | undefined; deliveries: Delivery[] }) {
  const last = props.deliveries.find((d) => d.ready && d.shots);
  const changes = props.outlook?.changes ?? [];
  if (!last || !changes.length) return null;
  const first = props.project.shots.find((s) => changes.some((c) => c.shots.includes(s.id)));
  return (
    <Box aria-label={`Since delivery ${last.number}`}>
      <h2>Since delivery {last.number}</h2>
      {changes.map((c) => (
        <Said key={c.text}>{c.text}</Said>
      ))}
      {first ? (
        <div className="two">
          <span>
            <img
              src={`/api/projects/${props.project.id}/deliveries/${last.number}/shots/${first.id}/still?width=240`}
              alt={`${first.name} in delivery ${last.number}`}
            />
            <small>
              {first.number} in delivery {last.number}
            </small>
          </span>
          <span>
            <img
              src={stillOf(props.project.id, first, 240)}
              alt={`${first.name} now`}
              style={around(first.frame.part)}
            />
            <small>now</small>
          </span>
        </div>
      ) : null}
    </Box>
  );
}

export function Earlier(props: { project: number; deliveries: Delivery[] }) {
  const again = useWrite(
    (number: number) =>
      got(
        server.POST("/api/projects/{project_id}/deliveries/{number}/drop-folder", {
          params: { path: { project_id: props.project, number } },
        }),
      ),
    ["project"],
  );
  const over = props.deliveries.filter((d) => !UNDER_WAY.has(d.job.state));
  return (
    <Box aria-label="Earlier deliveries">
      <h2>Earlier</h2>
      {over.length ? (
        <ul>
          {over.map((d) => (
            <li key={d.id}>
              <Apart>
                <span>
                  <b>{d.number}</b>{" "}
                  <Quiet>
                    {new Date(d.made_at).toLocaleString("en-GB", {
                      day: "numeric",
                      month: "short",
                      hour: "2-digit",
                      minute: "2-digit",
                    })}
                    , {d.made_by}
                    {d.cut ? `, of cut ${d.cut}` : ""}
                  </Quiet>
                </span>
                <Level>
                  {d.review ? <Link to={`/projects/${props.project}/review/${d.number}`}>Watch</Link> : null}
                  {d.ready ? (
                    <a href={`/api/projects/${props.project}/deliveries/${d.number}/file`} download>
                      Fetch
                    </a>
                  ) : null}
                </Level>
              </Apart>
              {d.ready ? (
                <Quiet>
                  {d.shots ? `${d.shots} shots, ` : ""}
                  {bytes(d.bytes)}
                  {d.changes[0] ? `; ${d.changes[0].text}` : ""}
                </Quiet>
              ) : (
                <Warned>{d.job.state === "failed" ? `failed: ${d.job.reason}` : "stopped"}</Warned>
              )}
              {d.left_out.length ? <Quiet>without: {d.left_out.join("; ")}</Quiet> : null}
              {d.drop_folder.state === "there" ? (
                <Quiet>in the drop folder as {d.drop_folder.place}</Quiet>
              ) : null}
              {d.drop_folder.state === "failed" ? <Warned>{d.drop_folder.why}</Warned> : null}
              {d.ready &&
              d.shots &&
              d.drop_folder.state !== "there" &&
              !["waiting", "under way"].includes(d.drop_folder.state) ? (
                <span>
                  <Button look="quiet" onPress={() => again.mutate(d.number)}>
                    Put it into the drop folder
                  </Button>
                </span>
              ) : null}
            </li>
          ))}
        </ul>
      ) : (
        <Said>
          Nothing delivered yet. A delivery holds a LUT for each look and shot, stills and clips, a CDL list,
          an OpenColorIO configuration, recipes, and lists with checksums.
        </Said>
      )}
      <Trouble error={again.error} />
    </Box>
  );
}
