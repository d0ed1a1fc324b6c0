/** A project: its shots as rows (before, look, after), what is on them, and what it takes away. */
import { useEffect, useState } from "react";
import { Button as AriaButton, Checkbox, ProgressBar } from "react-aria-components";
import { useParams } from "react-router";
import styled from "styled-components";
import { got, server, words } from "../api/client";
import { useEncodingLabel, useProject } from "../api/queries";
import type { Delivery, Project as Whole, Shot } from "../api/types";
import { trimWords } from "../frames/frames";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Saucer, saucerOf } from "../kit/saucer";
import { Empty } from "../kit/empty";
import { Notice } from "../kit/notice";
import { Sheet } from "../kit/sheet";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { Page, TopBar } from "../kit/topbar";
import { AddShots } from "./addshots";
import { Assign } from "./assign";
import { ShotSheet } from "./shotsheet";
import { Apart, Grow } from "../kit/layout";

const Body = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
  main {
    flex: 1;
    overflow-y: auto;
    padding: 14px 18px;
    min-width: 0;
  }
  .head {
    display: flex;
    align-items: center;
    gap: 12px;
    padding-bottom: 12px;
    border-bottom: 1px solid var(--line);
  }
  .head small,
  .head span {
    color: var(--t2);
  }
  .shots {
    list-style: none;
    padding: 0;
  }
  .shot {
    display: grid;
    grid-template-columns: 26px 150px 156px 14px minmax(170px, 1fr) 14px 156px;
    align-items: center;
    gap: 10px;
    padding: 9px 8px 9px 0;
    border-bottom: 1px solid var(--line);
  }
  .shot.chosen {
    background: var(--g1);
  }
  .shot small {
    color: var(--t2);
    display: block;
    font-size: 12px;
  }
  .shot b {
    font-weight: 560;
  }
  .shot img.pic {
    width: 154px;
    height: 87px;
    object-fit: cover;
    border-radius: 3px;
    display: block;
    background: #111;
  }
  .shot .arrow {
    color: var(--t3);
  }
  .shot .look {
    display: flex;
    gap: 12px;
    align-items: center;
    min-width: 0;
  }
  .shot .after {
    padding: 0;
    border: 0;
    background: none;
    cursor: pointer;
    border-radius: 3px;
  }
  .shot .after[data-hovered] img,
  .shot .after[data-focus-visible] img {
    outline: 2px solid var(--accent);
    outline-offset: 1px;
  }
  .none {
    width: 154px;
    height: 87px;
    border: 1px dashed var(--g4);
    border-radius: 3px;
    display: grid;
    place-items: center;
    color: var(--t2);
    font-size: 12px;
  }
  aside {
    width: 290px;
    flex: none;
    border-left: 1px solid var(--line);
    background: var(--g1);
    padding: 14px 16px;
    overflow-y: auto;
  }
  aside ul {
    list-style: none;
    padding: 0;
  }
  aside li {
    padding: 9px 0;
    border-bottom: 1px solid var(--line);
    display: grid;
    gap: 5px;
  }
  aside a {
    color: var(--accent);
  }
  aside p,
  aside small {
    color: var(--t2);
  }
  .bar {
    height: 3px;
    background: var(--g4);
    border-radius: 2px;
  }
  .bar i {
    display: block;
    height: 3px;
    background: var(--accent);
    border-radius: 2px;
  }
`;

export const Tick = styled(Checkbox)`
  width: 15px;
  height: 15px;
  border: 1.5px solid var(--t2);
  border-radius: 3px;
  cursor: pointer;
  display: block;
  &[data-selected] {
    background: var(--accent);
    border-color: var(--accent);
  }
  &[data-indeterminate] {
    background: var(--g4);
  }
