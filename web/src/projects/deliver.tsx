/**
 * Delivering: what goes out, in which encodings, under which names, and where to; what is under way; feeds,
 * and what went before.
 */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useMe } from "../api/queries";
import { useWrite } from "../api/writes";
import { declared } from "../api/declared";
import type { Plan, Project } from "../api/types";
import { Button } from "../kit/button";
import { Grow, Quiet, Said } from "../kit/layout";
import { Page } from "../kit/topbar";
import { Wrong } from "../kit/wrong";
import { askedOfProject, running } from "./asked";
import { ProjectBar } from "./bar";
import { Earlier, Since } from "./earlier";
import { Encodings } from "./encodings";
import { Feeds } from "./feeds";
import { Names } from "./names";
import { useShownProject } from "./project";
import { Running } from "./running";
import { Parts } from "./parts";
import { WhereTo } from "./whereto";

const Body = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
  main {
    flex: 1;
    min-width: 0;
    overflow-y: auto;
    display: flex;
    flex-direction: column;
  }
  .head {
    display: flex;
    gap: 14px;
    align-items: center;
    padding: 12px 18px;
    border-bottom: 1px solid var(--line);
  }
  .warn {
    color: var(--warn);
  }
  .behind {
    padding: 0 18px 14px;
  }
  .four {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    gap: 22px 34px;
    padding: 14px 18px 20px;
  }
  h2 {
    font-size: 14px;
    color: var(--t1);
  }
  h2 small {
    font-weight: 400;
    color: var(--t2);
    padding-left: 8px;
  }
  aside {
    width: 316px;
    flex: none;
    border-left: 1px solid var(--line);
    background: var(--g1);
    padding: 14px 16px;
    overflow-y: auto;
    display: flex;
    flex-direction: column;
    gap: 22px;
  }
`;

export default function Deliver() {
  const { data, waiting } = useShownProject();
  return data ? <Order key={data.id} data={data} /> : waiting;
}

function Order({ data }: { data: Project }) {
  const id = data.id;
  const { data: me } = useMe();
  const [plan, setPlan] = useState<Plan>({
    ...declared.plan,
    encodings: data.encodings,
    names: data.pattern.length ? data.pattern : declared.plan.names,
  });
  const change = (said: Partial<Plan>) => setPlan((last) => ({ ...last, ...said }));
  const outlook = useQuery({ ...askedOfProject.outlook(id, plan), placeholderData: (last) => last });
  const deliveries = useQuery(askedOfProject.deliveries(id));
  const at = { params: { path: { project_id: id } } };
  const order = useWrite(async () => {
    // The next delivery begins where this one was set.
    await got(
      server.PATCH("/api/projects/{project_id}", {
        ...at,
        body: { encodings: plan.encodings, pattern: plan.names },
      }),
    );
    return got(server.POST("/api/projects/{project_id}/deliveries", { ...at, body: plan }));
  }, ["project", "projects"]);
  useEffect(() => {
    document.title = `Deliver ${data.name} · Saucer`;
  }, [data.name]);
  const seen = outlook.data;
  const held = seen?.held ?? [];
  const troubled = [seen?.clash ? "names" : "", held.length && plan.held === "stop" ? "rights" : ""].filter(
    Boolean,
  );
  const busy = deliveries.data?.find(running);
  return (
    <Page>
      <ProjectBar project={id}>
        <Button
          look="main"
          isDisabled={!seen?.shots || troubled.length > 0 || order.isPending || !!busy}
          onPress={() => order.mutate()}
        >
          Deliver as number {seen?.next ?? ""}
        </Button>
      </ProjectBar>
      <Wrong error={order.error} onDismiss={order.reset} />
      <Body>
        <main>
          <div className="head">
            <h1>Deliver</h1>
            <Quiet>{data.name}</Quiet>
            <Grow />
            {seen ? (
              <Quiet>
                {seen.shots} of {data.shots.length} shots
              </Quiet>
            ) : null}
            {troubled.length ? (
              <span className="warn" role="status">
                {troubled.length} to look at: {troubled.join(", ")}
              </span>
            ) : null}
          </div>
          <div className="four">
            <Parts project={data} plan={plan} outlook={seen} onChange={change} />
            <Encodings project={data} plan={plan} onChange={change} />
            <Names plan={plan} outlook={seen} onChange={change} />
            <WhereTo plan={plan} held={held} mayLead={me?.may_lead ?? false} onChange={change} />
          </div>
          {seen?.left_out.length ? (
            <div className="behind">
              <h2>Stays behind</h2>
              {seen.left_out.map((why) => (
                <Said key={why}>{why}</Said>
              ))}
            </div>
          ) : null}
          {busy ? <Running project={id} delivery={busy} /> : null}
        </main>
        <aside aria-label="Feeds and earlier deliveries">
          <Feeds project={id} />
          <Since project={data} outlook={seen} deliveries={deliveries.data ?? []} />
          <Earlier project={id} deliveries={deliveries.data ?? []} />
        </aside>
      </Body>
    </Page>
  );
}
