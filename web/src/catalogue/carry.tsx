/**
 * Carrying a look over: a picture that holds every colour goes through another program; what happens to it
 * there is the look.
 */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { declared } from "../api/declared";
import { formOf, got, server } from "../api/client";
import type { EncodingKey, Frame } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { FileDrop } from "../kit/filedrop";
import { EncodingChoice } from "../kit/encodingchoice";
import { useShownFrame } from "../kit/frame";
import { FrameChoice } from "../kit/framechoice";
import { Level, Said, Warned } from "../kit/layout";
import { Saucer } from "../kit/saucer";
import { Segments } from "../kit/segments";
import { Switch } from "../kit/switch";
import { Page, TopBar } from "../kit/topbar";
import { Trouble } from "../kit/trouble";
import { Keeping, LookSeen, NOTHING_SAID, type SaidOfLook } from "./keeping";

const Body = styled.main`
  display: grid;
  grid-template-columns: 380px minmax(0, 1fr);
  grid-template-rows: auto 1fr;
  > header {
    grid-column: 1 / -1;
    display: flex;
    gap: 12px;
    align-items: baseline;
    padding: 14px 18px;
    border-bottom: 1px solid var(--line);
  }
  > header a {
    margin-left: auto;
    color: var(--t2);
  }
  > section {
    padding: 16px 18px;
    display: grid;
    gap: 14px;
    align-content: start;
    min-width: 0;
  }
  .away {
    background: var(--g1);
    border-right: 1px solid var(--line);
  }
  .away .line {
    display: grid;
    grid-template-columns: 84px 1fr;
    align-items: center;
    min-height: 30px;
    color: var(--t2);
  }
  .away .line > * {
    justify-self: start;
  }
  .away .line > div {
    display: flex;
    align-items: center;
    gap: 10px;
  }
  .take {
    display: inline-flex;
    align-items: center;
    height: 30px;
    padding: 0 14px;
    border-radius: 15px;
    background: var(--accent);
    color: var(--on-accent);
    font-weight: 640;
    text-decoration: none;
  }
`;
const Result = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr);
  gap: 18px;
  align-items: start;
  .seen {
    display: grid;
    gap: 8px;
  }
  .seen img {
    width: 100%;
    max-height: 420px;
    object-fit: contain;
    display: block;
    background: #000;
    border-radius: 4px;
  }
  .said {
    display: grid;
    gap: 12px;
  }
  .said h2 {
    font-size: 16px;
    color: var(--t1);
  }
  ul {
    padding-left: 18px;
    display: grid;
    gap: 6px;
    color: var(--warn);
  }
