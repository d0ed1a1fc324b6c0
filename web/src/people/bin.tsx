/** The bin: what was removed in the last thirty days, put back or let go for good. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import styled from "styled-components";
import { got, server } from "../api/client";
import type { Removed } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { bytes } from "../kit/bytes";
import { Empty } from "../kit/empty";
import { Said } from "../kit/layout";
import { Sheet } from "../kit/sheet";
import { Page, TopBar } from "../kit/topbar";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { longAgo } from "../kit/when";
import { askedOfPeople } from "./asked";

const Body = styled.main`
  padding: 18px 24px 40px;
`;
const Rows = styled.ul`
  list-style: none;
  padding: 0;
  margin: 14px 0 0;
  max-width: 1040px;
`;
const Row = styled.li`
  display: grid;
  grid-template-columns: 112px minmax(0, 1fr) auto auto auto;
  gap: 16px;
  align-items: center;
  padding: 9px 0;
  border-top: 1px solid var(--line);
`;
const Picture = styled.img`
  width: 112px;
  aspect-ratio: 16/9;
  object-fit: contain;
  background: var(--field);
  border-radius: 3px;
  display: block;
`;
const Kind = styled.span`
  width: 112px;
  aspect-ratio: 16/9;
  display: grid;
  place-items: center;
  border: 1px dashed var(--g4);
  border-radius: 3px;
  color: var(--t2);
  font-size: 12px;
`;
const Facts = styled.div`
  min-width: 0;
  b {
    display: block;
    font-weight: 560;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  small {
    color: var(--t2);
    font-size: 12px;
  }
`;
const Day = styled.span`
  color: var(--t2);
  font-size: 12px;
  font-variant-numeric: tabular-nums;
`;
/** What is shown anew once something came back: any list may hold it. */
const STALE = [
  "bin",
  "people",
  "frames",
  "luts",
  "presets",
  "sheets",
  "clips",
  "project",
  "catalogue",
] as const;
const at = (one: Removed) => ({ params: { path: { kind: one.kind, row_id: one.id } } });
const day = (when: string) => new Date(when).toLocaleDateString("en-GB", { day: "numeric", month: "long" });

export default function Bin() {
  const query = useQuery(askedOfPeople.bin);
  const [leaving, setLeaving] = useState<Removed | null>(null);
  const back = useWrite((one: Removed) => got(server.POST("/api/bin/{kind}/{row_id}/back", at(one))), STALE);
  useEffect(() => {
    document.title = "The bin · Saucer";
  }, []);
  return (
    <Page>
      <TopBar />
      <Body>
        <h1>The bin</h1>
        <Said>What is removed stays here for 30 days. It comes back as it was.</Said>
        <Trouble error={back.error} />
        {!query.data ? (
          <Waiting query={query} what="bin" />
        ) : query.data.length ? (
          <Rows>
            {query.data.map((one) => (
              <Row key={`${one.kind} ${one.id}`} aria-label={`${one.word} ${one.name}`}>
                {one.picture ? (
                  <Picture src={`/api/bin/${one.kind}/${one.id}/still`} alt="" loading="lazy" />
                ) : (
                  <Kind>{one.word}</Kind>
                )}
                <Facts>
                  <b>{one.name}</b>
                  <small>
                    {one.word}
                    {one.bytes ? `, ${bytes(one.bytes)}` : ""}
                    {one.owner === one.removed_by ? "" : ` of ${one.owner}`} · removed by {one.removed_by},{" "}
                    {longAgo(Date.parse(one.removed_at))}
                  </small>
                </Facts>
                <Day>until {day(one.until)}</Day>
                <Button isDisabled={back.isPending} onPress={() => back.mutate(one)}>
                  Put back<span className="unseen"> {one.name}</span>
                </Button>
                <Button look="quiet" onPress={() => setLeaving(one)}>
                  Delete for good …<span className="unseen"> {one.name}</span>
                </Button>
              </Row>
            ))}
          </Rows>
        ) : (
          <Empty title="The bin is empty">
            Frames, clips, LUTs, presets, contact sheets and collections that are removed come here.
          </Empty>
        )}
      </Body>
      {leaving ? <Leaving one={leaving} onClose={() => setLeaving(null)} /> : null}
    </Page>
  );
}

function Leaving({ one, onClose }: { one: Removed; onClose: () => void }) {
  const erase = useWrite(() => got(server.DELETE("/api/bin/{kind}/{row_id}", at(one))), STALE, onClose);
  return (
    <Sheet title={`Delete ${one.name} for good`} width={420} onClose={onClose}>
      <Said>
        This cannot be undone.{one.bytes ? ` It makes room for ${bytes(one.bytes)} by tomorrow.` : ""}
      </Said>
      <Trouble error={erase.error} />
      <footer>
        <Button onPress={onClose}>Cancel</Button>
        <Button look="main" isDisabled={erase.isPending} onPress={() => erase.mutate()}>
          Delete for good
        </Button>
      </footer>
    </Sheet>
  );
}
