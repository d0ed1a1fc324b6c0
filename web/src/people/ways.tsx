/** By what somebody comes in: the places where they are signed in, and their tokens. */
import type { OwnToken, SignedIn } from "../api/types";
import { Button } from "../kit/button";
import { Quiet, Said } from "../kit/layout";
import { longAgo } from "../kit/when";
import { List } from "./list";

const day = (at: string) =>
  new Date(at).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });

export function Sessions(props: { sessions: SignedIn[]; onEnd: (id: number) => void }) {
  return (
    <>
      <h3>signed in</h3>
      {props.sessions.length ? null : <Said>Nowhere at this moment.</Said>}
      <List>
        {props.sessions.map((s) => (
          <li key={s.id}>
            <Mark kind="session" />
            <div className="two">
              <b>
                {s.browser} {s.this ? <span className="here">this one</span> : null}
              </b>
              <small>
                since {day(s.at)} · seen {longAgo(Date.parse(s.seen_at))}
              </small>
            </div>
            {s.this ? (
              <span />
            ) : (
              <Button look="quiet" onPress={() => props.onEnd(s.id)}>
                Sign out<span className="unseen"> {s.browser}</span>
              </Button>
            )}
          </li>
        ))}
      </List>
    </>
  );
}

export function Tokens(props: { tokens: OwnToken[]; none: string; onEnd: (id: number) => void }) {
  return (
    <>
      <h3>tokens</h3>
      {props.tokens.length ? null : <Said>{props.none}</Said>}
      <List>
        {props.tokens.map((t) => (
          <li key={t.id}>
            <Mark kind="token" />
            <div className="two">
              <b>
                {t.name} <Quiet>…{t.tail}</Quiet>
              </b>
              <small className={t.run_out || !t.until ? "late" : ""}>
                {t.scope.toLowerCase()} ·{" "}
                {t.used_at ? `used ${longAgo(Date.parse(t.used_at))}` : "never used"} ·{" "}
                {t.run_out ? "has run out" : t.until ? `until ${day(t.until)}` : "no end"}
              </small>
            </div>
            <Button look="quiet" onPress={() => props.onEnd(t.id)}>
              End<span className="unseen"> {t.name}</span>
            </Button>
          </li>
        ))}
      </List>
    </>
  );
}

function Mark({ kind }: { kind: "session" | "token" }) {
  return (
    <svg
      width="22"
      height="22"
      viewBox="0 0 22 22"
      fill="none"
      stroke="var(--t2)"
      strokeWidth="1.3"
      aria-hidden
    >
      {kind === "session" ? (
        <path d="M4 5H18V15H4ZM8 18H14M11 15V18" />
      ) : (
        <>
          <circle cx="7" cy="11" r="3" />
          <path d="M10 11H18M15 11V14M18 11V13" />
        </>
      )}
    </svg>
  );
}