`;

const FILES = [
  { key: "png16", label: "PNG, 16 bit" },
  { key: "png8", label: "PNG, 8 bit" },
  { key: "tiff16", label: "TIFF, 16 bit" },
  { key: "tiff32", label: "TIFF, 32 bit float" },
] as const;

export default function Carry() {
  const { all, frame, show } = useShownFrame();
  useEffect(() => {
    document.title = "Carry a look over · Saucer";
  }, []);
  return (
    <Page>
      <TopBar />
      <Body>
        <header>
          <h1>Carry a look over</h1>
          <Said>
            A picture holding every colour goes through another program. What happens to it there is the look.
          </Said>
          <Link to="/catalogue">Back to the catalogue</Link>
        </header>
        <TakeAway all={all} frame={frame} onFrame={show} />
        <BringBack all={all} frame={frame} onFrame={show} />
      </Body>
    </Page>
  );
}

interface Shown {
  all: Frame[];
  frame: Frame | null;
  onFrame: (id: number) => void;
}

function TakeAway({ all, frame, onFrame }: Shown) {
  const { data: kinds = [] } = useQuery({
    queryKey: ["carrier kinds"],
    queryFn: () => got(server.GET("/api/carriers/kinds")),
    staleTime: Infinity,
  });
  const [layout, setLayout] = useState("hald");
  const [points, setPoints] = useState("64");
  const [file, setFile] = useState<(typeof FILES)[number]["key"]>("png16");
  const [encoding, setEncoding] = useState<EncodingKey>(declared.usual);
  const [beside, setBeside] = useState(false);
  const sizes = kinds.find((k) => k.layout === layout)?.sizes ?? [];
  const size = sizes.find(([, n]) => String(n) === points) ?? sizes.at(-1);
  const room = layout !== "strip";
  const asked = new URLSearchParams({ layout, size: String(size?.[0] ?? 8), file, encoding });
  if (beside && room && frame) asked.set("frame", String(frame.id));
  return (
    <section className="away" aria-label="Take away">
      <h2>Take away</h2>
      <div className="line">
        Layout
        <div>
          <Segments
            label="Layout"
            options={kinds.map((k) => [k.layout, k.label] as const)}
            chosen={layout}
            onChange={setLayout}
          />
        </div>
      </div>
      <div className="line">
        Points
        <div>
          <Segments
            label="Points a side"
            options={sizes.map(([, n]) => [String(n), String(n)] as const)}
            chosen={String(size?.[1] ?? "")}
            onChange={setPoints}
          />
          a side
        </div>
      </div>
      <div className="line">
        File
        <Choice label="File" hidden look="bare" options={FILES} chosen={file} onChange={setFile} />
      </div>
      <div className="line">
        Encoding
        <EncodingChoice label="Encoding" hidden look="bare" chosen={encoding} onChange={setEncoding} />
      </div>
      <div className="line">
        Beside it
        <div>
          <Switch
            label="a frame of yours"
            on={beside && room}
            disabled={!room || !frame}
            onChange={setBeside}
          />
        </div>
      </div>
      {beside && room ? (
        <Level>
          <FrameChoice all={all} frame={frame} onChoose={onFrame} />
        </Level>
      ) : null}
      <div>
        <a className="take" href={`/api/carriers/file?${asked.toString()}`} download>
          Take it away
        </a>
      </div>
      <Said>
        There, treat it like any picture of this encoding. Leave off what follows the place: crop, resize,
        grain, sharpening, vignette, local light. Save it as PNG or TIFF, at its own size.
      </Said>
    </section>
  );
}

const VERDICTS = {
  accept: "Sound: nothing in it follows the place",
  smooth: "Usable, once it is smoothed",
  ask: "Usable, if what was found is meant so",
  refuse: "It cannot be relied on: carry again",
} as const;
const STRIP = "Sound, as far as a strip can tell";
const VIEWS = [
  ["picture", "As it came"],
  ["damage", "What no look explains"],
] as const;

function BringBack({ all, frame, onFrame }: Shown) {
  const navigate = useNavigate();
  const [file, setFile] = useState<File | null>(null);
  const [view, setView] = useState<"picture" | "damage">("picture");
  const [about, setAbout] = useState(NOTHING_SAID);
  const say = (said: Partial<SaidOfLook>) => setAbout((last) => ({ ...last, ...said }));
  const found = useQuery({
    queryKey: [
      "carried",
      file?.name,
      file?.size,
      file?.lastModified,
      about.expects,
      about.gives,
      frame?.version,
    ],
    queryFn: () =>
      got(
        server.POST("/api/carriers/read", { body: formOf(file!, { ...encodings(about), frame: frame?.id }) }),
      ),
    enabled: file !== null,
    placeholderData: (last) => last,
    staleTime: Infinity,
    retry: false,
  });
  const keep = useWrite(
    (take: "as it is" | "smoothed") =>
      got(server.POST("/api/carriers/keep", { body: formOf(file!, { take, ...about }) })),
    ["luts", "worked"],
    (made) => void navigate(`/bench/${made.id}`),
  );
  const take = (f: File) => {
    setFile(f);
    setView("picture");
    keep.reset();
    say({ name: f.name.replace(/\.[^.]+$/, "").replaceAll("_", " ") });
  };
  const seen = file && !found.error ? found.data : undefined;
  return (
    <section aria-label="Bring back">
      <h2>Bring back</h2>
      <FileDrop
        button="Choose the carrier that came back"
        said={file ? file.name : "or drop it here. It is measured first; nothing is kept."}
        suffixes={declared.pictures}
        onFile={take}
      />
      <Trouble error={found.error} />
      {found.isFetching && !seen ? <Said role="status">Measuring …</Said> : null}
      {seen ? (
        <Result>
          <div className="seen">
            {seen.picture ? (
              <>
                <img
                  src={seen[view]}
                  alt={view === "picture" ? "The carrier as it came back" : "What no look explains in it"}
                />
                <Level>
                  <Segments label="Shown" options={VIEWS} chosen={view} onChange={setView} />
                  {view === "damage" ? <span>white: {declared.full_codes} of 255 and more</span> : null}
                </Level>
              </>
            ) : null}
          </div>
          <div className="said">
            <h2>{seen.verdict === "accept" && seen.layout === "strip" ? STRIP : VERDICTS[seen.verdict]}</h2>
            {seen.grid ? (
              <Said>
                {seen.layout === "hald" ? "Square" : seen.layout === "strip" ? "Strip" : "Tiles"}, {seen.grid}{" "}
                points a side
              </Said>
            ) : null}
            {seen.findings.length ? (
              <ul>
                {seen.findings.map((f) => (
                  <li key={f.kind}>{f.words.replace(/^./, (c) => c.toUpperCase())}.</li>
                ))}
              </ul>
            ) : null}
            {seen.after ? (
              <LookSeen>
                <Saucer src={seen.saucer} size={84} of="what was carried over" />
                <figure>
                  <img src={seen.before} alt="The frame without it" />
                  <figcaption>before</figcaption>
                </figure>
                <figure>
                  <img src={seen.after} alt="The frame under it" />
                  <figcaption>after</figcaption>
                </figure>
                {seen.smoothed_after ? (
                  <figure>
                    <img src={seen.smoothed_after} alt="The frame under it, smoothed" />
                    <figcaption>smoothed</figcaption>
                  </figure>
                ) : null}
              </LookSeen>
            ) : null}
            {seen.verdict === "smooth" ? (
              <Warned>
                Smoothing changes colours by ΔE {seen.smoothing[0].toFixed(2)} on average,{" "}
                {seen.smoothing[1].toFixed(1)} at most.
              </Warned>
            ) : null}
            {seen.verdict === "refuse" ? null : (
              <>
                <Level>
                  <FrameChoice all={all} frame={frame} onChoose={onFrame} />
                </Level>
                <Keeping said={about} labels={["It was given", "It gives"]} error={keep.error} onSay={say}>
                  {seen.verdict === "smooth" ? (
                    <Button
                      look="main"
                      isDisabled={!about.origin.trim() || keep.isPending}
                      onPress={() => keep.mutate("smoothed")}
                    >
                      Make a look of it, smoothed
                    </Button>
                  ) : null}
                  <Button
                    look={seen.verdict === "smooth" ? "" : "main"}
                    isDisabled={!about.origin.trim() || keep.isPending}
                    onPress={() => keep.mutate("as it is")}
                  >
                    {seen.verdict === "accept"
                      ? "Make a look of it"
                      : seen.verdict === "ask"
                        ? "It is meant so: make a look of it"
                        : "Take it as it is"}
                  </Button>
                </Keeping>
              </>
            )}
          </div>
        </Result>
      ) : null}
    </section>
  );
}

const encodings = ({ expects, gives }: { expects: EncodingKey; gives: EncodingKey }) => ({ expects, gives });
