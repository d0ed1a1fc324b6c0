/** The second factor of one's own: codes of a phone beside the password. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { got, server } from "../api/client";
import type { FactorBegun } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Said } from "../kit/layout";
import { Sheet } from "../kit/sheet";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";
import { askedOfPeople } from "./asked";

const STALE = ["people"] as const;
const Shown = styled.div`
  display: grid;
  grid-template-columns: 164px 1fr;
  gap: 14px;
  align-items: center;
  img {
    width: 164px;
    height: 164px;
  }
  code {
    overflow-wrap: anywhere;
    font-size: 12px;
  }
`;
const Spare = styled.ol`
  columns: 2;
  list-style: none;
  margin: 0;
  padding: 0;
  font-size: 13px;
  line-height: 1.9;
`;

export function FactorSheet({ onClose }: { onClose: () => void }) {
  const { data: factor } = useQuery(askedOfPeople.factor);
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const [begun, setBegun] = useState<FactorBegun | null>(null);
  const [spare, setSpare] = useState<string[]>([]);
  const begin = useWrite(
    () => got(server.POST("/api/me/second-factor", { body: { password } })),
    [],
    setBegun,
  );
  const confirm = useWrite(
    () => got(server.POST("/api/me/second-factor/confirm", { body: { code } })),
    STALE,
    (told) => setSpare(told.spare),
  );
  const end = useWrite(
    () => got(server.POST("/api/me/second-factor/end", { body: { password } })),
    STALE,
    onClose,
  );
  const step = spare.length ? "spare" : begun ? "code" : factor?.on ? "on" : "off";
  return (
    <Sheet title="Second factor" width={460} onClose={onClose}>
      {step === "off" || step === "on" ? (
        <>
          <Said>
            {step === "on"
              ? "With your password a code of your phone is asked for. Your password takes that off."
              : "A code of your phone, new every half minute, is asked for with your password. Any app for one-time codes makes it."}
          </Said>
          <Text
            label="Password"
            type="password"
            autoComplete="current-password"
            value={password}
            onChange={setPassword}
            autoFocus
          />
        </>
      ) : null}
      {step === "code" && begun ? (
        <>
          <Shown>
            <img src={begun.picture} alt="The secret as a picture to scan" />
            <Said>
              Scan this with the app, or type the secret into it: <code>{begun.secret}</code>
            </Said>
          </Shown>
          <Text
            label="Code that the app shows"
            autoComplete="one-time-code"
            value={code}
            onChange={setCode}
            maxLength={20}
            autoFocus
          />
        </>
      ) : null}
      {step === "spare" ? (
        <>
          <Said role="status">
            It is on. These codes let in once each, for a day without the phone. They are told this once: keep
            them.
          </Said>
          <Spare>
            {spare.map((one) => (
              <li key={one}>
                <code>{one}</code>
              </li>
            ))}
          </Spare>
        </>
      ) : null}
      <Trouble error={begin.error ?? confirm.error ?? end.error} />
      <footer>
        {step === "spare" ? (
          <>
            <Button onPress={() => void navigator.clipboard.writeText(spare.join("\n"))}>Copy</Button>
            <Button look="main" onPress={onClose}>
              I have kept them
            </Button>
          </>
        ) : (
          <>
            <Button onPress={onClose}>Cancel</Button>
            {step === "code" ? (
              <Button
                look="main"
                isDisabled={code.trim().length < 6 || confirm.isPending}
                onPress={() => confirm.mutate()}
              >
                Switch it on
              </Button>
            ) : (
              <Button
                look="main"
                isDisabled={!password || begin.isPending || end.isPending}
                onPress={() => (step === "on" ? end.mutate() : begin.mutate())}
              >
                {step === "on" ? "Take it off" : "Go on"}
              </Button>
            )}
          </>
        )}
      </footer>
    </Sheet>
  );
}
