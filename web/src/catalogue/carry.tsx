/**
 * Carrying a look over: a picture that holds every colour goes through another program; what happens to it
 * there is the look.
 */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { declared } from "../api/declared";
import { got, server } from "../api/client";
import type { EncodingKey, Frame } from "../api/types";

import { Choice } from "../kit/choice";

import { EncodingChoice } from "../kit/encodingchoice";
import { useShownFrame } from "../kit/frame";
import { FrameChoice } from "../kit/framechoice";
import { Level, Said } from "../kit/layout";

import { Segments } from "../kit/segments";
import { Switch } from "../kit/switch";
import { Page, TopBar } from "../kit/topbar";
import { BringBack } from "./bringback";

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

export interface Shown {
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
