/** What a lead sees of by what somebody comes in, and can end. */
import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { got, server } from "../api/client";
import type { Mate } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Said } from "../kit/layout";
import { Sheet } from "../kit/sheet";
import { Trouble } from "../kit/trouble";
import { Waiting } from "../kit/waiting";
import { askedOfPeople } from "./asked";
import { Sessions, Tokens } from "./ways";

const Listed = styled.div`
  max-height: 50vh;
  overflow: auto;
  h3 {
    font-size: 12px;
    font-weight: 400;
    color: var(--t2);
    margin: 10px 0 4px;
  }
`;
const STALE = ["people"] as const;

export function WaysIn({ mate, onClose }: { mate: Mate; onClose: () => void }) {
  const ways = useQuery(askedOfPeople.waysIn(mate.id));
  const of = mate.id;
  const endSession = useWrite(
    (id: number) =>
      got(
        server.DELETE("/api/people/{person_id}/sessions/{session_id}", {
          params: { path: { person_id: of, session_id: id } },
        }),
      ),
    STALE,
  );
  const endToken = useWrite(
    (id: number) =>
      got(
        server.DELETE("/api/people/{person_id}/tokens/{token_id}", {
          params: { path: { person_id: of, token_id: id } },
        }),
      ),
    STALE,
  );
  const takeOff = useWrite(
    () =>
      got(server.DELETE("/api/people/{person_id}/second-factor", { params: { path: { person_id: of } } })),
    STALE,
  );
  return (
    <Sheet title={`How ${mate.name} comes in`} width={480} onClose={onClose}>
      {ways.data ? (
        <Listed>
          <Sessions sessions={ways.data.sessions} onEnd={(id) => endSession.mutate(id)} />
          <Tokens tokens={ways.data.tokens} none="None." onEnd={(id) => endToken.mutate(id)} />
        </Listed>
      ) : (
        <Waiting query={ways} what="ways in" />
      )}
      {mate.second_factor ? <Said>A code of their phone is asked for with the password.</Said> : null}
      <Trouble error={endSession.error ?? endToken.error ?? takeOff.error} />
      <footer>
        {mate.second_factor ? (
          <Button look="quiet" isDisabled={takeOff.isPending} onPress={() => takeOff.mutate()}>
            Take the second factor off
          </Button>
        ) : null}
        <Button onPress={onClose}>Close</Button>
      </footer>
    </Sheet>
  );
}
