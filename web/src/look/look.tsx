/**
 * The page of a look: what it does to your frames, how it came to be, what is said of it, where it is used.
 */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { asked, useEncodingLabel, useMe } from "../api/queries";
import { useWrite } from "../api/writes";
import { bytes } from "../kit/bytes";
import { askedOf, useFilterValues, useScales } from "../catalogue/asked";
import { IntoCollection } from "../catalogue/map";
import { NewLook } from "../catalogue/newlook";
import { useTray } from "../catalogue/tray";
import { inspectorOf } from "../inspect/subject";
import { Button } from "../kit/button";
import { useShownFrame } from "../kit/frame";
import { useFrameKeys } from "../kit/framekeys";
import { Apart, Grow, Quiet, Said } from "../kit/layout";
import { Saucer, saucerOf } from "../kit/saucer";
import { Segments } from "../kit/segments";
import { ShareLine } from "../kit/shareline";
import { Text } from "../kit/text";
import { Page, TopBar } from "../kit/topbar";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { askedOfLook } from "./asked";
import { Deciding } from "./deciding";
import { Notes, type Fresh } from "./notes";
import { Revisions } from "./revisions";
import { MODES, Seen, type SeenMode } from "./seen";
import { Keeping } from "./keeping";
import { Sharing } from "./sharing";
import { Similar } from "./similar";
import { Taking } from "./taking";
import { Traits } from "./traits";
import { FrameStrip } from "./framestrip";

