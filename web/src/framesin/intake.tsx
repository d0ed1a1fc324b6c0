/** An intake: pictures that come in, looked through, and what is kept of them. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState, type KeyboardEvent } from "react";
import { DropZone, FileTrigger } from "react-aria-components";
import { useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import type { Intake } from "../api/types";
import { Button } from "../kit/button";
import { bytes } from "../kit/bytes";
import { Deciding, DecidingHead } from "../kit/deciding";
import { Empty } from "../kit/empty";
import { chosen, dropped, type Gathered } from "../kit/gather";
import { Grow, Quiet } from "../kit/layout";
import { Segments } from "../kit/segments";
import { Page, TopBar } from "../kit/topbar";
import { Waiting } from "../kit/waiting";
import { useIntakeActs } from "./acts";
import { askedOfIntakes } from "./asked";
import { backOf } from "./back";
import { Closer } from "./closer";
import { ForAll } from "./forall";
import { IntakeFoot } from "./intakefoot";
import { counts, shown, waiting, type View } from "./judging";
import { Rows } from "./rows";
import { send, useSending } from "./sending";

const Files = styled(DropZone)`
  display: flex;
  flex-direction: column;
  min-height: 0;
  &[data-drop-target] {
    outline: 2px solid var(--accent);
    outline-offset: -2px;
  }
`;
const Side = styled.aside`
  border-left: 1px solid var(--line);
  padding: 14px 16px;
  overflow-y: auto;
  display: grid;
  gap: 16px;
  align-content: start;
`;

/** Milliseconds between two looks at work under way: longer where there is more to be sent each time. */
const again = (intake: Intake | undefined) => 700 + (intake?.files.length ?? 0);
const busy = (intake: Intake | undefined) =>
  intake?.job?.state === "waiting" || intake?.job?.state === "running";

export default function IntakePage() {
  const id = Number(useParams().id);
  const query = useQuery({
    ...askedOfIntakes.one(id),
    refetchInterval: (q) => (busy(q.state.data) ? again(q.state.data) : false),
  });
  useEffect(() => {
    document.title = "Bring in frames · Saucer";
  }, []);
  return (
    <Page>
      <TopBar />
      {query.data ? <Loaded intake={query.data} /> : <Waiting query={query} what="intake" />}
    </Page>
  );
}

/** E on a row opens what it is read as. */
function opensEncoding(e: KeyboardEvent) {
  if (e.key.toLowerCase() !== "e" || e.ctrlKey || e.metaKey || !(e.target instanceof HTMLElement)) return;
  if (e.target.getAttribute("role") === "row")
    e.target.querySelector<HTMLElement>("[aria-haspopup=listbox]")?.click();
}

function Loaded({ intake }: { intake: Intake }) {
  const [view, setView] = useState<View>("all");
  const [at, setAt] = useState<number | null>(null);
  const [search] = useSearchParams();
  const acts = useIntakeActs(intake, backOf(search));
  const { sent } = useSending();
  const sending = sent?.intake === intake.id ? sent : null;
  const many = counts(intake.files);
  const looked = intake.files.find((file) => file.id === at) ?? intake.files.find((file) => file.picture);
  const take = (files: Gathered[]) => void send(files, intake.id, () => undefined);
  const size = intake.files.reduce((sum, file) => sum + file.bytes, 0);
  return (
    <Deciding onKeyDown={opensEncoding}>
      <Files onDrop={async (e) => take(await dropped(e.items))}>
        <DecidingHead>
          <h1>{intake.project ? "Bring in shots" : "Bring in frames"}</h1>
          <Quiet>
            {many.all} {many.all === 1 ? "file" : "files"}, {bytes(size)}
            {intake.project ? `, for ${intake.project.name}` : ""}
          </Quiet>
          <FileTrigger allowsMultiple onSelect={(files) => take(chosen(files))}>
            <Button look="quiet" isDisabled={sent !== null}>
              {sending ? `Sending ${sending.done} of ${sending.of} …` : "+ more files"}
            </Button>
          </FileTrigger>
          <Grow />
          <Segments
            label="Rows shown"
            chosen={view}
            onChange={setView}
            options={[
              ["all", `All ${many.all}`],
              ["look", `To look at ${many.look}`],
              ["here", `Here already ${many.here}`],
              ["unread", `Not read ${many.unread}`],
            ]}
          />
        </DecidingHead>
        {intake.files.length ? (
          <Rows
            intake={intake.id}
            files={shown(intake.files, view)}
            at={looked?.id ?? null}
            onAt={setAt}
            onSay={acts.say}
          />
        ) : (
          <Empty title={sending ? "Sending …" : "No file yet"}>
            Drop pictures and folders here. Each one is looked through and shown first.
          </Empty>
        )}
      </Files>
      <Side aria-label="What is said of the pictures">
        {looked?.picture && !waiting(looked) ? (
          <Closer key={looked.id} intake={intake.id} file={looked} acts={acts} />
        ) : null}
        <ForAll intake={intake} acts={acts} />
      </Side>
      <IntakeFoot intake={intake} acts={acts} sending={sending} working={busy(intake)} />
    </Deciding>
  );
}
