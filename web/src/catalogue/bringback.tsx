/** A picture that came back from another program, read as a look. */
import styled from "styled-components";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { declared } from "../api/declared";
import { formOf, got, server } from "../api/client";
import { Button } from "../kit/button";

import { FileDrop } from "../kit/filedrop";

import { FrameChoice } from "../kit/framechoice";
import { Level, Said, Warned } from "../kit/layout";
import { Saucer } from "../kit/saucer";
import { Segments } from "../kit/segments";

import { Trouble } from "../kit/trouble";
import { Keeping, LookSeen, NOTHING_SAID, type SaidOfLook } from "./keeping";
import { useWrite } from "../api/writes";
import type { Shown } from "./carry";
import type { EncodingKey } from "../api/types";

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
    background: var(--black);
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

const encodings = ({ expects, gives }: { expects: EncodingKey; gives: EncodingKey }) => ({ expects, gives });

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

export function BringBack({ all, frame, onFrame }: Shown) {
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
