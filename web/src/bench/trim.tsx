/**
 * The trim of the chosen frame, in the place of the control but plainly something else: it is never part of
 * the look.
 */
import { useEffect, useRef, useState } from "react";
import { Menu, MenuItem, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useWrite } from "../api/writes";
import type { Frame, Trim } from "../api/types";
import { NO_TRIM } from "../kit/trim";
import { TrimFields } from "../frames/trimfields";
import { Button } from "../kit/button";
import { Gap } from "../kit/layout";
import { Menued } from "../kit/menued";
import { Trouble } from "../kit/trouble";
import { view } from "./view";

const Column = styled.section`
  width: 304px;
  flex: none;
  border-right: 1px solid var(--line);
  background: var(--g2);
  overflow-y: auto;
  padding: 12px 16px 20px;
  border-top: 3px solid var(--warn);
  header {
    margin-bottom: 10px;
  }
  header span {
    color: var(--warn);
    font-size: 12px;
  }
  p {
    color: var(--t2);
    margin-bottom: 12px;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    margin-top: 14px;
  }
`;

const PAUSE = 400;

export function TrimControl(props: { frame: Frame; frames: Frame[]; onTrim: (trim: Trim) => void }) {
  const { frame, onTrim } = props;
  const [trim, setTrim] = useState<Trim>(frame.trim);
  const [copied, setCopied] = useState("");
  const { mutate: keep, error: unkept } = useWrite(
    (said: Trim) =>
      got(
        server.PATCH("/api/frames/{frame_id}", {
          params: { path: { frame_id: frame.id } },
          body: { trim: said },
        }),
      ),
    ["frames"],
    (_, said) => {
      kept.current = JSON.stringify(said);
    },
  );
  const kept = useRef(JSON.stringify(frame.trim));
  useEffect(() => {
    onTrim(trim);
    if (JSON.stringify(trim) === kept.current) return;
    const wait = setTimeout(() => keep(trim), PAUSE);
    return () => clearTimeout(wait);
  }, [trim, keep, onTrim]);
  const others = props.frames.filter((f) => f.id !== frame.id && !f.chart);
  const give = useWrite(
    async (to: Frame[]) => {
      for (const f of to)
        await got(
          server.PATCH("/api/frames/{frame_id}", { params: { path: { frame_id: f.id } }, body: { trim } }),
        );
    },
    ["frames"],
    (_, to) =>
      setCopied(to.length > 1 ? `Copied to ${to.length} frames.` : `Copied to ${to[0]?.name ?? "it"}.`),
  );
  return (
    <Column aria-label="Trim">
      <header>
        <h1>Trim: {frame.name}</h1>
        <span>before the look · belongs to this frame, not to the look</span>
      </header>
      <p>Bring the frame to a normal picture, so that the look is judged fairly.</p>
      <TrimFields trim={trim} onChange={setTrim} />
      <div className="acts">
        <MenuTrigger>
          <Button>Copy to ▾</Button>
          <Menued placement="bottom start">
            <Menu
              aria-label="Copy this trim to"

              onAction={(key) =>
                give.mutate(key === "all" ? others : others.filter((f) => String(f.id) === key))
              }
            >
              {[
                { id: "all", name: "All frames" },
                ...others.map((f) => ({ id: String(f.id), name: f.name })),
              ].map((o) => (
                <MenuItem key={o.id} id={o.id}>
                  {o.name}
                </MenuItem>
              ))}
            </Menu>
          </Menued>
        </MenuTrigger>
        <Button onPress={() => setTrim(NO_TRIM)}>No trim</Button>
        <Button look="main" onPress={() => view({ trimming: false })}>
          Done
        </Button>
      </div>
      {copied ? (
        <>
          <Gap />
          <p role="status">{copied}</p>
        </>
      ) : null}
      <Trouble error={unkept ?? give.error} />
    </Column>
  );
}