const Body = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
  main {
    flex: 1;
    min-width: 0;
    display: flex;
    flex-direction: column;
    padding: 10px 18px 14px;
    gap: 10px;
    overflow-y: auto;
  }
  .picture {
    flex: 1 0 340px;
    display: flex;
    min-height: 0;
    position: relative;
  }
  .seeing {
    display: flex;
    align-items: center;
    gap: 10px;
    color: var(--t2);
    font-size: 12px;
  }
  .seeing output {
    white-space: nowrap;
  }
  .seeing .line {
    width: 110px;
  }
  .who {
    display: flex;
    gap: 16px;
    align-items: center;
  }
  .who h1 {
    display: inline;
    margin-right: 10px;
  }
  .who p {
    max-width: 74ch;
  }
  > .right {
    width: 330px;
    flex: none;
    border-left: 1px solid var(--line);
    background: var(--g1);
    overflow-y: auto;
  }
  > .right > * {
    padding: 12px 16px;
    border-bottom: 1px solid var(--line);
  }
  .rows {
    list-style: none;
    padding: 0;
  }
  .rows li {
    display: flex;
    justify-content: space-between;
    gap: 10px;
    padding: 2px 0;
  }
  .rows li > :first-child {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .keys {
    color: var(--t2);
    font-size: 12px;
    display: flex;
    gap: 14px;
  }
  kbd {
    border: 1px solid var(--g4);
    border-radius: 4px;
    padding: 0 5px;
    font: inherit;
    color: var(--t1);
  }
`;

const SAID: Record<SeenMode, string> = {
  original: "Original",
  look: "Look",
  split: "Split",
  difference: "Difference",
};

export default function LookPage() {
  const id = Number(useParams().id);
  const [search, setSearch] = useSearchParams();
  const look = useQuery(asked.look(id));
  const history = useQuery(askedOfLook.history(id));
  const { data: cards } = useQuery(askedOf.cards([id]));
  const { data: notes = [] } = useQuery(askedOfLook.notes(id));
  const { data: uses = [] } = useQuery(askedOfLook.uses(id));
  const { data: bakes = [] } = useQuery(askedOfLook.bakes(id));
  const { data: scales = [] } = useScales();
  const filterValues = useFilterValues({});
  const { data: me } = useMe();
  const { all, frame, show: keepFrame } = useShownFrame(search.get("frame"));
  const navigate = useNavigate();
  const label = useEncodingLabel();
  const tray = useTray();
  const [mode, setMode] = useState<SeenMode>("look");
  const [strength, setStrength] = useState(1);
  const [settled, setSettled] = useState(1);
  const [chosen, setChosen] = useState<number | null>(null);
  const [pinning, setPinning] = useState(false);
  const [fresh, setFresh] = useState<Fresh | null>(null);
  const [taking, setTaking] = useState(false);
  const [varying, setVarying] = useState(false);
  const [collecting, setCollecting] = useState(false);

  const kept = history.data ?? [];
  const put = (kind: string, value: string | null) =>
    setSearch(
      (last) => {
        const next = new URLSearchParams(last);
        if (value) next.set(kind, value);
        else next.delete(kind);
        return next;
      },
      { replace: true },
    );
  const byNumber = (kind: string) =>
    kept.find((k) => String(k.revision.number) === search.get(kind))?.revision;
  const revision = byNumber("r") ?? kept[0]?.revision;
  const against = byNumber("against") ?? null;
  const since = useQuery({
    ...askedOfLook.since(revision?.id ?? 0, against?.id ?? 0),
    enabled: Boolean(revision && against),
  });
  const numbers = useMemo(() => new Map(notes.map((n, k) => [n.id, k + 1])), [notes]);
  const name = look.data?.name;

  useEffect(() => {
    if (!name) return;
    document.title = `${name} · Saucer`;
    void got(server.POST("/api/catalogue/{look_id}/visit", { params: { path: { look_id: id } } })).catch(
      () => undefined,
    );
  }, [name, id]);

  const show = (frameId: number) => {
    keepFrame(frameId);
    put("frame", String(frameId));
  };
  const number = revision?.number;
  useFrameKeys(all, frame, show, (e) => {
    if (e.key.toLowerCase() === "p" && frame) {
      setFresh(null);
      setPinning(true);
    } else if (e.key === "Escape" && pinning) setPinning(false);
    else if (/^[1-4]$/.test(e.key)) setMode(MODES[Number(e.key) - 1]!);
    else return false;
    return true;
  });
  const like = useWrite(
    (likes: boolean) =>
      got(
        server.PUT("/api/catalogue/{look_id}/favourite", {
          params: { path: { look_id: id } },
          body: { likes },
        }),
      ),
    ["catalogue"],
  );

  const part = useWrite(
    (twin: number) =>
      got(
        server.POST("/api/catalogue/{look_id}/part", { params: { path: { look_id: id } }, body: { twin } }),
      ),
    ["catalogue", "look", "uses"],
  );

  if (!look.data || !history.data) {
    return (
      <Page>
        <TopBar />
        <main>
          <Waiting query={look.data ? history : look} what="look" />
        </main>
      </Page>
    );
  }
  const card = cards?.[0];
  const modes = MODES.map((m) => [m, m === "look" && revision ? `r${revision.number}` : SAID[m]] as const);
  return (
    <Page>
      <TopBar>
        <Grow />
        {card ? (
          <>
            <Button look="quiet" aria-pressed={card.favourite} onPress={() => like.mutate(!card.favourite)}>
              {card.favourite ? "Liked" : "Like"}
            </Button>
            <Button look="quiet" aria-pressed={tray.looks.includes(id)} onPress={() => tray.turn(id)}>
              {tray.looks.includes(id) ? "In the tray" : "To the tray"}
            </Button>
          </>
        ) : null}
        {me?.may_design && revision ? (
          <>
            <Button look="quiet" onPress={() => setCollecting(true)}>
              To a collection
            </Button>
            <Button onPress={() => setVarying(true)}>Variation</Button>
          </>
        ) : null}
        <Button onPress={() => void navigate(inspectorOf({ kind: "look", key: id }))}>Inspect</Button>
        <Button look="main" onPress={() => void navigate(`/bench/${id}${frame ? `?frame=${frame.id}` : ""}`)}>
          Open on the bench
        </Button>
      </TopBar>
      {!revision ? (
        <main>
          <Said>{look.data.name} has no revision yet. It is on the bench.</Said>
        </main>
      ) : (
        <Body>
          <Revisions
            kept={kept}
            shown={revision.id}
            against={against?.id ?? null}
            onShow={(key) => put("r", String(kept.find((k) => k.revision.id === key)!.revision.number))}
            onAgainst={(key) => {
              put(
                "against",
                key === null ? null : String(kept.find((k) => k.revision.id === key)!.revision.number),
              );
              if (key !== null && mode !== "difference") setMode("split");
            }}
          >
            {against ? (
              <section aria-label="What changed">
                <h2>
                  r{against.number} → r{revision.number}
                </h2>
                {since.data?.changes.map((c, k) => (
                  <div key={k}>{c.text}</div>
                ))}
                {since.data && !since.data.changes.length ? <div>no change</div> : null}
                {since.data?.mean != null ? (
                  <Quiet>
                    ΔE mean {since.data.mean.toFixed(1)}, largest {since.data.largest!.toFixed(1)}
                  </Quiet>
                ) : null}
              </section>
            ) : (
              <Quiet>Hold it against another revision to see what changed.</Quiet>
            )}
            {look.data.may_edit ? (
              <Button look="quiet" onPress={() => setTaking(true)}>
                Take over from r{revision.number}
              </Button>
            ) : null}
          </Revisions>
          <main>
            <FrameStrip frames={all} chosen={frame?.id ?? null} revision={revision} onChoose={show} />
            <div className="picture">
              {frame ? (
                <Seen
                  frame={frame}
                  revision={revision}
                  against={against}
                  mode={mode}
                  strength={settled}
                  notes={notes}
                  numbers={numbers}
                  chosen={chosen}
                  onChoose={setChosen}
                  pinning={pinning}
                  onSpot={(spot) => {
                    setPinning(false);
                    setFresh({ frame: frame.id, spot });
                  }}
                />
              ) : (
                <Said>Add a frame to see the look on it.</Said>
              )}
            </div>
            <div className="seeing">
              <Segments label="Show" options={modes} chosen={mode} onChange={setMode} />
              <span>strength</span>
              <ShareLine
                label="Strength to try"
                value={strength}
                onChange={setStrength}
                onSettle={setSettled}
              />
              <Grow />
              {pinning ? (
                <span role="status">Click where the note goes, or move it by arrows and press Enter.</span>
              ) : null}
            </div>
            <div className="who">
              <Saucer src={saucerOf(revision, 256)} size={96} of={look.data.name} />
              <div>
                <h1>{look.data.name}</h1>
                <Quiet>
                  {look.data.maker} · {label(revision.input)} → {label(revision.output)}
                </Quiet>
                <div>{card?.words.join(", ")}</div>
                {look.data.note ? <Said>{look.data.note}</Said> : null}
                {card ? (
                  <Tags key={card.tags.join()} look={id} tags={card.tags} may={me?.may_design ?? false} />
                ) : null}
              </div>
            </div>
            {card ? <Traits card={card} scales={scales} bars={filterValues.data?.all_bars ?? {}} /> : null}
            <div className="keys">
              <span>bars: all looks; white: this one; dotted: unchanged</span>
              <Grow />
              <span>
                <kbd>,</kbd> <kbd>.</kbd> frame
              </span>
              <span>
                <kbd>1</kbd> – <kbd>4</kbd> seeing
              </span>
              <span>
                <kbd>P</kbd> pin a note
              </span>
            </div>
          </main>
          <aside className="right" aria-label={`About revision ${number}`}>
            <Deciding look={look.data} revision={revision} />
            <Notes
              look={id}
              revision={revision}
              notes={notes}
              numbers={numbers}
              chosen={chosen}
              fresh={fresh}
              frameName={(f) => all.find((x) => x.id === f)?.name ?? "a frame that is gone"}
              onChoose={(n) => {
                setChosen(n.id);
                if (n.frame !== null && all.some((f) => f.id === n.frame)) show(n.frame);
              }}
              onBegin={() => (frame ? setPinning(true) : setFresh({ frame: null, spot: null }))}
              onDone={() => setFresh(null)}
            />
            <section aria-label="Used in">
              <h2>Used in</h2>
              {uses.length ? (
                <ul className="rows">
                  {uses.map((u) => (
                    <li key={`${u.project}-${u.revision}`}>
                      <Link to={`/projects/${u.project}`}>{u.name}</Link>
                      <Quiet>
                        {u.shots} {u.shots === 1 ? "shot" : "shots"} on r{u.revision}:{" "}
                        {u.names.slice(0, 3).join(", ")}
                        {u.names.length > 3 ? " …" : ""}
                      </Quiet>
                    </li>
                  ))}
                </ul>
              ) : (
                <Quiet>no project yet</Quiet>
              )}
            </section>
            <section aria-label="Files">
              <h2>Files baked</h2>
              {bakes.length ? (
                <ul className="rows">
                  {bakes.slice(0, 8).map((b) => (
                    <li key={b.id}>
                      <a href={`/api/bakes/${b.id}/file`}>{b.name}</a>
                      <Quiet>{bytes(b.bytes)}</Quiet>
                    </li>
                  ))}
                </ul>
              ) : (
                <Quiet>none yet</Quiet>
              )}
            </section>
            <section aria-label="Origin">
              <h2>May be passed on</h2>
              <div>{look.data.rights || "not said"}</div>
              <Sharing look={look.data} />
              <Keeping look={look.data} />
              <h2>Comes from</h2>
              <div>
                {look.data.parent ? (
                  <>
                    a variation of{" "}
                    <Link to={`/catalogue/look/${look.data.parent.id}`}>{look.data.parent.name}</Link>
                  </>
                ) : (
                  look.data.origin || `made here, ${look.data.maker}`
                )}
              </div>
              {look.data.merged_into ? (
                <>
                  <h2>Part of</h2>
                  <Link to={`/catalogue/look/${look.data.merged_into.id}`}>{look.data.merged_into.name}</Link>
                </>
              ) : null}
              {look.data.merged.length ? (
                <>
                  <h2>Twins that are part of it</h2>
                  {look.data.merged.map((t) => (
                    <Apart key={t.id}>
                      <Link to={`/catalogue/look/${t.id}`}>{t.name}</Link>
                      {me?.may_lead ? (
                        <Button look="quiet" onPress={() => part.mutate(t.id)}>
                          Part again
                        </Button>
                      ) : null}
                    </Apart>
                  ))}
                </>
              ) : null}
              {look.data.variations.length ? (
                <>
                  <h2>Variations</h2>
                  {look.data.variations.map((v) => (
                    <div key={v.id}>
                      <Link to={`/catalogue/look/${v.id}`}>{v.name}</Link>
                    </div>
                  ))}
                </>
              ) : null}
            </section>
            <Similar key={id} look={id} name={look.data.name} />
          </aside>
        </Body>
      )}
      <Trouble error={like.error ?? part.error} />
      {taking && revision ? (
        <Taking look={look.data} from={revision} frame={frame} onClose={() => setTaking(false)} />
      ) : null}
      {varying && revision ? <NewLook from={revision} onClose={() => setVarying(false)} /> : null}
      {collecting ? <IntoCollection looks={[id]} onClose={() => setCollecting(false)} /> : null}
    </Page>
  );
}

/** The tags of a look, changed in place. */
function Tags(props: { look: number; tags: string[]; may: boolean }) {
  const [text, setText] = useState<string | null>(null);
  const put = useWrite(
    () =>
      got(
        server.PUT("/api/catalogue/{look_id}/tags", {
          params: { path: { look_id: props.look } },
          body: { tags: (text ?? "").split(",") },
        }),
      ),
    ["catalogue"],
    () => setText(null),
  );
  if (text === null) {
    return (
      <div>
        <Quiet>{props.tags.join(", ") || "no tags"}</Quiet>
        {props.may ? (
          <Button look="quiet" onPress={() => setText(props.tags.join(", "))}>
            change tags
          </Button>
        ) : null}
      </div>
    );
  }
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        put.mutate();
      }}
    >
      <Text
        label="Tags, with commas between"
        hidden
        hint="tags, with commas between"
        value={text}
        onChange={setText}
        maxLength={500}
        autoFocus
      />
      <Trouble error={put.error} />
    </form>
  );
}
