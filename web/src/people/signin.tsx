/** Signing in. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { got, server, wantsCode } from "../api/client";
import { arrived, asked, knowWhoWasHere } from "../api/queries";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Warned } from "../kit/layout";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";
import { Door } from "./door";

export function SignIn() {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const navigate = useNavigate();
  const [search] = useSearchParams();
  useEffect(() => {
    document.title = "Sign in · Saucer";
  }, []);
  // Asking who is here also brings the token that signing in needs.
  const here = useQuery(asked.me);
  const { data: way } = useQuery(asked.wayIn);
  const enter = useWrite(
    async () => {
      await knowWhoWasHere();
      return got(server.POST("/api/sign-in", { body: { username, password, code } }));
    },
    [],
    (person) => {
      arrived(person);
      const next = search.get("next") ?? "/";
      void navigate(next.startsWith("/") && !next.startsWith("//") ? next : "/", { replace: true });
    },
  );
  const coded = code !== "" || wantsCode(enter.error);
  const passwords = way?.passwords ?? true;
  return (
    <Door onSend={() => enter.mutate()}>
      <p>Looks, from the first curve to the last shot.</p>
      {passwords ? (
        <>
          <Text
            label="Name"
            value={username}
            onChange={setUsername}
            required
            autoFocus
            autoComplete="username"
          />
          <Text
            label="Password"
            type="password"
            value={password}
            onChange={setPassword}
            required
            autoComplete="current-password"
          />
        </>
      ) : null}
      {passwords && coded ? (
        <Text
          label="Code of your phone, or a spare one"
          value={code}
          onChange={setCode}
          autoFocus
          autoComplete="one-time-code"
          maxLength={20}
        />
      ) : null}
      {search.get("said") && !enter.error ? <Warned role="alert">{search.get("said")}</Warned> : null}
      <Trouble error={enter.error ?? here.error} />
      {passwords ? (
        <Button look="main" type="submit" isDisabled={enter.isPending}>
          Sign in
        </Button>
      ) : null}
      {way?.signOn ? (
        <a href={`/single-sign-on?next=${encodeURIComponent(search.get("next") ?? "/")}`}>
          Sign in with {way.signOn}
        </a>
      ) : null}
    </Door>
  );
}
