/**
 * The frame that looks are shown on, wherever they are listed: the same one until somebody chooses another.
 */
import { useState } from "react";
import { useFrames } from "../api/queries";
import type { Frame } from "../api/types";

const KEPT = "saucer-frame";

/** `asked`: the one that an address names. */
export function useShownFrame(asked: string | null = null): {
  all: Frame[];
  frame: Frame | null;
  show: (id: number) => void;
} {
  const { data: all = [] } = useFrames();
  const [kept, setKept] = useState(() => Number(localStorage.getItem(KEPT)));
  const id = asked === null ? kept : Number(asked);
  const show = (chosen: number) => {
    localStorage.setItem(KEPT, String(chosen));
    setKept(chosen);
  };
  return { all, frame: all.find((f) => f.id === id) ?? all[0] ?? null, show };
}
