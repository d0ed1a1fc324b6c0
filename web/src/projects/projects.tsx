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
import { Page, TopBar } from "../kit/topbar";
import { Grow } from "../kit/layout";

const List = styled.ul`
  list-style: none;
  padding: 10px 22px;
  li {
    border-bottom: 1px solid var(--line);
  }
  a {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 24px;
    padding: 16px 8px;
    text-decoration: none;
    align-items: center;
    border-radius: 6px;
  }
  a:hover {
    background: var(--g1);
  }
  b {
    font-size: 16px;
    font-weight: 600;
    display: block;
  }
  span {
    color: var(--t2);
  }
  .frames {
    display: flex;
    gap: 6px;
  }
  .frames img {
    width: 96px;
    height: 54px;
    object-fit: cover;
    border-radius: 3px;
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
                  <span>
                    <b style={{ color: "var(--t1)" }}>{p.name}</b>
                    {p.note}
                    <br />
                    {p.shots} shots, {p.looks} {p.looks === 1 ? "look" : "looks"} in use
                  </span>
                  <span className="frames">
                    {p.frames.map((f, k) => (
                      <img key={k} src={`/api/frames/${f}/still?width=192`} alt="" />
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
