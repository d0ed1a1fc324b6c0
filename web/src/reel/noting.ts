/** Notes of a project as they are chosen, placed and written on the reel. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Project, ReelNote } from "../api/types";
import { askedOfReel } from "./asked";
import type { Fresh } from "./notes";
import type { Reel } from "./reeling";
import type { Take } from "./takes";

/** Notes of the project: the chosen one, and one that is being placed and written. */
export function useNoting(data: Project, takes: readonly Take[], reel: Reel) {
  const [picking, setPicking] = useState(false);
  const [fresh, setFresh] = useState<Fresh | null>(null);
  const [chosen, setChosen] = useState<number | null>(null);
  const { data: notes = [] } = useQuery(askedOfReel.notes(data.id));
  return {
    ...{ notes, picking, fresh, chosen },
    begin: () => {
      reel.pause();
      setFresh(null);
      setPicking(true);
    },
    end: () => {
      setPicking(false);
      setFresh(null);
    },
    place: (spot: Fresh["spot"]) => {
      const { index, number } = reel.state.getState();
      setPicking(false);
      setFresh({ take: takes[index]!, number, spot });
    },
    choose: (note: ReelNote) => {
      reel.pause();
      setChosen(note.id);
      const to = takes.findIndex((t) => t.shot.id === note.shot);
      if (to >= 0) reel.go(to, note.first);
    },
  };
}
