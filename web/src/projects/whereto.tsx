/** Where a delivery goes, and what is done with looks that may not be passed on without asking. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useMe } from "../api/queries";
import { useWrite } from "../api/writes";
import type { Outlook, Plan } from "../api/types";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Quiet, Said } from "../kit/layout";
import { Radios } from "../kit/radios";
import { Sheet } from "../kit/sheet";
import { Switch } from "../kit/switch";
import { Trouble } from "../kit/trouble";
import { askedOfProject } from "./asked";
import { Tick } from "./tick";

const Box = styled.section`
  display: grid;
  gap: 10px;
  align-content: start;
  h2 {
    padding-bottom: 8px;
    border-bottom: 1px solid var(--line);
  }
  .row {
    display: flex;
    gap: 12px;
    align-items: center;
    justify-content: space-between;
  }
  .held {
    border: 1px solid var(--warn);
    border-radius: 6px;
    padding: 10px 12px;
    display: grid;
    gap: 8px;
  }
  .held b {
    color: var(--warn);
    font-weight: 560;
  }
  .gone {
    color: var(--warn);
  }
`;
const GIB = 2 ** 30;
const MIB = 2 ** 20;
const room = (bytes: number) =>
  bytes >= GIB ? `${(bytes / GIB).toFixed(0)} GB` : `${Math.floor(bytes / MIB)} MB`;

export function WhereTo(props: {
  plan: Plan;
  held: Outlook["held"];
  mayLead: boolean;
  onChange: (said: Partial<Plan>) => void;
}) {
  const { plan, onChange, held } = props;
  const dropFolder = useQuery({ ...askedOfProject.dropFolder, refetchInterval: 20_000 });
  const { data: me } = useMe();
  const [setting, setSetting] = useState(false);
  return (
    <Box aria-label="Where to">
      <h2>Where to</h2>
      <div className="row">
        <Tick isSelected isReadOnly>
          ZIP to fetch here, and by the feeds
        </Tick>
      </div>
      <div className="row">
        <Tick isSelected={plan.drop_folder} onChange={(to) => onChange({ drop_folder: to })}>
          Drop folder <Quiet>{dropFolder.data?.name}</Quiet>
        </Tick>
        {dropFolder.data ? (
          <span className={dropFolder.data.there ? "" : "gone"} role="status">
            {dropFolder.data.there ? `there, ${room(dropFolder.data.free)} free` : "not there"}
          </span>
        ) : null}
        {me?.may_lead && dropFolder.data ? (
          <Button look="quiet" onPress={() => setSetting(true)}>
            Stand-in
          </Button>
        ) : null}
      </div>
      {held.length ? (
        <div className="held">
          <span>
            {held.map((h) => (
              <span key={h.look}>
                <b>{h.look}: ask first.</b> On {h.shots.length === 1 ? "shot" : "shots"} {h.shots.join(", ")}
                .{" "}
              </span>
            ))}
          </span>
          <Radios
            label="Looks that must be asked for"
            chosen={plan.held}
            onChange={(to) => onChange({ held: to })}
            options={[
              { key: "stop", label: "wait for the answer" },
              { key: "leave", label: "these shots stay behind" },
              {
                key: "anyway",
                label: `deliver them all the same${props.mayLead ? "" : " (leads)"}`,
                disabled: !props.mayLead,
              },
            ]}
          />
        </div>
      ) : null}
      {setting && dropFolder.data ? (
        <StandIn
          key={JSON.stringify(dropFolder.data.stand_in)}
          dropFolder={dropFolder.data}
          onClose={() => setSetting(false)}
        />
      ) : null}
    </Box>
  );
}

function StandIn(props: {
  dropFolder: NonNullable<Awaited<ReturnType<NonNullable<typeof askedOfProject.dropFolder.queryFn>>>>;
  onClose: () => void;
}) {
  const [there, setThere] = useState(props.dropFolder.stand_in.there);
  const [pace, setPace] = useState(String(props.dropFolder.stand_in.pace));
  const [space, setSpace] = useState(String(props.dropFolder.stand_in.room));
  const keep = useWrite(
    () => got(server.PUT("/api/drop-folder", { body: { there, pace: Number(pace), room: Number(space) } })),
    ["drop folder"],
    props.onClose,
  );
  return (
    <Sheet title="Stand-in for the edit room’s disk" width={440} onClose={props.onClose}>
      <Said>
        A folder beside Saucer plays an editing room’s shared disk. Here it can be made slow, nearly full, or
        absent.
      </Said>
      <Switch label="It is there" on={there} onChange={setThere} />
      <Choice
        label="How quick it is"
        chosen={pace}
        onChange={setPace}
        options={[
          { key: "0", label: "as quick as this disk" },
          { key: String(20 * MIB), label: "20 MB a second" },
          { key: String(2 * MIB), label: "2 MB a second" },
        ]}
      />
      <Choice
        label="How much it holds"
        chosen={space}
        onChange={setSpace}
        options={[
          { key: "0", label: "as much as this disk" },
          { key: String(GIB), label: "1 GB" },
          { key: String(10 * MIB), label: "10 MB" },
        ]}
      />
      <Trouble error={keep.error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" onPress={() => keep.mutate()}>
          Keep
        </Button>
      </footer>
    </Sheet>
  );
}
