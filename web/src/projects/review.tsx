/** A review clip: played in the browser, with its shots beside it, for the people of its project. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Button as AriaButton } from "react-aria-components";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import type { Project, ReviewClip } from "../api/types";
import { Button } from "../kit/button";
import { bytes } from "../kit/bytes";
import { lengthWords, placeWords } from "../kit/duration";
import { Grow, Quiet } from "../kit/layout";
import { Page } from "../kit/topbar";
import { Waiting } from "../kit/waiting";
import { askedOfProject } from "./asked";
import { ProjectBar } from "./bar";
import { useShownProject } from "./project";

const Body = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
`;
const Main = styled.main`
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding: 10px 18px 12px;
`;
const Head = styled.div`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 4px 14px;
`;
const Film = styled.video`
  flex: 1;
  min-height: 160px;
  width: 100%;
  background: var(--field);
  border-radius: 4px;
`;
const Aside = styled.aside`
  width: 312px;
  flex: none;
  overflow-y: auto;
  padding: 14px 16px;
  border-left: 1px solid var(--line);
  background: var(--g1);
`;
const Shots = styled.ol`
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
`;
const Line = styled.li`
  display: flex;
  align-items: baseline;
  gap: 10px;
  border-bottom: 1px solid var(--line);
`;
const Go = styled(AriaButton)`
  flex: 1;
  min-width: 0;
  display: grid;
  grid-template-columns: 58px 1fr;
  gap: 2px 8px;
  padding: 8px 0;
  border: 0;
  background: none;
  text-align: left;
  cursor: pointer;
  font-variant-numeric: tabular-nums;
  &[aria-current="true"] {
    color: var(--accent);
  }
`;
const Words = styled.span`
  grid-column: 2;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  color: var(--t2);
`;

export default function ReviewPage() {
  const { data, waiting } = useShownProject();
  const number = Number(useParams().number);
  return data ? <Asked project={data} number={number} /> : waiting;
}

function Asked({ project, number }: { project: Project; number: number }) {
  const query = useQuery(askedOfProject.review(project.id, number));
  return (
    <Page>
      <ProjectBar project={project.id} />
      {query.data ? (
        <Watched project={project} review={query.data} />
      ) : (
        <main>
          <Waiting query={query} what="review clip" />
        </main>
      )}
    </Page>
  );
}

/** Which shot is shown at a second. */
export const shotAt = (chapters: readonly { begin: number }[], seconds: number): number =>
  Math.max(
    chapters.findLastIndex((c) => c.begin <= seconds + 1e-3),
    0,
  );

function Watched({ project, review }: { project: Project; review: ReviewClip }) {
  const film = useRef<HTMLVideoElement>(null);
  const [here, setHere] = useState(0);
  const [unable, setUnable] = useState(false);
  const [copied, setCopied] = useState(false);
  const file = `/api/projects/${project.id}/deliveries/${review.delivery}/review/file`;
  useEffect(() => {
    document.title = `Review clip of ${review.title} · Saucer`;
  }, [review.title]);
  const go = (begin: number) => {
    const video = film.current;
    if (!video) return;
    // The first frame of a shot begins at its second; a hair later it is that one for certain.
    video.currentTime = begin + 0.001;
    void video.play().catch(() => setUnable(true));
  };
  return (
    <Body>
      <Main>
        <Head>
          <h1>{review.title}</h1>
          <Quiet>
            review clip{review.whom ? ` for ${review.whom}` : ""}, {lengthWords(review.seconds)},{" "}
            {review.size}, {review.kind}
          </Quiet>
          <Grow />
          <Button
            look="quiet"
            onPress={() => void navigator.clipboard.writeText(location.href).then(() => setCopied(true))}
          >
            {copied ? "Copied" : "Copy the link"}
          </Button>
          <a href={file} download={review.path.split("/").at(-1)}>
            Fetch, {bytes(review.bytes)}
          </a>
        </Head>
        <Film
          ref={film}
          src={file}
          controls
          preload="metadata"
          aria-label={`Review clip of ${review.title}`}
          onTimeUpdate={(e) => setHere(shotAt(review.chapters, e.currentTarget.currentTime))}
          onError={() => setUnable(true)}
        />
        <Quiet role="status">
          {unable
            ? "This browser does not play it. Fetch the file and play it elsewhere, or make one of 8 bit."
            : `made by ${review.made_by}, ${new Date(review.made_at).toLocaleString("en-GB", {
                dateStyle: "medium",
                timeStyle: "short",
              })}, delivery ${review.delivery}`}
        </Quiet>
      </Main>
      <Aside aria-label="Shots of the review clip">
        <h2>
          {review.chapters.length} {review.chapters.length === 1 ? "shot" : "shots"}
        </h2>
        <Shots>
          {review.chapters.map((c, k) => (
            <Line key={`${c.shot} ${c.begin}`}>
              <Go aria-current={k === here ? "true" : undefined} onPress={() => go(c.begin)}>
                <span>{placeWords(c.begin)}</span>
                <span>
                  {c.number} · {c.name}
                </span>
                <Words>{c.words || "no look"}</Words>
              </Go>
              {project.shots.some((s) => s.id === c.shot) ? (
                <Link to={`/projects/${project.id}/reel?shot=${c.shot}`} aria-label={`${c.name} on the reel`}>
                  reel
                </Link>
              ) : null}
            </Line>
          ))}
        </Shots>
      </Aside>
    </Body>
  );
}
