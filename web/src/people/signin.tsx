/** Signing in. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState, type FormEvent } from "react";
import { useNavigate, useSearchParams } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { arrived, asked } from "../api/queries";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";

const Door = styled.main`
  height: 100%;
  display: grid;
  grid-template-columns: 1fr 1fr;
  background: var(--g0);
  .form {
    display: grid;
    align-content: center;
    justify-self: center;
    width: 300px;
    gap: 16px;
  }
  .mark {
    display: flex;
    align-items: center;
    gap: 11px;
    font-size: 22px;
    font-weight: 640;
  }
  .mark img {
    width: 30px;
    height: 30px;
  }
  .round {
    display: grid;
    place-items: center;
    background: var(--g1);
    border-left: 1px solid var(--line);
  }
  .round img {
    width: min(38vw, 66vh);
    height: auto;
  }
  p {
    color: var(--t2);
  }
`;

export function SignIn() {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const navigate = useNavigate();
  const [search] = useSearchParams();
  useEffect(() => {
    document.title = "Sign in · Saucer";
  }, []);
  // Asking who is here also brings the token that signing in needs.
  const here = useQuery(asked.me);
  const enter = useWrite(
    () => got(server.POST("/api/sign-in", { body: { username, password } })),
    [],
    (person) => {
      arrived(person);
      const next = search.get("next") ?? "/";
      void navigate(next.startsWith("/") && !next.startsWith("//") ? next : "/", { replace: true });
    },
  );
  const send = (event: FormEvent) => {
    event.preventDefault();
    enter.mutate();
  };
  return (
    <Door>
      <form className="form" onSubmit={send}>
        <div className="mark">
          <img src="/mark.svg" alt="" />
          Saucer
        </div>
        <p>Looks, from the first curve to the last shot.</p>
        <Text label="Name" value={username} onChange={setUsername} required autoFocus autoComplete="username" />
        <Text label="Password" type="password" value={password} onChange={setPassword} required autoComplete="current-password" />
        <Trouble error={enter.error ?? here.error} />
        <Button look="main" type="submit" isDisabled={enter.isPending}>
          Sign in
        </Button>
      </form>
      <div className="round">
        <img src="/api/saucer/neutral?size=512" alt="" />
      </div>
    </Door>
  );
}
