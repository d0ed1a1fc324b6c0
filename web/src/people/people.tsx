/**
 * People: who is in the team, what waits for whom, what was done, who may do what, and one's own sessions and
 * tokens.
 */
import { useEffect } from "react";
import styled from "styled-components";
import { Page, TopBar } from "../kit/topbar";
import { Activity } from "./activity";
import { Holdings } from "./held";
import { MayTable } from "./maytable";
import { Team } from "./team";
import { Waits } from "./waits";
import { Yours } from "./yours";

const Columns = styled.main`
  display: grid;
  grid-template-columns: minmax(300px, 390px) minmax(340px, 1fr) minmax(380px, 480px);
  > div {
    min-width: 0;
    overflow: auto;
  }
  > div:first-child {
    background: var(--g1);
  }
  > div + div {
    border-left: 1px solid var(--line);
  }
  @media (max-width: 1100px) {
    /* Two columns that scroll as one page, the rights below the activity. */
    grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
    grid-template-rows: auto 1fr;
    > div {
      overflow: visible;
    }
    > div:first-child {
      grid-row: 1 / span 2;
    }
  }
`;

export default function People() {
  useEffect(() => {
    document.title = "People · Saucer";
  }, []);
  return (
    <Page>
      <TopBar />
      <Columns>
        <div>
          <Team />
          <Waits />
          <Holdings />
        </div>
        <div>
          <Activity />
        </div>
        <div>
          <MayTable />
          <Yours />
        </div>
      </Columns>
    </Page>
  );
}
