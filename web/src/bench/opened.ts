/** Opens a look on the bench, follows whoever holds its draft, and lets go of it. */
import { useEffect } from "react";
import { client } from "../api/queries";
import type { LookRecord } from "../api/types";
import { restore } from "./autosave";
import { openStates } from "./states";
import { useBench } from "./store";
import { resetView } from "./view";

/** Milliseconds after which whoever only looks on asks for the draft again. */
const FOLLOW = 4000;

/** step: one to begin with, chosen. away: somebody else holds the draft. */
export function useOpened(props: {
  look: LookRecord | undefined;
  step: string | null;
  away: boolean;
  refetch: () => Promise<unknown>;
}) {
  const { look, step, away, refetch } = props;
  useEffect(() => {
    if (!look || useBench.getState().id === look.id) return;
    resetView();
    openStates(look.id);
    useBench.getState().open(look, restore(look.id, look.draft_version));
    if (step) useBench.getState().choose(new Set([step]));
  }, [look, step]);
  // Whoever only looks on sees what the other one does.
  useEffect(() => {
    if (!away) return;
    const timer = setInterval(() => void refetch(), FOLLOW);
    return () => clearInterval(timer);
  }, [away, refetch]);
  useEffect(() => {
    const now = useBench.getState();
    const older = look && now.id === look.id && now.saving === "kept" && now.version < look.draft_version;
    if (away && older) now.open(look);
  }, [away, look]);
  useEffect(
    () => () => {
      useBench.setState({ id: 0 });
      resetView();
      void client.invalidateQueries({ queryKey: ["look"] });
    },
    [],
  );
  useEffect(() => {
    document.title = look ? `${look.name} · Saucer` : "Saucer";
  }, [look]);
}
