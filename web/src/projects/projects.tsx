/** All projects. */
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { Link } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useMe, useProjects } from "../api/queries";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Text } from "../kit/text";
import { Empty } from "../kit/empty";
import { Sheet } from "../kit/sheet";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { longAgo } from "../kit/when";
import { Page, TopBar } from "../kit/topbar";
import { Grow, Quiet } from "../kit/layout";
import { around } from "../kit/partshown";

const List = styled.ul`
  list-style: none;
  padding: 10px 22px;
  li {
    border-bottom: 1px solid var(--line);
  }
  a {
    display: grid;
    gap: 12px;
    padding: 16px 8px;
    text-decoration: none;
    border-radius: 6px;
  }
  a:hover {
    background: var(--g1);
  }
  .about {
    display: flex;
    gap: 16px;
    align-items: baseline;
  }
  b {
    font-size: 16px;
    font-weight: 600;
  }
  .about > span {
    color: var(--t2);
  }
  .last {
    margin-left: auto;
    text-align: right;
  }
  .strip {
    display: grid;
    grid-template-columns: repeat(8, 1fr);
    gap: 6px;
  }
  .strip img {
    width: 100%;
    aspect-ratio: 16/9;
    object-fit: cover;
    border-radius: 3px;
    background: var(--field);
    display: block;
  }
`;

export default function Projects() {
  const projects = useProjects();
  const { data: me } = useMe();
  const [starting, setStarting] = useState(false);
  useEffect(() => {
    document.title = "Projects · Saucer";
  }, []);
  return (
    <Page>
      <TopBar>
        <Grow />
        {me?.may_lead ? (
          <Button look="main" onPress={() => setStarting(true)}>
            New project
          </Button>
        ) : null}
      </TopBar>
      <main>
        <h1 className="unseen">Projects</h1>
        {!projects.data ? (
          <Waiting query={projects} what="projects" />
        ) : projects.data.length ? (
          <List>
            {projects.data.map((p) => (
              <li key={p.id}>
                <Link to={`/projects/${p.id}`}>
                  <span className="about">
                    <b>{p.name}</b>
                    <span>
                      {p.shots} {p.shots === 1 ? "shot" : "shots"}, {p.looks}{" "}
                      {p.looks === 1 ? "look" : "looks"} in use
                      {p.private ? ", private" : ""}
                      {p.members ? `, ${p.members} ${p.members === 1 ? "member" : "members"}` : ""}
                    </span>
                    <span className="last">
                      {p.delivery
                        ? `delivered as ${p.delivery.number}, ${longAgo(Date.parse(p.delivery.made_at))}`
                        : "not delivered yet"}
                      {p.waiting ? ` · ${p.waiting}` : ""}
                    </span>
                  </span>
                  {p.note ? <Quiet>{p.note}</Quiet> : null}
                  <span className="strip">
                    {p.strip.map((s) => (
                      <img
                        key={s.id}
                        src={`/api/projects/${p.id}/shots/${s.id}/still?width=192&v=${s.version}`}
                        alt=""
                        style={around(s.part)}
                      />
                    ))}
                  </span>
                </Link>
              </li>
            ))}
          </List>
        ) : (
          <Empty title="No projects yet">
            {me?.may_lead
              ? "Start one, add shots from your frames, and put looks on them."
              : "A lead starts projects; then shots and looks come together here."}
          </Empty>
        )}
      </main>
      {starting ? <NewProject onClose={() => setStarting(false)} /> : null}
    </Page>
  );
}

function NewProject({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState("");
  const [note, setNote] = useState("");
  const navigate = useNavigate();
  const start = useWrite(
    () => got(server.POST("/api/projects", { body: { name, note } })),
    ["projects"],
    (made) => void navigate(`/projects/${made.id}`),
  );
  return (
    <Sheet title="New project" width={420} onClose={onClose}>
      <Text label="Name" value={name} onChange={setName} autoFocus maxLength={120} />
      <Text label="Note" lines={3} value={note} onChange={setNote} maxLength={4000} />
      <Trouble error={start.error} />
      <footer>
        <Button onPress={onClose}>Cancel</Button>
        <Button look="main" isDisabled={!name.trim() || start.isPending} onPress={() => start.mutate()}>
          Start project
        </Button>
      </footer>
    </Sheet>
  );
}
