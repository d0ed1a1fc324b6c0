/** Review: asking for it, approving, sending back with a reason, retiring with a successor. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useCatalogue, useMe } from "../api/queries";
import type { LookRecord, Review, Revision } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Fields, Level, Quiet, Said } from "../kit/layout";
import { Sheet } from "../kit/sheet";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";
import { longAgo } from "../kit/when";
import { askedOfLook, DECIDED } from "./asked";

const Box = styled.section`
  .head {
    font-weight: 600;
  }
  blockquote {
    margin: 4px 0 0;
    color: var(--t2);
  }
`;

type Open = "" | "ask" | "back" | "retire";

const at = (revision: number) => ({ params: { path: { revision_id: revision } } });
const of = (review: number) => ({ params: { path: { review_id: review } } });

export function Deciding(props: { look: LookRecord; revision: Revision }) {
  const { revision } = props;
  const { data: me } = useMe();
  const { data: reviews } = useQuery(askedOfLook.reviews(props.look.id));
  const [open, setOpen] = useState<Open>("");
  const here = (reviews ?? []).filter((r) => r.revision.id === revision.id);
  const waiting = here.filter((r) => r.stand === "open");
  const mine = waiting.find((r) => r.mine) ?? (me?.may_lead ? waiting[0] : undefined);
  const answered = here.find((r) => r.answer || r.answered_by);
  const approve = useWrite(
    (review: Review) =>
      got(server.POST("/api/reviews/{review_id}/answer", { ...of(review.id), body: { approve: true } })),
    DECIDED,
  );
  const withdraw = useWrite(
    (review: Review) => got(server.POST("/api/reviews/{review_id}/withdraw", of(review.id))),
    DECIDED,
  );
  const decide = useWrite(
    (status: string) =>
      got(server.PUT("/api/revisions/{revision_id}/status", { ...at(revision.id), body: { status } })),
    DECIDED,
  );
  const close = () => setOpen("");
  const name = `r${revision.number}`;
  // What may be decided depends on who was asked.
  if (!reviews) return <Box aria-label="Review" aria-busy />;
  const own = waiting.find((r) => r.own);
  return (
    <Box aria-label="Review">
      <div className="head">
        {mine ? `${name} is asked of ${mine.mine ? "you" : mine.asked_of}` : `${name} is ${revision.status}`}
        {mine ? <Quiet> since {longAgo(Date.parse(mine.asked_at), Date.now())}</Quiet> : null}
      </div>
      {waiting.map((r) => (
        <Said key={r.id}>
          {r.asked_by} asks {r.asked_of}
          {r.due
            ? `, by ${new Date(r.due).toLocaleDateString("en-GB", { day: "numeric", month: "short" })}`
            : ""}
          {r.words ? `: ${r.words}` : ""}
        </Said>
      ))}
      {answered && !waiting.length ? (
        <blockquote>
          {answered.stand} by {answered.answered_by}
          {answered.answer ? `: ${answered.answer}` : ""}
        </blockquote>
      ) : null}
      {!answered && !waiting.length && revision.moved_by ? (
        <Said>
          by {revision.moved_by}, {longAgo(Date.parse(revision.moved_at ?? ""))}
        </Said>
      ) : null}
      {props.look.successor && revision.status === "retired" ? (
        <Said>Use {props.look.successor.name} instead.</Said>
      ) : null}
      <Level>
        {mine && me?.may_lead ? (
          <>
            <Button look="main" isDisabled={approve.isPending} onPress={() => approve.mutate(mine)}>
              Approve {name}
            </Button>
            <Button onPress={() => setOpen("back")}>Send back</Button>
          </>
        ) : null}
        {!mine && me?.may_lead && (revision.status === "draft" || revision.status === "in review") ? (
          <Button isDisabled={decide.isPending} onPress={() => decide.mutate("approved")}>
            Approve {name}
          </Button>
        ) : null}
        {props.look.may_edit &&
        (revision.status === "draft" || (revision.status === "in review" && !waiting.length)) ? (
          <Button onPress={() => setOpen("ask")}>Ask for a review</Button>
        ) : null}
        {own ? (
          <Button look="quiet" onPress={() => withdraw.mutate(own)}>
            Take it back
          </Button>
        ) : null}
        {me?.may_lead && revision.status === "approved" ? (
          <Button look="quiet" onPress={() => setOpen("retire")}>
            Retire
          </Button>
        ) : null}
        {me?.may_lead && revision.status === "retired" ? (
          <Button look="quiet" onPress={() => decide.mutate("approved")}>
            Bring back
          </Button>
        ) : null}
      </Level>
      <Trouble error={approve.error ?? withdraw.error ?? decide.error} />
      {open === "ask" ? <Asking revision={revision} onClose={close} /> : null}
      {open === "back" && mine ? <SendingBack review={mine} onClose={close} /> : null}
      {open === "retire" ? <Retiring look={props.look} revision={revision} onClose={close} /> : null}
    </Box>
  );
}

function Asking(props: { revision: Revision; onClose: () => void }) {
  const { data: people = [] } = useQuery(askedOfLook.deciders);
  const [of, setOf] = useState<string | null>(null);
  const [due, setDue] = useState("");
  const [text, setText] = useState("");
  const whom = of ?? (people[0] ? String(people[0].id) : null);
  const ask = useWrite(
    () =>
      got(
        server.POST("/api/revisions/{revision_id}/reviews", {
          ...at(props.revision.id),
          body: { of: Number(whom), due: due || null, words: text },
        }),
      ),
    DECIDED,
    props.onClose,
  );
  return (
    <Sheet title={`Ask for a review of r${props.revision.number}`} width={420} onClose={props.onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          ask.mutate();
        }}
      >
        <Fields>
          <Choice
            label="Whom"
            chosen={whom}
            onChange={setOf}
            options={people.map((p) => ({ key: String(p.id), label: p.name }))}
            empty="nobody may decide"
          />
          <label>
            <Quiet>By, if it presses</Quiet>
            <br />
            <input type="date" value={due} onChange={(e) => setDue(e.target.value)} />
          </label>
          <Text label="What to look at" lines={3} value={text} onChange={setText} maxLength={4000} />
          <Trouble error={ask.error} />
        </Fields>
        <footer>
          <Button onPress={props.onClose}>Cancel</Button>
          <Button look="main" type="submit" isDisabled={!whom || ask.isPending}>
            Ask
          </Button>
        </footer>
      </form>
    </Sheet>
  );
}

function SendingBack(props: { review: Review; onClose: () => void }) {
  const [text, setText] = useState("");
  const back = useWrite(
    () =>
      got(
        server.POST("/api/reviews/{review_id}/answer", {
          ...of(props.review.id),
          body: { approve: false, words: text },
        }),
      ),
    DECIDED,
    props.onClose,
  );
  return (
    <Sheet title={`Send r${props.review.revision.number} back`} width={420} onClose={props.onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          back.mutate();
        }}
      >
        <Fields>
          <Text
            label="Why, so that it can be mended"
            lines={3}
            value={text}
            onChange={setText}
            maxLength={4000}
            autoFocus
            required
          />
          <Trouble error={back.error} />
        </Fields>
        <footer>
          <Button onPress={props.onClose}>Cancel</Button>
          <Button look="main" type="submit" isDisabled={!text.trim() || back.isPending}>
            Send back
          </Button>
        </footer>
      </form>
    </Sheet>
  );
}

function Retiring(props: { look: LookRecord; revision: Revision; onClose: () => void }) {
  const { data: uses = [] } = useQuery(askedOfLook.uses(props.look.id));
  const { data: looks } = useCatalogue();
  const [heir, setHeir] = useState("");
  const retire = useWrite(
    () =>
      got(
        server.POST("/api/revisions/{revision_id}/retire", {
          ...at(props.revision.id),
          body: { successor: heir ? Number(heir) : null },
        }),
      ),
    DECIDED,
    props.onClose,
  );
  const used = uses.filter((u) => u.revision === props.revision.number);
  return (
    <Sheet title={`Retire ${props.look.name} r${props.revision.number}`} width={440} onClose={props.onClose}>
      <Said>
        {used.length
          ? `It is used in ${used.map((u) => `${u.name} (${u.shots} ${u.shots === 1 ? "shot" : "shots"})`).join(", ")}. It stays there; nobody can put it on new shots.`
          : "No project uses it. Nobody can put it on shots from now on."}
      </Said>
      <Choice
        label="Use instead"
        chosen={heir}
        onChange={setHeir}
        options={[
          { key: "", label: "no other look" },
          ...(looks?.cards ?? [])
            .filter((c) => c.id !== props.look.id && c.revision.status !== "retired")
            .map((c) => ({ key: String(c.id), label: c.name, note: c.revision.status })),
        ]}
      />
      <Trouble error={retire.error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" isDisabled={retire.isPending} onPress={() => retire.mutate()}>
          Retire
        </Button>
      </footer>
    </Sheet>
  );
}
