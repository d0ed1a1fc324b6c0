/**
 * Checks: what the core finds, as one quiet line that opens to what, how much, where, and one button that
 * mends it.
 */
import { useMutation } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import { got, server } from "../api/client";
import { atRest } from "../api/rest";
import type { Check, Frame, Look } from "../api/types";
import { Button } from "../kit/button";
import { Trouble } from "../kit/trouble";
import { useBench } from "./store";
import { useView, view } from "./view";

const REST = 700;
/** As many frames as the core looks at in one go. */
const MOST = 12;

const Line = styled.section`
  flex: none;
  border-top: 1px solid var(--line);
  margin: 0 -16px;
  padding: 4px 16px 0;
  position: relative;
  font-size: 12.5px;
  > div {
    display: flex;
    gap: 10px;
    align-items: center;
    min-height: 26px;
  }
  > div > button:last-child:not(:first-child) {
    height: 22px;
    padding: 0 10px;
    font-size: 12px;
  }
  .line {
    background: none;
    border: 0;
    padding: 2px 0;
    cursor: pointer;
    color: var(--t2);
    display: flex;
    gap: 8px;
    align-items: center;
    flex: 1;
    min-width: 0;
    text-align: left;
  }
  .line i {
    width: 8px;
    height: 8px;
    border-radius: 50%;
    flex: none;
    background: var(--accent);
  }
  .line [role="status"] {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .line .more {
    margin-left: auto;
  }
  .more,
  .note {
    color: var(--t2);
  }
  .line.some i {
    background: var(--warn);
  }
  .line.some {
    color: var(--t1);
  }
  ul {
    position: absolute;
    left: 16px;
    right: 16px;
    bottom: 28px;
    list-style: none;
    padding: 6px 0;
    background: var(--g2);
    border: 1px solid var(--g4);
    border-radius: var(--r);
    box-shadow: 0 10px 30px var(--shade);
    z-index: 3;
    max-height: 46vh;
    overflow: auto;
  }
  li {
    display: flex;
    gap: 12px;
    align-items: center;
    padding: 6px 12px;
  }
  li + li {
    border-top: 1px solid var(--g3);
  }
  li p {
    flex: 1;
  }
  li button {
    flex: none;
    height: 26px;
  }
`;

export function Checks(props: {
  draft: Look;
  frames: Frame[];
  readOnly: boolean;
  onFrame: (id: number) => void;
}) {
  const { draft } = props;
  const [found, setFound] = useState<Check[] | null>(null);
  const [open, setOpen] = useState(false);
  const only = useView((s) => s.only);
  const ids = props.frames
    .filter((f) => !f.chart)
    .slice(0, MOST)
    .map((f) => f.id)
    .join(",");
  useEffect(() => {
    if (!ids) return;
    return atRest(REST, async (signal) => {
      const checks = await got(
        server.POST("/api/checks", { body: { look: draft, frames: ids.split(",").map(Number) } }),
      );
      if (!signal.aborted) setFound(checks);
    });
  }, [draft, ids]);
  const mend = useMutation({
    networkMode: "always",
    mutationFn: async (check: Check) => {
      const now = useBench.getState().draft;
      const next = await got(
        server.POST("/api/mend", {
          body: { look: now, kind: check.kind, step: check.step, frames: ids.split(",").map(Number) },
        }),
      );
      if (useBench.getState().draft !== now)
        throw new Error("The draft changed while this was worked out. Press once more.");
      useBench.getState().change(check.action, () => next);
    },
  });
  const where = (check: Check) => {
    if (check.frame) props.onFrame(check.frame);
    view({ mask: (check.mask || "") as never, show: "look", only: null });
  };
  const grave = (found ?? []).filter((c) => !c.note);
  const first = grave[0];
  const words =
    found === null
      ? "Checking …"
      : first
        ? `${grave.length} ${grave.length === 1 ? "thing" : "things"} to look at: ${first.text}`
        : "Checks: nothing to look at";
  return (
    <Line aria-label="Checks">
      {open && found?.length ? (
        <ul>
          {found.map((c) => (
            <li key={`${c.kind}${c.step}`}>
              <p className={c.note ? "note" : undefined}>{c.text}</p>
              {c.step && !only ? (
                <Button look="quiet" onPress={() => useBench.getState().choose(new Set([c.step]))}>
                  Its step
                </Button>
              ) : null}
              {c.mask || c.frame ? (
                <Button look="quiet" onPress={() => where(c)}>
                  Show where
                </Button>
              ) : null}
              {c.action && !props.readOnly ? (
                <Button onPress={() => mend.mutate(c)}>{c.action}</Button>
              ) : null}
            </li>
          ))}
        </ul>
      ) : null}
      <div>
        <AriaButton
          className={first ? "line some" : "line"}
          aria-expanded={open}
          isDisabled={!found?.length}
          onPress={() => setOpen(!open)}
        >
          <i />
          <span role="status">{words}</span>
          {found?.length ? <span className="more">{open ? "close" : "open"}</span> : null}
        </AriaButton>
        {first?.action && !open && !props.readOnly ? (
          <Button onPress={() => mend.mutate(first)}>{first.action}</Button>
        ) : null}
      </div>
      <Trouble error={mend.error} />
    </Line>
  );
}
