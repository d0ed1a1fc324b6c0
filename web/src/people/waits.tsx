/** What waits for whom: reviews that were asked for. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import type { Review } from "../api/types";
import { Button } from "../kit/button";
import { Quiet, Said } from "../kit/layout";
import { Saucer, saucerOf } from "../kit/saucer";
import { longAgo } from "../kit/when";
import { askedOfLook } from "../look/asked";
import { reelOf } from "../look/waiting";
import { askedOfPeople } from "./asked";
import { Block, Initials, List } from "./list";

const LATE = 3 * 86_400_000;
const ago = (r: Review) => Date.now() - Date.parse(r.asked_at);
const isLate = (r: Review) => (r.due ? Date.parse(r.due) + 86_400_000 < Date.now() : ago(r) > LATE);
const titled = (r: Review) => `${r.revision.look_name} r${r.revision.number}`;

export function Waits() {
  const { data: mine } = useQuery(askedOfLook.waiting);
  const { data: others = [] } = useQuery(askedOfPeople.others);
  const { data: notes = [] } = useQuery(askedOfLook.notesWaiting);
  const navigate = useNavigate();
  const own = mine?.asked ?? [];
  const open = (r: Review) => void navigate(`/catalogue/look/${r.revision.look_id}?r=${r.revision.number}`);
  const row = (r: Review, words: string) => (
    <li key={r.id}>
      <Saucer src={saucerOf(r.revision, 64)} size={30} />
      <div className="two">
        <span>
          <b>{titled(r)}</b> {words}
        </span>
        <small className={isLate(r) ? "late" : ""}>
          {r.asked_by}, {longAgo(Date.parse(r.asked_at))}
          {r.due
            ? `, by ${new Date(r.due).toLocaleDateString("en-GB", { day: "numeric", month: "short" })}`
            : ""}
        </small>
      </div>
      <Button onPress={() => open(r)}>
        Open<span className="unseen"> {titled(r)}</span>
      </Button>
    </li>
  );
  return (
    <Block aria-label="What waits for whom">
      <header>
        <h2>What waits for whom</h2>
        <Quiet>{own.length + others.length + notes.length || ""}</Quiet>
      </header>
      {own.length + others.length + notes.length === 0 ? (
        <Said>Nothing waits: every review that was asked for is answered, every note settled.</Said>
      ) : null}
      {own.length ? (
        <>
          <h3>for you</h3>
          <List>{own.map((r) => row(r, "to decide on"))}</List>
        </>
      ) : null}
      {notes.length ? (
        <>
          <h3>noted on your projects</h3>
          <List>
            {notes.map((n) => (
              <li key={n.id}>
                <Initials name={n.by} />
                <div className="two">
                  <span>
                    <b>{n.place}</b> {n.text}
                  </span>
                  <small>
                    {n.by}, {longAgo(Date.parse(n.at))}, {n.project_name}
                  </small>
                </div>
                <Button onPress={() => void navigate(reelOf(n))}>
                  Open<span className="unseen"> note on {n.place}</span>
                </Button>
              </li>
            ))}
          </List>
        </>
      ) : null}
      {others.length ? (
        <>
          <h3>for others</h3>
          <List>{others.map((r) => row(r, `with ${r.asked_of}`))}</List>
        </>
      ) : null}
    </Block>
  );
}
