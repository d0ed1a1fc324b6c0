/** Feeds: addresses at which an editing room's script fetches the newest finished delivery. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useWrite } from "../api/writes";
import type { Feed } from "../api/types";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Apart, Quiet, Said } from "../kit/layout";
import { Sheet } from "../kit/sheet";
import { Text } from "../kit/text";
import { Told } from "../kit/told";
import { Trouble } from "../kit/trouble";
import { longAgo } from "../kit/when";
import { askedOfProject } from "./asked";

const Box = styled.section`
  display: grid;
  gap: 10px;
  .feed {
    display: grid;
    gap: 4px;
    padding: 9px 0;
    border-bottom: 1px solid var(--line);
  }
  b {
    font-weight: 560;
  }
  .ended {
    color: var(--t3);
  }
  svg {
    display: block;
    width: 100%;
    height: 22px;
  }
`;

/** Fetches of the last 30 days, a bar a day, today's last. */
function Days({ days }: { days: number[] }) {
  const most = Math.max(...days, 1);
  return (
    <svg
      viewBox="0 0 300 22"
      preserveAspectRatio="none"
      role="img"
      aria-label={`${days.at(-1)} fetches today, ${days.reduce((a, b) => a + b, 0)} in 30 days`}
    >
      {days.map((n, k) => {
        const h = n ? 3 + (n / most) * 18 : 1;
        return (
          <rect
            key={k}
            x={k * 10}
            y={22 - h}
            width="8"
            height={h}
            fill={k === days.length - 1 && n ? "var(--accent)" : "var(--t4)"}
          />
        );
      })}
    </svg>
  );
}

const day = (at: string) => new Date(at).toLocaleDateString("en-GB", { day: "numeric", month: "short" });
const LASTS = [
  { key: "0", label: "until it is ended" },
  { key: "30", label: "30 days" },
  { key: "90", label: "90 days" },
];
const DAY = 86_400_000;

export function Feeds({ project }: { project: number }) {
  const { data = [] } = useQuery(askedOfProject.feeds(project));
  const [adding, setAdding] = useState(false);
  const [told, setTold] = useState<Feed | null>(null);
  const at = { params: { path: { project_id: project } } };
  const keepTold = (made: Feed) => {
    setTold(made);
    setAdding(false);
  };
  const start = useWrite(
    (said: { name: string; ends_at: string | null }) =>
      got(server.POST("/api/projects/{project_id}/feeds", { ...at, body: said })),
    ["project"],
    keepTold,
  );
  const renew = useWrite(
    (feed: number) =>
      got(
        server.POST("/api/projects/{project_id}/feeds/{feed_id}/renew", {
          params: { path: { project_id: project, feed_id: feed } },
        }),
      ),
    ["project"],
    keepTold,
  );
  const end = useWrite(
    (feed: number) =>
      got(
        server.DELETE("/api/projects/{project_id}/feeds/{feed_id}", {
          params: { path: { project_id: project, feed_id: feed } },
        }),
      ),
    ["project"],
  );
  return (
    <Box aria-label="Feeds">
      <Apart>
        <h2>Feeds for the edit room</h2>
        <Button look="quiet" onPress={() => setAdding(true)}>
          New feed
        </Button>
      </Apart>
      <Said>Always the newest finished delivery, for a script.</Said>
      {told ? (
        <Told
          text={told.address}
          words={`The address of ${told.name}, told this once. A line for a crontab: python -m saucer_core pull ADDRESS FOLDER. Where the footage lies: python -m saucer_core render --from ADDRESS --footage FOLDER --out FOLDER`}
        />
      ) : null}
      {data.map((f) => {
        const ended = !!f.revoked_at || (!!f.ends_at && Date.parse(f.ends_at) < Date.now());
        const last = f.fetches[0];
        return (
          <div key={f.id} className={ended ? "feed ended" : "feed"}>
            <Apart>
              <b>{f.name}</b>
              <span>…{f.hint}</span>
            </Apart>
            <Quiet>
              {ended ? "ended" : f.ends_at ? `ends ${day(f.ends_at)}` : "until it is ended"} ·{" "}
              {last ? `fetched ${longAgo(Date.parse(last.at))}, delivery ${last.delivery}` : "never fetched"}
            </Quiet>
            {f.fetches.length ? <Days days={f.days} /> : null}
            <span>
              <Button look="quiet" onPress={() => renew.mutate(f.id)}>
                New address
              </Button>
              {ended ? null : (
                <Button look="quiet" onPress={() => end.mutate(f.id)}>
                  End now
                </Button>
              )}
            </span>
          </div>
        );
      })}
      <Trouble error={renew.error ?? end.error} />
      {adding ? (
        <NewFeed
          error={start.error}
          onClose={() => setAdding(false)}
          onStart={(said) => start.mutate(said)}
        />
      ) : null}
    </Box>
  );
}

function NewFeed(props: {
  error: unknown;
  onClose: () => void;
  onStart: (said: { name: string; ends_at: string | null }) => void;
}) {
  const [name, setName] = useState("");
  const [lasts, setLasts] = useState("90");
  const ends = () => (lasts === "0" ? null : new Date(Date.now() + Number(lasts) * DAY).toISOString());
  return (
    <Sheet title="New feed" width={420} onClose={props.onClose}>
      <Text label="For whom" hint="edit room two" value={name} onChange={setName} maxLength={120} autoFocus />
      <Choice label="How long" chosen={lasts} onChange={setLasts} options={LASTS} />
      <Trouble error={props.error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button
          look="main"
          isDisabled={!name.trim()}
          onPress={() => props.onStart({ name, ends_at: ends() })}
        >
          Make the address
        </Button>
      </footer>
    </Sheet>
  );
}
