/** Who is in the team, and who is invited. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Button as AriaButton, Menu, MenuItem, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useMe } from "../api/queries";
import type { Invitation, Mate, Role } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Opens, Quiet, Said } from "../kit/layout";
import { Menued } from "../kit/menued";
import { Sheet } from "../kit/sheet";
import { Text } from "../kit/text";
import { Told } from "../kit/told";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { longAgo } from "../kit/when";
import { askedOfPeople } from "./asked";
import { Block, Initials, List } from "./list";
import { WaysIn } from "./theirs";

export const ROLES: readonly { key: Role; label: string; note: string }[] = [
  { key: "applier", label: "Editor or photographer", note: "tries looks, assigns and trims" },
  { key: "designer", label: "Look designer", note: "builds looks, brings them in, bakes" },
  { key: "lead", label: "Lead", note: "approves, starts projects, invites" },
];
const Open = styled(AriaButton)`
  border: 0;
  background: none;
  cursor: pointer;
  padding: 5px 6px;
  border-radius: var(--r);
  font-weight: 560;
  font-size: 12.5px;
  &[data-hovered] {
    background: var(--g3);
  }
`;
const STALE = ["people"] as const;
const here = window.location.origin;

const article = (word: string) => (/^[aeiou]/i.test(word) ? "an" : "a");

type Doing = Role | "reset" | "gone" | "back" | "address" | "ways";

function Change(props: {
  mate: Mate;
  onAddress: () => void;
  onWays: () => void;
  onTold: (link: Invitation) => void;
  onTrouble: (error: unknown) => void;
}) {
  const { mate } = props;
  const at = { params: { path: { person_id: mate.id } } };
  const change = useWrite(
    (said: { role?: Role; active?: boolean }) =>
      got(server.PATCH("/api/people/{person_id}", { ...at, body: said })),
    STALE,
  );
  const reset = useWrite(() => got(server.POST("/api/people/{person_id}/reset", at)), STALE, props.onTold);
  const act = (key: Doing) => {
    const told = { onError: props.onTrouble, onSuccess: () => props.onTrouble(null) };
    if (key === "address") props.onAddress();
    else if (key === "ways") props.onWays();
    else if (key === "reset") reset.mutate(undefined, told);
    else if (key === "gone" || key === "back") change.mutate({ active: key === "back" }, told);
    else change.mutate({ role: key }, told);
  };
  return (
    <MenuTrigger>
      <Open>
        <span className="unseen">Change {mate.name}: </span>
        {mate.active ? mate.role : "not let in"} <Opens />
      </Open>
      <Menued placement="bottom end">
        <Menu aria-label={`What ${mate.name} is`} onAction={(key) => act(key as Doing)}>
          {ROLES.filter((r) => mate.active && r.key !== mate.key).map((r) => (
            <MenuItem key={r.key} id={r.key} textValue={`Make ${article(r.label)} ${r.label.toLowerCase()}`}>
              Make {article(r.label)} {r.label.toLowerCase()}
              <small>{r.note}</small>
            </MenuItem>
          ))}
          {mate.active ? (
            <MenuItem id="reset" textValue="Link for a new password">
              Link for a new password
              <small>for who forgot theirs; good for a day</small>
            </MenuItem>
          ) : null}
          {mate.active ? (
            <MenuItem id="address" textValue="Address for single sign-on">
              Address for single sign-on
              <small>{mate.email || "none"}</small>
            </MenuItem>
          ) : null}
          {mate.active ? (
            <MenuItem id="ways" textValue="Sessions and tokens">
              Sessions and tokens
              <small>{mate.second_factor ? "with a second factor" : "where they are signed in"}</small>
            </MenuItem>
          ) : null}
          <MenuItem
            id={mate.active ? "gone" : "back"}
            textValue={mate.active ? "Let in no more" : "Let in again"}
          >
            {mate.active ? "Let in no more" : "Let in again"}
            <small>
              {mate.active
                ? "signs them out and ends their tokens; what they made stays"
                : "with the password they had"}
            </small>
          </MenuItem>
        </Menu>
      </Menued>
    </MenuTrigger>
  );
}

function Address(props: { mate: Mate; onClose: () => void }) {
  const [email, setEmail] = useState(props.mate.email);
  const keep = useWrite(
    () =>
      got(
        server.PATCH("/api/people/{person_id}", {
          params: { path: { person_id: props.mate.id } },
          body: { email },
        }),
      ),
    STALE,
    props.onClose,
  );
  return (
    <Sheet title={`Address of ${props.mate.name}`} width={400} onClose={props.onClose}>
      <Said>By it single sign-on knows them the first time they come that way.</Said>
      <Text label="Address" type="email" value={email} onChange={setEmail} maxLength={200} autoFocus />
      <Trouble error={keep.error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" isDisabled={keep.isPending} onPress={() => keep.mutate()}>
          Keep
        </Button>
      </footer>
    </Sheet>
  );
}

function Invite(props: { onClose: () => void; onTold: (link: Invitation) => void }) {
  const [name, setName] = useState("");
  const [role, setRole] = useState<Role>("applier");
  const invite = useWrite(
    () => got(server.POST("/api/invitations", { body: { for_name: name, role } })),
    STALE,
    (link) => {
      props.onTold(link);
      props.onClose();
    },
  );
  return (
    <Sheet title="Invite somebody" width={420} onClose={props.onClose}>
      <Said>
        You get a link to hand on. Whoever opens it chooses a name and a password, once, within a week.
      </Said>
      <Text
        label="Whom"
        hint="a name, so that the team knows"
        value={name}
        onChange={setName}
        maxLength={120}
        autoFocus
      />
      <Choice label="As" chosen={role} options={ROLES} onChange={setRole} />
      <Trouble error={invite.error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" isDisabled={!name.trim() || invite.isPending} onPress={() => invite.mutate()}>
          Make the link
        </Button>
      </footer>
    </Sheet>
  );
}

const day = (at: string) =>
  new Date(at).toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "short" });

export function Team() {
  const { data: me } = useMe();
  const team = useQuery(askedOfPeople.team);
  const { data: invitations = [] } = useQuery(askedOfPeople.invitations);
  const [inviting, setInviting] = useState(false);
  const [told, setTold] = useState<Invitation | null>(null);
  const [trouble, setTrouble] = useState<unknown>(null);
  const [addressed, setAddressed] = useState<Mate | null>(null);
  const [seen, setSeen] = useState<number | null>(null);
  const [showGone, setShowGone] = useState(false);
  const renew = useWrite(
    (id: number) =>
      got(server.POST("/api/invitations/{link_id}/renew", { params: { path: { link_id: id } } })),
    STALE,
    setTold,
  );
  const takeBack = useWrite(
    (id: number) => got(server.DELETE("/api/invitations/{link_id}", { params: { path: { link_id: id } } })),
    STALE,
    () => setTold(null),
  );
  if (!team.data) return <Waiting query={team} what="people" />;
  const looked = team.data.find((p) => p.id === seen);
  const gone = team.data.filter((p) => !p.active);
  const shown = team.data.filter((p) => p.active || showGone);
  const counted = team.data.length - gone.length;
  return (
    <Block aria-label="People">
      <header>
        <h1>People</h1>
        <Quiet>
          {counted}
          {invitations.length ? `, and ${invitations.length} invited` : ""}
        </Quiet>
        {me?.may_lead ? <Button onPress={() => setInviting(true)}>Invite</Button> : <span />}
      </header>
      {told ? (
        <Told
          text={here + told.path}
          words={`Hand this on to ${told.for_name}, by a way you trust. It is told this once and good until ${day(told.until)}.`}
        />
      ) : null}
      <Trouble error={trouble ?? renew.error ?? takeBack.error} />
      <List>
        {shown.map((p) => (
          <li key={p.id}>
            <Initials name={p.name} />
            <div className="two">
              <b>{p.name}</b>
              <small>
                {p.here ? (
                  <span className="here">here now</span>
                ) : p.seen_at ? (
                  longAgo(Date.parse(p.seen_at))
                ) : (
                  "not here yet"
                )}
                {p.id === me?.id ? " · you" : ""}
              </small>
            </div>
            {me?.may_lead ? (
              <Change
                mate={p}
                onAddress={() => setAddressed(p)}
                onWays={() => setSeen(p.id)}
                onTold={setTold}
                onTrouble={setTrouble}
              />
            ) : (
              <Quiet>{p.active ? p.role : "not let in"}</Quiet>
            )}
          </li>
        ))}
        {invitations.map((i) => (
          <li key={`i${i.id}`}>
            <Initials name={i.for_name} asked />
            <div className="two">
              <b>{i.for_name}</b>
              <small className={i.run_out ? "late" : ""}>
                {i.role}, {i.run_out ? "has run out" : `until ${day(i.until)}`}
              </small>
            </div>
            {me?.may_lead ? (
              <MenuTrigger>
                <Open>
                  <span className="unseen">Invitation of {i.for_name}: </span>
                  invited <Opens />
                </Open>
                <Menued placement="bottom end">
                  <Menu
                    aria-label={`Invitation of ${i.for_name}`}
                    onAction={(key) => (key === "renew" ? renew.mutate(i.id) : takeBack.mutate(i.id))}
                  >
                    <MenuItem id="renew" textValue="Make a new link">
                      Make a new link
                      <small>the old one ends</small>
                    </MenuItem>
                    <MenuItem id="back" textValue="Take the invitation back">
                      Take the invitation back
                    </MenuItem>
                  </Menu>
                </Menued>
              </MenuTrigger>
            ) : (
              <Quiet>invited</Quiet>
            )}
          </li>
        ))}
      </List>
      {gone.length ? (
        <Button look="quiet" onPress={() => setShowGone(!showGone)}>
          {showGone ? "Hide" : "Show"} {gone.length} not let in any more
        </Button>
      ) : null}
      {addressed ? <Address mate={addressed} onClose={() => setAddressed(null)} /> : null}
      {looked ? <WaysIn mate={looked} onClose={() => setSeen(null)} /> : null}
      {inviting ? <Invite onClose={() => setInviting(false)} onTold={setTold} /> : null}
    </Block>
  );
}
