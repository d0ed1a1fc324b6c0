/** What everybody sees who is not in yet: a form beside a saucer. */
import type { FormEvent, ReactNode } from "react";
import styled from "styled-components";

const Halves = styled.main`
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
  p[role="alert"] {
    color: var(--warn);
  }
`;

export function Door(props: { onSend: () => void; children: ReactNode }) {
  const send = (event: FormEvent) => {
    event.preventDefault();
    props.onSend();
  };
  return (
    <Halves>
      <form className="form" onSubmit={send}>
        <div className="mark">
          <img src="/mark.svg" alt="" />
          Saucer
        </div>
        {props.children}
      </form>
      <div className="round">
        <img src="/api/saucer/neutral?size=512" alt="" />
      </div>
    </Halves>
  );
}
