/** One's own: where one is signed in, tokens for scripts, and the password. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { got, server } from "../api/client";
import { asked, useMe } from "../api/queries";
import type { NewToken, OwnToken } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Said } from "../kit/layout";
import { Sheet } from "../kit/sheet";
import { Switch } from "../kit/switch";
import { Text } from "../kit/text";
import { Told } from "../kit/told";
import { Trouble } from "../kit/trouble";
import { askedOfPeople } from "./asked";
import { FactorSheet } from "./factor";
import { Block } from "./list";
import { Sessions, Tokens } from "./ways";

const Ends = styled.div`
  display: flex;
  gap: 6px;
  /* The words of a quiet button begin where the words of a row do. */
  margin-left: 31px;
`;
const STALE = ["people"] as const;
const SCOPES = [
  { key: "read", label: "Read", note: "looks, files, deliveries" },
  { key: "bake", label: "Read, bake and deliver", note: "for a render room" },
  { key: "all", label: "All that you may", note: "as if you did it yourself" },
] as const;
type Scope = (typeof SCOPES)[number]["key"];
const LASTS = [
  { key: "7", label: "a week" },
  { key: "30", label: "30 days" },
  { key: "90", label: "90 days" },
  { key: "365", label: "a year" },
  { key: "0", label: "until it is ended" },
] as const;
type Lasts = (typeof LASTS)[number]["key"];

function NewTokenSheet(props: { onClose: () => void; onTold: (token: OwnToken) => void }) {
  const [name, setName] = useState("");
  const [scope, setScope] = useState<Scope>("read");
  const [lasts, setLasts] = useState<Lasts>("90");
  const make = useWrite(
    () =>
      got(
        server.POST("/api/me/tokens", {
          body: { name, scope, days: (Number(lasts) || null) as NewToken["days"] },
        }),
      ),
    STALE,
    (token) => {
      props.onTold(token);
      props.onClose();
    },
  );
  return (
    <Sheet title="New token" width={440} onClose={props.onClose}>
      <Said>
        A script shows it instead of signing in. It never changes people, passwords or other tokens.
      </Said>
      <Text label="What for" hint="render shed" value={name} onChange={setName} maxLength={80} autoFocus />
      <Choice label="May" chosen={scope} options={SCOPES} onChange={setScope} />
      <Choice label="For" chosen={lasts} options={LASTS} onChange={setLasts} />
      <Trouble error={make.error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" isDisabled={!name.trim() || make.isPending} onPress={() => make.mutate()}>
          Make the token
        </Button>
      </footer>
    </Sheet>
  );
}

function PasswordSheet(props: { onClose: () => void; onDone: (words: string) => void }) {
  const [now, setNow] = useState("");
  const [next, setNext] = useState("");
  const [keeps, setKeeps] = useState(false);
  const change = useWrite(
    () => got(server.PUT("/api/me/password", { body: { now, new: next, keep_tokens: keeps } })),
    STALE,
    ({ signed_out: out, tokens_ended: ended }) => {
      const said = [
        "Your password is changed.",
        out ? `You were signed out in ${out} other ${out === 1 ? "place" : "places"}.` : "",
        ended ? `${ended} ${ended === 1 ? "token" : "tokens"} ended.` : "",
      ];
      props.onDone(said.filter(Boolean).join(" "));
      props.onClose();
    },
  );
  return (
    <Sheet title="Change your password" width={400} onClose={props.onClose}>
      <Text
        label="Password until now"
        type="password"
        autoComplete="current-password"
        value={now}
        onChange={setNow}
        autoFocus
      />
      <Text
        label="New password, ten characters or more"
        type="password"
        autoComplete="new-password"
        value={next}
        onChange={setNext}
      />
      <Switch label="My tokens go on letting in" on={keeps} onChange={setKeeps} />
      <Said>Everywhere else you are signed out{keeps ? "" : ", and your tokens end"}.</Said>
      <Trouble error={change.error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button
          look="main"
          isDisabled={!now || next.length < 10 || change.isPending}
          onPress={() => change.mutate()}
        >
          Change it
        </Button>
      </footer>
    </Sheet>
  );
}

export function Yours() {
  const { data: me } = useMe();
  const { data: way } = useQuery(asked.wayIn);
  const { data: sessions = [] } = useQuery(askedOfPeople.sessions);
  const { data: tokens = [] } = useQuery(askedOfPeople.tokens);
  const [sheet, setSheet] = useState<"token" | "password" | "factor" | null>(null);
  const [told, setTold] = useState<OwnToken | null>(null);
  const [done, setDone] = useState("");
  const endSession = useWrite(
    (id: number) =>
      got(server.DELETE("/api/me/sessions/{session_id}", { params: { path: { session_id: id } } })),
    STALE,
  );
  const endToken = useWrite(
    (id: number) => got(server.DELETE("/api/me/tokens/{token_id}", { params: { path: { token_id: id } } })),
    STALE,
    () => setTold(null),
  );
  return (
    <Block aria-label="Yours">
      <header>
        <h2>Yours, {me?.name}</h2>
        <Button onPress={() => setSheet("token")}>New token</Button>
      </header>
      {told ? (
        <Told
          text={told.secret ?? ""}
          words={`“${told.name}”, told this once. A script sends it as: Authorization: Bearer TOKEN`}
        />
      ) : null}
      {done ? <Said role="status">{done}</Said> : null}
      <Trouble error={endSession.error ?? endToken.error} />
      <Sessions sessions={sessions} onEnd={(id) => endSession.mutate(id)} />
      {way?.passwords === false ? null : (
        <Ends>
          <Button look="quiet" onPress={() => setSheet("password")}>
            Change password
          </Button>
          <Button look="quiet" onPress={() => setSheet("factor")}>
            Second factor
          </Button>
        </Ends>
      )}
      <Tokens
        tokens={tokens}
        none="None. A script or a render room lets itself in with one."
        onEnd={(id) => endToken.mutate(id)}
      />
      {sheet === "token" ? <NewTokenSheet onClose={() => setSheet(null)} onTold={setTold} /> : null}
      {sheet === "factor" ? <FactorSheet onClose={() => setSheet(null)} /> : null}
      {sheet === "password" ? <PasswordSheet onClose={() => setSheet(null)} onDone={setDone} /> : null}
    </Block>
  );
}
