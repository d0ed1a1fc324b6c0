/** How well a clip plays, in a few words. */
import type { Player } from "./player";
import { usePlaying } from "./use";

export function Rate({ player }: { player: Player }) {
  const state = usePlaying(player, (s) => s)!;
  const { index } = player;
  const [over, under] = index.rate.split("/").map(Number);
  const wanted = Math.round((over! / (under || 1)) * state.speed);
  const bits = state.how === "codes" ? `${index.depth} bit` : "8 bit, as the browser reads it";
  const lost = state.broken.find(([first, end]) => first <= state.wanted && state.wanted < end);
  if (lost)
    return (
      <span role="alert">
        Frames {lost[0]} to {lost[1] - 1} are damaged
      </span>
    );
  if (state.how === "stills") return <span role="status">Frames as stills: {state.why}</span>;
  return (
    <span role="status" title={state.why || undefined}>
      {state.playing
        ? `${bits}, ${Math.min(state.rate, wanted)} of ${wanted} frames a second${state.dropped ? `, ${state.dropped} left out` : ""}`
        : bits}
    </span>
  );
}
