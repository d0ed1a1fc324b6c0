/** What is seen of the reel: one side, or two of them held against each other, with a line between or beside. */
import { useState } from "react";
import { Choice } from "../kit/choice";
import { Segments } from "../kit/segments";
import type { Seen, Side } from "./shown";

type Held = Exclude<Side, "then">;
const NOTHING = "nothing";

/** The choice, the original as long as its key is held, and what a note was about as long as that is asked for. */
export function useSeen() {
  const [side, setSide] = useState<Held>("look");
  const [against, setAgainst] = useState<Held | null>(null);
  const [beside, setBeside] = useState(false);
  const [held, setHeld] = useState(false);
  const [then, setThen] = useState<number | null>(null);
  const chosen: Seen = { side, against: against === side ? null : against, beside };
  const seen: Seen = held
    ? { side: "original", against: null, beside: false }
    : then !== null
      ? { side: "look", against: "then", beside }
      : chosen;
  return {
    seen,
    chosen,
    choose: (said: Partial<{ side: Held; against: Held | null; beside: boolean }>) => {
      setThen(null);
      if (said.side !== undefined) setSide(said.side);
      if (said.against !== undefined) setAgainst(said.against);
      if (said.beside !== undefined) setBeside(said.beside);
    },
    setHeld,
    then,
    setThen,
  };
}

/** newer: on how many shots newer revisions stand ready. */
export function Seeing({ view, newer }: { view: ReturnType<typeof useSeen>; newer: number }) {
  const { chosen, choose } = view;
  const sides: (readonly [Held, string])[] = [
    ["original", "Original"],
    ["look", "Looks"],
    ...(newer ? ([["newer", `Newer revisions ${newer}`]] as const) : []),
  ];
  const side = chosen.side === "then" ? "look" : chosen.side;
  return (
    <>
      <Segments label="Show" chosen={side} onChange={(to) => choose({ side: to })} options={sides} />
      <Choice
        look="bare"
        hidden
        label="Held against"
        chosen={chosen.against ?? NOTHING}
        onChange={(key) => choose({ against: sides.find(([s]) => s === key)?.[0] ?? null })}
        options={[
          { key: NOTHING, label: "against nothing" },
          ...sides
            .filter(([s]) => s !== side)
            .map(([key]) => ({
              key,
              label: `against ${key === "newer" ? "newer revisions" : key === "look" ? "the looks" : "the original"}`,
            })),
        ]}
      />
      {view.seen.against ? (
        <Segments
          label="How two are held"
          chosen={view.seen.beside ? "beside" : "split"}
          onChange={(how) => choose({ beside: how === "beside" })}
          options={
            [
              ["split", "Split"],
              ["beside", "Beside"],
            ] as const
          }
        />
      ) : null}
    </>
  );
}
