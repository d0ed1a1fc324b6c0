/**
 * Taking parts of another revision, or of a variation, over into the draft: who changed what, and both on the
 * frames before it is kept.
 */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Radio, RadioGroup } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { BLOB, got, server } from "../api/client";
import { asked } from "../api/queries";
import type { Frame, Look, LookRecord, Revision } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Grow, Quiet, Said } from "../kit/layout";
import { Sheet } from "../kit/sheet";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { around } from "../kit/partshown";
import { askedOfLook } from "./asked";

const Layout = styled.div`
  display: flex;
  flex-direction: column;
  gap: 12px;
  height: min(66vh, 620px);
  .pictures {
    display: grid;
    grid-template-columns: repeat(3, minmax(0, 1fr));
    gap: 10px;
    flex: none;
  }
  .parts {
    flex: 1;
    overflow-y: auto;
    min-height: 0;
    padding-right: 8px;
  }
  .part {
    border-top: 1px solid var(--line);
    padding: 8px 0;
  }
  .part > div:first-child {
    display: flex;
    justify-content: space-between;
    margin-bottom: 4px;
  }
  .both {
    color: var(--warn);
  }
  .sides {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 8px;
  }
  .sides label {
    border: 1px solid var(--g4);
    border-radius: 6px;
    padding: 5px 9px;
    cursor: pointer;
    color: var(--t2);
    font-size: 12px;
    overflow-wrap: anywhere;
  }
  .sides label[data-selected] {
    border-color: var(--accent);
    color: var(--t1);
  }
  .sides label[data-focus-visible] {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
  figure {
    margin: 0;
  }
  figure img {
    display: block;
    width: 100%;
    border-radius: 4px;
    aspect-ratio: 16 / 9;
    object-fit: cover;
    background: var(--g2);
  }
  figcaption {
    color: var(--t2);
    font-size: 12px;
    margin-bottom: 2px;
  }
`;

const WHO = { mine: "changed here", theirs: "changed there", both: "changed on both sides" } as const;

/** A frame under a look that is not kept, as an address for a picture. */
function useDrawn(look: Look | undefined, frame: Frame | null): string | undefined {
  const { data } = useQuery({
    queryKey: ["drawn", frame?.id, frame?.version, look],
    enabled: Boolean(look && frame),
    queryFn: () =>
      got(
        server.POST("/api/picture", {
          params: { query: { width: 640 } },
          body: { look: look!, frame: frame!.id, traces: false },
          ...BLOB,
        }),
      ),
    staleTime: Infinity,
    gcTime: 0,
  });
  const [src, setSrc] = useState<string>();
  useEffect(() => {
    if (!(data instanceof Blob)) return;
    const url = URL.createObjectURL(data);
    setSrc(url);
    return () => URL.revokeObjectURL(url);
  }, [data]);
  return src;
}

export function Taking(props: {
  look: LookRecord;
  from: Revision;
  frame: Frame | null;
  onClose: () => void;
}) {
  const { look, from, frame } = props;
  const compared = useQuery(askedOfLook.taking(look.id, from.id));
  const theirs = useQuery(asked.recipe(from.id));
  const [taken, setTaken] = useState<string[]>([]);
  const tried = useQuery({
    queryKey: ["tried", look.id, look.draft_version, from.id, taken],
    queryFn: () =>
      got(
        server.POST("/api/looks/{look_id}/taking", {
          params: { path: { look_id: look.id } },
          body: { revision: from.id, parts: taken },
        }),
      ),
    retry: false,
  });
  const navigate = useNavigate();
  const keep = useWrite(
    () =>
      got(
        server.PUT("/api/looks/{look_id}/taking", {
          params: { path: { look_id: look.id } },
          body: { revision: from.id, parts: taken, version: compared.data!.version },
        }),
      ),
    ["look", "taking"],
    () => void navigate(`/bench/${look.id}`),
  );
  const there = from.look_id === look.id ? `r${from.number}` : `${from.look_name} r${from.number}`;
  const pictures = [
    ["the draft", useDrawn(look.draft, frame)],
    [there, useDrawn(theirs.data, frame)],
    ["what comes out", useDrawn(tried.data, frame)],
  ] as const;
  const parts = compared.data?.parts;
  return (
    <Sheet title={`Take over from ${there}`} width={1080} note={frame?.name} onClose={props.onClose}>
      {!parts ? (
        <Waiting query={compared} what="comparison" />
      ) : (
        <Layout>
          <div className="pictures">
            {pictures.map(([name, src]) => (
              <figure key={name}>
                <figcaption>{name}</figcaption>
                <img
                  src={src}
                  alt={src ? `${frame?.name} under ${name}` : ""}
                  style={frame ? around(frame.part) : undefined}
                />
              </figure>
            ))}
          </div>
          <div className="parts">
            {parts.length ? (
              <Said>
                {compared.data?.known
                  ? "Both began as the same: what only one side changed, and what both did, is told apart."
                  : "No common beginning is known: every part that differs is to be chosen."}
              </Said>
            ) : (
              <Said>The draft is the same as {there}.</Said>
            )}
            {parts.map((p) => (
              <div className="part" key={p.key}>
                <div>
                  <strong>{p.name}</strong>
                  <span className={p.who}>{WHO[p.who]}</span>
                </div>
                <RadioGroup
                  className="sides"
                  aria-label={p.name}
                  value={taken.includes(p.key) ? "theirs" : "mine"}
                  onChange={(side) =>
                    setTaken(side === "theirs" ? [...taken, p.key] : taken.filter((k) => k !== p.key))
                  }
                >
                  <Radio value="mine">draft: {p.mine}</Radio>
                  <Radio value="theirs">
                    {there}: {p.theirs}
                  </Radio>
                </RadioGroup>
              </div>
            ))}
          </div>
        </Layout>
      )}
      <Trouble error={keep.error ?? tried.error} />
      <footer>
        <Quiet>{taken.length ? `${taken.length} of ${parts?.length} parts taken over` : ""}</Quiet>
        <Grow />
        <Button onPress={props.onClose}>Cancel</Button>
        <Button
          look="main"
          isDisabled={!taken.length || keep.isPending || Boolean(tried.error)}
          onPress={() => keep.mutate()}
        >
          Save as the draft
        </Button>
      </footer>
    </Sheet>
  );
}
