/** Frames: reference pictures, their encodings, and their trims. */
import { useEffect, useState } from "react";
import { Button as AriaButton } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { declared } from "../api/declared";
import { formOf, got, server } from "../api/client";
import { useEncodingLabel, useFrames } from "../api/queries";
import type { EncodingKey } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { bytes } from "../kit/bytes";
import { FileDrop } from "../kit/filedrop";
import { EncodingOrFile } from "../kit/encodingchoice";
import { Text } from "../kit/text";
import { trimWords } from "../kit/trim";
import { Empty } from "../kit/empty";
import { Sheet } from "../kit/sheet";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { Page, TopBar } from "../kit/topbar";
import { TrimSheet } from "./trimsheet";
import { Grow, Pair, Quiet, Warned } from "../kit/layout";

const Grid = styled.div`
  padding: 20px 22px 30px;
  .all {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
    gap: 22px 18px;
  }
  .frame {
    padding: 0;
    border: 0;
    background: none;
    text-align: left;
    cursor: pointer;
    border-radius: 4px;
    display: block;
    width: 100%;
  }
  .frame img {
    width: 100%;
    aspect-ratio: 16/9;
    object-fit: contain;
    background: var(--field);
    display: block;
    border-radius: 4px;
  }
  .frame[data-hovered] img,
  .frame[data-focus-visible] img {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
  .about {
    display: flex;
    justify-content: space-between;
    padding-top: 7px;
    gap: 10px;
  }
  .about b {
    font-weight: 560;
  }
  small {
    color: var(--t2);
    font-size: 12px;
    display: block;
  }
  .recorded {
    text-align: right;
  }
  .lights {
    display: flex;
    gap: 6px;
    margin-bottom: 18px;
    color: var(--t2);
    align-items: baseline;
  }
`;

export default function Frames() {
  const frames = useFrames();
  const label = useEncodingLabel();
  const navigate = useNavigate();
  const [adding, setAdding] = useState<File | null | "choose">(null);
  const [open, setOpen] = useState<number | null>(null);
  useEffect(() => {
    document.title = "Frames · Saucer";
  }, []);
  const chosen = frames.data?.find((f) => f.id === open);
  return (
    <Page>
      <TopBar>
        <Grow />
        <Button look="quiet" onPress={() => void navigate("/people/bin")}>
          Bin
        </Button>
        <Button onPress={() => void navigate("/frames/encodings")}>Camera encodings</Button>
        <Button look="main" onPress={() => setAdding("choose")}>
          Add frame
        </Button>
      </TopBar>
      <main>
        <h1 className="unseen">Frames</h1>
        {!frames.data ? (
          <Waiting query={frames} what="frames" />
        ) : frames.data.length ? (
          <Grid>
            <div className="lights">
              {frames.data.length} frames. A look is judged on all of them: daylight, dusk, night, skin,
              strong colours, a clean grey ramp.
            </div>
            <div className="all">
              {frames.data.map((f) => (
                <article key={f.id}>
                  <AriaButton className="frame" onPress={() => setOpen(f.id)} aria-label={`Open ${f.name}`}>
                    <img src={`/api/frames/${f.id}/still?width=480&v=${f.version}`} alt="" loading="lazy" />
                  </AriaButton>
                  <div className="about">
                    <span>
                      <b>{f.name}</b>
                      <small title={f.encoding_by ? `Encoding: ${f.encoding_by}` : undefined}>
                        {[f.light, label(f.encoding)].filter(Boolean).join(" · ")}
                      </small>
                      {f.encoding_by.startsWith("assumed") ? <small>{f.encoding_by}</small> : null}
                    </span>
                    <small className="recorded">
                      {f.clip ? "clip" : `${f.kind} ${f.depth}`}, {f.width} × {f.height}
                      <br />
                      trim {trimWords(f.trim)}
                    </small>
                  </div>
                  {f.doubt ? <Warned>{f.doubt}</Warned> : null}
                  {f.unread.length ? <small>Not read: {f.unread.join("; ")}</small> : null}
                </article>
              ))}
            </div>
          </Grid>
        ) : (
          <Empty
            title="No frames yet"
            action={
              <Button look="main" onPress={() => setAdding("choose")}>
                Add frame
              </Button>
            }
          >
            Bring reference pictures as PNG, JPEG, TIFF or EXR. What a file declares of its encoding is
            believed; else say how it is encoded. A good set is deliberately mixed.
          </Empty>
        )}
      </main>
      {adding ? <AddFrame onClose={() => setAdding(null)} /> : null}
      {chosen ? <TrimSheet frame={chosen} onClose={() => setOpen(null)} /> : null}
    </Page>
  );
}

function AddFrame({ onClose }: { onClose: () => void }) {
  const [file, setFile] = useState<File | null>(null);
  const [name, setName] = useState("");
  const [light, setLight] = useState("");
  const [encoding, setEncoding] = useState<EncodingKey | null>(null);
  const moves = file !== null && declared.clips.some((s) => file.name.toLowerCase().endsWith(s));
  const add = useWrite((body: FormData) => got(server.POST("/api/frames", { body })), ["frames"], onClose);
  const addClip = useWrite(
    (body: FormData) => got(server.POST("/api/clips", { body })),
    ["frames", "clips"],
    onClose,
  );
  const take = (f: File) => {
    setFile(f);
    add.reset();
    addClip.reset();
    if (!name) setName(f.name.replace(/\.[^.]+$/, "").replaceAll("_", " "));
  };
  const send = () => {
    if (!file) return;
    const about = { name, light, ...(encoding ? { encoding } : {}) };
    (moves ? addClip : add).mutate(formOf(file, about));
  };
  const busy = add.isPending || addClip.isPending;
  return (
    <Sheet title="Add frame" width={460} onClose={onClose}>
      <FileDrop
        button="Choose a picture or a clip"
        said={
          file
            ? `${file.name}, ${bytes(file.size)}`
            : "or drop it here: PNG, JPEG, TIFF, EXR, or a clip (MOV, MP4, MKV, MXF …)"
        }
        suffixes={[...declared.pictures, ...declared.clips]}
        onFile={take}
      />
      <Text label="Name" value={name} onChange={setName} maxLength={120} />
      <Pair>
        <EncodingOrFile label="Encoded as" chosen={encoding} onChange={setEncoding} />
        <Text label="Light" hint="noon, dusk, fire …" value={light} onChange={setLight} maxLength={40} />
      </Pair>
      {moves ? (
        <Quiet>
          A clip is looked through first; then it stands among the frames, and plays once it has a proxy.
        </Quiet>
      ) : null}
      <Trouble error={add.error ?? addClip.error} />
      <footer>
        <Button onPress={onClose}>Cancel</Button>
        <Button look="main" isDisabled={!file || busy} onPress={send}>
          {busy ? "Reading …" : moves ? "Add clip" : "Add frame"}
        </Button>
      </footer>
    </Sheet>
  );
}
