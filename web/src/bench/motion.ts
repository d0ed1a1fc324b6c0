/** The clip on the bench, for keys and for what stands beside the picture. */
import { create } from "zustand";
import type { Player } from "../player/player";

export const useMotion = create<{ player: Player | null }>()(() => ({ player: null }));

/** Does something with the clip, where one plays. */
export const onPlayer = (does: (player: Player) => void) => {
  const { player } = useMotion.getState();
  if (player) does(player);
};
