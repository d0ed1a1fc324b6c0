/** A look from a pair: the same picture untouched and treated. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { declared } from "../api/declared";
import { got, server } from "../api/client";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { FileDrop } from "../kit/filedrop";
import { useShownFrame } from "../kit/frame";
import { FrameChoice } from "../kit/framechoice";
import { Level, Said, Warned } from "../kit/layout";
import { Saucer } from "../kit/saucer";
import { Segments } from "../kit/segments";
import { Page, TopBar } from "../kit/topbar";
import { Trouble } from "../kit/trouble";
import { Keeping, LookSeen, NOTHING_SAID, type SaidOfLook } from "./keeping";

const Body = styled.main`
  overflow-y: auto;
  display: grid;
  align-content: start;
  > header {
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
  .two {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 14px;
    padding: 16px 18px;
  }
  .two h2 {
    margin-bottom: 6px;
  }
  > p,
  > [role="alert"] {
    padding: 0 18px;
  }
  .result {
    display: grid;
    grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr);
    gap: 20px;
    padding: 4px 18px 20px;
    align-items: start;
  }
  .seen,
  .said {
    display: grid;
    gap: 10px;
  }
  .seen > img {
    width: 100%;
    display: block;
    background: var(--black);
    border-radius: 4px;
  }
  .cube img {
    width: 100%;
    display: block;
    border-radius: 3px;
  }
  .cube figcaption {
    color: var(--t2);
    font-size: 12px;
  }
  .said > h2 {
    font-size: 16px;
    color: var(--t1);
  }
  ul {
    padding-left: 18px;
    display: grid;
    gap: 5px;
    color: var(--warn);
  }
`;
const VIEWS = [
  ["before", "Untouched"],
  ["after", "Treated"],
  ["made", "By the look"],
  ["unexplained", "What no look explains"],
] as const;
type Side = "before" | "after";

const formOfPair = (files: Record<Side, File | null>, said: Record<string, string | number | undefined>) => {
  const form = new FormData();
  for (const side of ["before", "after"] as const) if (files[side]) form.append(side, files[side]);
  for (const [name, value] of Object.entries(said)) if (value !== undefined) form.append(name, String(value));
  return form;
};

export default function PairPage() {
  const { all, frame, show } = useShownFrame();
  const navigate = useNavigate();
  const [files, setFiles] = useState<Record<Side, File | null>>({ before: null, after: null });
  const [view, setView] = useState<(typeof VIEWS)[number][0]>("after");
  const [said, setSaid] = useState<SaidOfLook>(NOTHING_SAID);
  const say = (more: Partial<SaidOfLook>) => setSaid((last) => ({ ...last, ...more }));
  useEffect(() => {
    document.title = "A look from a pair · Saucer";
  }, []);
  const key = (f: File | null) => f && [f.name, f.size, f.lastModified];
  const found = useQuery({
    queryKey: ["pair", key(files.before), key(files.after), said.expects, said.gives, frame?.version],
    queryFn: () =>
      got(
        server.POST("/api/carriers/pair", {
          body: formOfPair(files, { expects: said.expects, gives: said.gives, frame: frame?.id }),
        }),
      ),
    enabled: files.before !== null && files.after !== null,
    placeholderData: (last) => last,
    staleTime: Infinity,
    retry: false,
  });
  const keep = useWrite(
    () => got(server.POST("/api/carriers/pair/keep", { body: formOfPair(files, { ...said }) })),
    ["luts", "worked"],
    (made) => void navigate(`/bench/${made.id}`),
  );
  const take = (side: Side) => (file: File) => {
    setFiles((last) => ({ ...last, [side]: file }));
    keep.reset();
    if (side === "after") say({ name: file.name.replace(/\.[^.]+$/, "").replaceAll("_", " ") });
  };
  const seen = found.error ? undefined : found.data;
  return (
    <Page>
      <TopBar />
      <Body>
        <header>
          <h1>A look from a pair</h1>
          <Said>The same picture untouched and treated: what happened to its colours is the look.</Said>
          <Link to="/catalogue/bring-in">Other ways in</Link>
        </header>
        <div className="two">
          {(["before", "after"] as const).map((side) => (
            <section key={side} aria-label={side === "before" ? "Untouched" : "Treated"}>
              <h2>{side === "before" ? "Untouched" : "Treated"}</h2>
              <FileDrop
                button={side === "before" ? "Choose the untouched picture" : "Choose the treated one"}
                said={files[side]?.name ?? "or drop it here"}
                suffixes={declared.pictures}
                onFile={take(side)}
              />
            </section>
          ))}
        </div>
        <Trouble error={found.error} />
        {found.isFetching ? <Said role="status">Laying them over each other and measuring …</Said> : null}
        {!seen && !found.isFetching && !found.error ? (
          <Said>
            Whole, not cropped, without text over it. It may be shifted, scaled or compressed; a vignette,
            grain or local work is told apart from the look.
          </Said>
        ) : null}
        {seen ? (
          <div className="result">
            <div className="seen">
              <img src={seen[view]} alt={VIEWS.find(([k]) => k === view)?.[1] ?? ""} />
              <Level>
                <Segments label="Shown" options={VIEWS} chosen={view} onChange={setView} />
                {view === "unexplained" ? <span>white: {declared.full_codes} of 255 and more</span> : null}
              </Level>
            </div>
            <div className="said">
              <h2>A look explains {Math.round(seen.share * 100)} % of the change</h2>
              <Said>
                The two differ by ΔE {seen.change.toFixed(1)} on average; the look leaves{" "}
                {seen.left.toFixed(2)}.{" "}
                {Math.hypot(...seen.shift) > 0.3 || Math.abs(seen.scale - 1) > 0.002
                  ? `The treated one lies ${seen.shift.map((v) => v.toFixed(1)).join(" and ")} pixels off (right, down) at ${(seen.scale * 100).toFixed(1)} % of the size.`
                  : "They lie exactly over each other."}
              </Said>
              {seen.findings.length ? (
                <ul aria-label="What cannot be a look">
                  {seen.findings.map((f) => (
                    <li key={f.kind}>{f.words.replace(/^./, (c) => c.toUpperCase())}. It stays out.</li>
                  ))}
                </ul>
              ) : null}
              {seen.frame_after ? (
                <>
                  <Level>
                    <FrameChoice all={all} frame={frame} onChoose={show} />
                  </Level>
                  <LookSeen>
                    <Saucer src={seen.saucer} size={84} of="what the pair holds" />
                    <figure>
                      <img src={seen.frame_before} alt="The frame without it" />
                      <figcaption>before</figcaption>
                    </figure>
                    <figure>
                      <img src={seen.frame_after} alt="The frame under it" />
                      <figcaption>after</figcaption>
                    </figure>
                    <figure>
                      <img src={seen.frame_guessed} alt="Where it guesses" />
                      <figcaption>white: it guesses</figcaption>
                    </figure>
                  </LookSeen>
                  <figure className="cube">
                    <img src={seen.cube_guessed} alt="Where in the cube it guesses, six slices of blue" />
                    <figcaption>
                      the cube in slices of blue, red to the right, green up; white: it guesses
                    </figcaption>
                  </figure>
                  {seen.guesses > 0.2 ? (
                    <Warned>
                      On {Math.round(seen.guesses * 100)} % of this frame it guesses: the pair holds no colour
                      near. A pair with more colours tells more.
                    </Warned>
                  ) : null}
                </>
              ) : null}
              <Keeping
                said={said}
                labels={["The untouched one is in", "The treated one is in"]}
                error={keep.error}
                onSay={say}
              >
                <Button
                  look="main"
                  isDisabled={!said.origin.trim() || keep.isPending || found.isFetching}
                  onPress={() => keep.mutate()}
                >
                  Make a look of it
                </Button>
              </Keeping>
            </div>
          </div>
        ) : null}
      </Body>
    </Page>
  );
}
