/** Frames: reference pictures, their encodings, and their trims. */
import { useEffect, useState } from "react";
import { Button as AriaButton } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { useEncodingLabel, useFrames } from "../api/queries";
import { Button } from "../kit/button";
import { trimWords } from "../kit/trim";
import { Empty } from "../kit/empty";
import { Waiting } from "../kit/waiting";
import { Page, TopBar } from "../kit/topbar";
import { AddFrame } from "./addframe";
import { TrimSheet } from "./trimsheet";
import { Grow, Warned } from "../kit/layout";

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
  const [adding, setAdding] = useState(false);
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
        <Button look="main" onPress={() => setAdding(true)}>
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
              <Button look="main" onPress={() => setAdding(true)}>
                Add frame
              </Button>
            }
          >
            Bring reference pictures as PNG, JPEG, TIFF, EXR or DPX, clips, and numbered sequences. What a
            file declares of its encoding is believed; else say how it is encoded. A good set is deliberately
            mixed.
          </Empty>
        )}
      </main>
      {adding ? <AddFrame onClose={() => setAdding(false)} /> : null}
      {chosen ? <TrimSheet frame={chosen} onClose={() => setOpen(null)} /> : null}
    </Page>
  );
}
