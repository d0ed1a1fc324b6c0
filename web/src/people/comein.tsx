/** Where an invitation leads, or a link for a new password: a name, a password, and in. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { got, server, wantsCode, words } from "../api/client";
import { arrived, asked, knowWhoWasHere } from "../api/queries";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";
import { askedOfPeople } from "./asked";
import { Door } from "./door";

const LEAST = 10;

export function ComeIn() {
  const { secret = "" } = useParams();
  const navigate = useNavigate();
  // Asking who is here also brings the token that the form needs.
  useQuery(asked.me);
  const link = useQuery(askedOfPeople.comeIn(secret));
  const [username, setUsername] = useState("");
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  useEffect(() => {
    document.title = "Come in · Saucer";
  }, []);
  const enter = useWrite(
    async () => {
      await knowWhoWasHere();
      return got(
        server.POST("/api/come-in/{secret}", {
          params: { path: { secret } },
          body: { username, name, password, code },
        }),
      );
    },
    [],
    (person) => {
      arrived(person);
      void navigate("/", { replace: true });
    },
  );
  if (link.error) {
    return (
      <Door onSend={() => void navigate("/sign-in")}>
        <p role="alert">{words(link.error)}</p>
        <Link to="/sign-in">Sign in</Link>
      </Door>
    );
  }
  const found = link.data;
  if (!found) {
    return (
      <Door onSend={() => undefined}>
        <p role="status">Looking at the link …</p>
      </Door>
    );
  }
  const known = found.username !== "";
  return (
    <Door onSend={() => enter.mutate()}>
      <p>
        {known
          ? `A new password for ${found.for_name}, who signs in as ${found.username}.`
          : `${found.made_by} invites ${found.for_name} to come in as ${found.role.toLowerCase()}.`}
      </p>
      {known ? null : (
        <>
          <Text
            label="What you are called"
            value={name}
            onChange={setName}
            required
            autoFocus
            autoComplete="name"
            maxLength={120}
          />
          <Text
            label="Name to sign in with"
            value={username}
            onChange={setUsername}
            required
            autoComplete="username"
            maxLength={150}
          />
        </>
      )}
      <Text
        label="Password, ten characters or more"
        type="password"
        value={password}
        onChange={setPassword}
        required
        autoComplete="new-password"
      />
      {code !== "" || wantsCode(enter.error) ? (
        <Text
          label="Code of your phone, or a spare one"
          value={code}
          onChange={setCode}
          autoFocus
          autoComplete="one-time-code"
          maxLength={20}
        />
      ) : null}
      <Trouble error={enter.error} />
      <Button look="main" type="submit" isDisabled={password.length < LEAST || enter.isPending}>
        Come in
      </Button>
    </Door>
  );
}
