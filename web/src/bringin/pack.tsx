/** A pack: what it brings, judged on a frame; what is kept of it. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { FileTrigger } from "react-aria-components";
import { useNavigate, useParams } from "react-router";

import styled from "styled-components";
import { asked } from "../api/queries";
import type { Pack } from "../api/types";
import { askAgain } from "../api/writes";
import { Button } from "../kit/button";
import { Deciding } from "../kit/deciding";
import { bytes } from "../kit/bytes";
import { Empty } from "../kit/empty";
import { useShownFrame } from "../kit/frame";
import { FrameChoice } from "../kit/framechoice";
import { Grow, Level, Quiet } from "../kit/layout";
import { Segments } from "../kit/segments";
import { Page, TopBar } from "../kit/topbar";

import { Waiting } from "../kit/waiting";
import { AboutPack } from "./about";
import { chosen } from "../kit/gather";
import { counts, folders, type View } from "./judging";
import { Heads, Rows } from "./rows";
import { useSending } from "./send";
import type { PackActs } from "./packacts";
import { usePackActs } from "./packacts";
import { PackFoot } from "./packfoot";

const Items = styled.div`
  display: flex;
  flex-direction: column;
  min-height: 0;
`;
const Head = styled.header`
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 10px 14px;
  white-space: nowrap;
  ${Quiet} {
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

/** The choice of a frame as the head of a column. */
const OnFrame = styled.span`
  display: flex;
  align-items: center;
  white-space: nowrap;
  min-width: 0;
`;

const busy = (pack: Pack | undefined) => pack?.stage === "reading" || pack?.stage === "keeping";
/** Milliseconds between two looks at work under way: longer where there is more to be sent each time. */
const again = (pack: Pack | undefined) => 900 + 5 * (pack?.items.length ?? 0);

export default function PackPage() {
  const id = Number(useParams().id);
  const query = useQuery({
    ...asked.pack(id),
    refetchInterval: (q) => (busy(q.state.data) ? again(q.state.data) : false),
  });
  useEffect(() => {
    document.title = "Bring in · Saucer";
  }, []);
  return (
    <Page>
      <TopBar />
      {query.data ? <Loaded pack={query.data} /> : <Waiting query={query} what="pack" />}
    </Page>
  );
}

/** What was kept stands in the catalogue from then on. */
function Kept({ pack }: { pack: Pack }) {
  const navigate = useNavigate();
  const kept = pack.items.filter((i) => i.kept).length;
  useEffect(() => void askAgain(["catalogue", "luts", "worked", "packs"]), []);
  return (
    <main>
      <Empty
        title={`${kept} ${kept === 1 ? "look" : "looks"} of ${pack.name} kept`}
        action={
          <Level>
            <Button look="main" onPress={() => void navigate("/catalogue")}>
              Open the catalogue
            </Button>
            <Button onPress={() => void navigate("/catalogue/bring-in")}>Bring in more</Button>
          </Level>
        }
      >
        They stand in the catalogue, with where they come from and who may pass them on.
      </Empty>
    </main>
  );
}

function PackHead(props: {
  pack: Pack;
  sending: ReturnType<typeof useSending>;
  view: View;
  onView: (view: View) => void;
}) {
  const { pack, sending } = props;
  const many = counts(pack.items);
  return (
    <Head>
      <h1>Bring in</h1>
      <Quiet>
        {pack.name}, {pack.files} {pack.files === 1 ? "file" : "files"} sent, {bytes(pack.bytes)}
      </Quiet>
      <FileTrigger allowsMultiple onSelect={(files) => void sending.send(chosen(files), pack.id)}>
        <Button look="quiet" isDisabled={busy(pack) || sending.sent !== null}>
          {sending.sent ? `Sending ${sending.sent.done} of ${sending.sent.of} …` : "+ more files"}
        </Button>
      </FileTrigger>
      <Grow />
      {pack.items.length ? (
        <Segments
          label="Rows shown"
          chosen={props.view}
          onChange={props.onView}
          options={[
            ["all", `All ${many.all}`],
            ["look", `To look at ${many.look}`],
            ["twins", `Twins ${many.twins}`],
            ["unread", `Not read ${many.unread}`],
          ]}
        />
      ) : null}
    </Head>
  );
}

/** Before anything of the pack was read. */
function Unread({ pack, acts }: { pack: Pack; acts: PackActs }) {
  if (pack.stage !== "gathering")
    return <Empty title="Reading …">The first looks appear here in a moment.</Empty>;
  return (
    <Empty
      title="Not read yet"
      action={
        <Button look="main" isDisabled={acts.read.isPending} onPress={() => acts.read.mutate()}>
          Read it
        </Button>
      }
    >
      {pack.files} {pack.files === 1 ? "file waits" : "files wait"}. Reading keeps nothing: each look is
      measured and shown on your frame first.
    </Empty>
  );
}

function Loaded({ pack }: { pack: Pack }) {
  const { all, frame, show } = useShownFrame();
  const [view, setView] = useState<View>("all");
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const sending = useSending(frame?.id);
  const acts = usePackActs(pack, frame?.id);
  const { about, say } = acts;
  const working = busy(pack);
  if (pack.stage === "kept") return <Kept pack={pack} />;
  return (
    <Deciding>
      <Items>
        <PackHead pack={pack} sending={sending} view={view} onView={setView} />
        {pack.items.length ? (
          <>
            <Heads>
              <span />
              <span />
              <span>look</span>
              <OnFrame>
                <FrameChoice all={all} frame={frame} onChoose={show} />
              </OnFrame>
              <span>kind</span>
              <span>expects → gives</span>
              <span>health</span>
            </Heads>
            <Rows
              folders={folders(pack.items, view, open)}
              frame={frame}
              collections={pack.collections}
              onCollection={(folder, name) =>
                about.write.mutate({ collections: { ...pack.collections, [folder]: name } })
              }
              onOpen={(folder) => setOpen((last) => new Set([...last, folder]))}
              onSay={say}
            />
          </>
        ) : (
          <Unread pack={pack} acts={acts} />
        )}
      </Items>
      <AboutPack
        pack={about.shown}
        disabled={working}
        onSay={about.say}
        onEncodings={(meant, said) =>
          say(
            meant.map((i) => i.id),
            said,
          )
        }
      />
      <PackFoot pack={pack} acts={acts} working={working} error={sending.error} />
    </Deciding>
  );
}