`;

export const shotVersion = (s: Shot) =>
  encodeURIComponent(`${s.frame.version}.${s.revision?.digest.slice(0, 8) ?? ""}.${s.strength}.${Object.values(s.trim).join(".")}`);

const busy = (p: Whole | undefined) => !!p?.deliveries.some((d) => ["waiting", "running"].includes(d.job.state));

export default function Project() {
  const id = Number(useParams().id);
  const project = useProject(id, busy);
  const label = useEncodingLabel();
  const [chosen, setChosen] = useState<Set<number>>(new Set());
  const [sheet, setSheet] = useState<"" | "assign" | "add" | "deliver">("");
  const [open, setOpen] = useState<number | null>(null);
  const act = useWrite((work: () => Promise<unknown>) => work(), ["project"]);
  const data = project.data;
  useEffect(() => {
    document.title = data ? `${data.name} · Saucer` : "Saucer";
  }, [data]);
  if (!data)
    return (
      <Page>
        <TopBar />
        <main>
          <Waiting query={project} what="project" />
        </main>
      </Page>
    );

  // Errors are shown at the top of the page, so the sheet closes either way.
  const attempt = (work: () => Promise<unknown>, after?: () => void) => act.mutate(work, { onSettled: after });
  const shots = data.shots;
  const ids = [...chosen].filter((k) => shots.some((s) => s.id === k));
  const looks = new Set(shots.flatMap((s) => (s.revision ? [s.revision.look_id] : []))).size;
  const toggle = (shot: number, on: boolean) =>
    setChosen((last) => {
      const next = new Set(last);
      if (on) next.add(shot);
      else next.delete(shot);
      return next;
    });
  const shown = shots.find((s) => s.id === open);

  return (
    <Page>
      <TopBar>
        <Grow />
        <Button onPress={() => setSheet("add")}>Add shots</Button>
        <Button look="main" isDisabled={!shots.some((s) => s.revision) || busy(data)} onPress={() => setSheet("deliver")}>
          Deliver
        </Button>
      </TopBar>
      {act.error ? (
        <Notice
          actions={
            <Button look="quiet" onPress={act.reset}>
              Dismiss
            </Button>
          }
        >
          {words(act.error)}
        </Notice>
      ) : null}
      <Body>
        <main>
          <div className="head">
            <Tick
              aria-label="Choose all shots"
              isSelected={shots.length > 0 && ids.length === shots.length}
              isIndeterminate={ids.length > 0 && ids.length < shots.length}
              onChange={(on) => setChosen(new Set(on ? shots.map((s) => s.id) : []))}
            />
            <h1>{data.name}</h1>
            <small>
              {shots.length} shots · {looks} {looks === 1 ? "look" : "looks"} in use
            </small>
            <Grow />
            {ids.length ? <span role="status">{ids.length} chosen</span> : null}
            <Button isDisabled={!ids.length} onPress={() => setSheet("assign")}>
              Assign look
            </Button>
          </div>
          {shots.length ? (
            <ul className="shots" aria-label="Shots">
              {shots.map((s) => (
                <li key={s.id} className={`shot ${chosen.has(s.id) ? "chosen" : ""}`} aria-label={s.name}>
                  <Tick aria-label={`Choose ${s.name}`} isSelected={chosen.has(s.id)} onChange={(on) => toggle(s.id, on)} />
                  <span>
                    <b>
                      {s.number} · {s.name}
                    </b>
                    <small>{label(s.frame.encoding)}</small>
                    <small>trim {trimWords(s.trim)}</small>
                  </span>
                  <img
                    className="pic"
                    src={`/api/frames/${s.frame.id}/still?width=320&trimmed=false&v=${s.frame.version}`}
                    alt={`${s.name} before`}
                    loading="lazy"
                  />
                  <span className="arrow" aria-hidden>
                    ›
                  </span>
                  {s.revision ? (
                    <span className="look">
                      <Saucer src={saucerOf(s.revision)} size={52} />
                      <span style={{ minWidth: 0 }}>
                        <b>{s.revision.look_name}</b>
                        <small>
                          r{s.revision.number} · strength {Math.round(s.strength * 100)} %
                        </small>
                      </span>
                    </span>
                  ) : (
                    <span className="look">
                      <Button
                        onPress={() => {
                          setChosen(new Set([s.id]));
                          setSheet("assign");
                        }}
                      >
                        Assign look
                      </Button>
                    </span>
                  )}
                  <span className="arrow" aria-hidden>
                    ›
                  </span>
                  {s.revision ? (
                    <AriaButton className="after" aria-label={`Trim ${s.name} under its look`} onPress={() => setOpen(s.id)}>
                      <img
                        className="pic"
                        src={`/api/projects/${id}/shots/${s.id}/still?width=320&v=${shotVersion(s)}`}
                        alt={`${s.name} after`}
                        loading="lazy"
                      />
                    </AriaButton>
                  ) : (
                    <AriaButton className="after" aria-label={`Trim ${s.name}, no look yet`} onPress={() => setOpen(s.id)}>
                      <span className="none">no look yet</span>
                    </AriaButton>
                  )}
                </li>
              ))}
            </ul>
          ) : (
            <Empty
              title="No shots yet"
              action={
                <Button look="main" onPress={() => setSheet("add")}>
                  Add shots
                </Button>
              }
            >
              Shots are frames with a trim and a look of their own.
            </Empty>
          )}
        </main>
        <aside aria-label="Deliveries">
          {data.note ? <p style={{ marginBottom: 16 }}>{data.note}</p> : null}
          <h2>Deliveries</h2>
          {data.deliveries.length ? (
            <ul>
              {data.deliveries.map((d) => (
                <DeliveryLine
                  key={d.id}
                  project={id}
                  delivery={d}
                  onCancel={() => attempt(() => got(server.POST("/api/jobs/{job_id}/cancel", { params: { path: { job_id: d.job.id } } })))}
                />
              ))}
            </ul>
          ) : (
            <p style={{ marginTop: 8 }}>
              Nothing delivered yet. A delivery is a ZIP with a LUT for each look, one for each trimmed shot, graded stills, and a list of
              contents.
            </p>
          )}
        </aside>
      </Body>
      {sheet === "assign" ? (
        <Assign
          shots={shots.filter((s) => ids.includes(s.id))}
          onClose={() => setSheet("")}
          onAssign={(revision, strength) =>
            attempt(
              () =>
                got(
                  server.POST("/api/projects/{project_id}/assign", {
                    params: { path: { project_id: id } },
                    body: { shots: ids, revision, strength },
                  }),
                ),
              () => {
                setSheet("");
                setChosen(new Set());
              },
            )
          }
        />
      ) : null}
      {sheet === "add" ? (
        <AddShots
          onClose={() => setSheet("")}
          onAdd={(frames) =>
            attempt(
              () => got(server.POST("/api/projects/{project_id}/shots", { params: { path: { project_id: id } }, body: { frames } })),
              () => setSheet(""),
            )
          }
        />
      ) : null}
      {sheet === "deliver" ? (
        <Deliver
          shots={shots}
          onClose={() => setSheet("")}
          onDeliver={() =>
            attempt(
              () => got(server.POST("/api/projects/{project_id}/deliveries", { params: { path: { project_id: id } }, body: { grid: 33 } })),
              () => setSheet(""),
            )
          }
        />
      ) : null}
      {shown ? (
        <ShotSheet
          key={shown.id}
          project={id}
          shot={shown}
          onClose={() => setOpen(null)}
          onRemove={() =>
            attempt(
              () =>
                got(
                  server.DELETE("/api/projects/{project_id}/shots/{shot_id}", { params: { path: { project_id: id, shot_id: shown.id } } }),
                ),
              () => setOpen(null),
            )
          }
        />
      ) : null}
    </Page>
  );
}

function DeliveryLine({ project, delivery: d, onCancel }: { project: number; delivery: Delivery; onCancel: () => void }) {
  const { job } = d;
  const under = job.state === "waiting" || job.state === "running";
  return (
    <li>
      <Apart>
        <span>Delivery {d.number}</span>
        <small>{new Date(d.made_at).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" })}</small>
      </Apart>
      {under ? (
        <>
          <ProgressBar aria-label={`Delivery ${d.number}`} value={job.done} maxValue={job.total || 1} isIndeterminate={!job.total}>
            {({ percentage }) => (
              <div className="bar">
                <i style={{ width: `${percentage ?? 2}%` }} />
              </div>
            )}
          </ProgressBar>
          <Apart>
            <small role="status">
              {job.doing || "waiting for a worker"}
              {job.total ? ` · ${job.done} of ${job.total}` : ""}
            </small>
            <Button look="quiet" onPress={onCancel}>
              Stop
            </Button>
          </Apart>
        </>
      ) : d.ready ? (
        <span>
          <a href={`/api/projects/${project}/deliveries/${d.number}/file`} download>
            Download ZIP
          </a>{" "}
          <small>
            {(d.bytes / 2 ** 20).toFixed(1)} MiB · {d.made_by}
          </small>
        </span>
      ) : (
        <small style={job.state === "failed" ? { color: "var(--warn)" } : undefined}>
          {job.state === "failed" ? `failed: ${job.reason}` : "stopped"}
        </small>
      )}
    </li>
  );
}

function Deliver(props: { shots: Shot[]; onClose: () => void; onDeliver: () => void }) {
  const withLook = props.shots.filter((s) => s.revision);
  const without = props.shots.length - withLook.length;
  const looks = new Set(withLook.map((s) => s.revision?.id)).size;
  const own = withLook.filter((s) => s.strength < 1 || trimWords(s.trim) !== "none" || s.frame.encoding !== s.revision?.input).length;
  return (
    <Sheet title="Deliver" width={440} onClose={props.onClose}>
      <ul style={{ margin: 0, paddingLeft: 18, color: "var(--t2)", display: "grid", gap: 5 }}>
        <li>
          {looks} {looks === 1 ? "LUT" : "LUTs"}, one for each look, .cube, 33 × 33 × 33, with its recipe
        </li>
        <li>
          {own} {own === 1 ? "LUT" : "LUTs"} for shots with a trim, a strength or an encoding of their own
        </li>
        <li>{withLook.length} graded stills, 16-bit PNG at full size</li>
        <li>a list of contents, to read and as JSON</li>
      </ul>
      {without ? (
        <Trouble error={new Error(`${without} ${without === 1 ? "shot has" : "shots have"} no look and will not be in it.`)} />
      ) : null}
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" onPress={props.onDeliver}>
          Make the package
        </Button>
      </footer>
    </Sheet>
  );
}
