/** How well a clip plays, in a few words. */
import type { Player } from "./player";
import { usePlaying } from "./use";

export function Rate({ player }: { player: Player }) {
  const { index } = player;
  const [over, under] = index.rate.split("/").map(Number);
  const how = usePlaying(player, (s) => s.how)!;
  const why = usePlaying(player, (s) => s.why)!;
  const bits = how === "codes" ? `${index.depth} bit` : "8 bit, as the browser reads it";
  const gone = usePlaying(player, (s) => s.gone)!;
  const lost = usePlaying(player, (s) =>
    s.broken.find(([first, end]) => first <= s.wanted && s.wanted < end),
  );
  // As words, so that it is drawn anew only where they change.
  const words = usePlaying(player, (s) => {
    const wanted = Math.round((over! / (under || 1)) * s.speed);
    return s.playing
      ? `${Math.min(s.rate, wanted)} of ${wanted} frames a second${s.dropped ? `, ${s.dropped} left out` : ""}, ${bits}${s.small ? ", drawn smaller" : ""}`
      : bits;
  })!;
  if (gone)
    return (
      <span role="alert" title="It was removed, or you may not see it any more.">
        This clip is not here any more
      </span>
    );
  if (lost)
    return (
      <span role="alert">
        Frames {lost[0]} to {lost[1] - 1} are damaged
      </span>
    );
  if (how === "stills") return <span role="status">Frames as stills: {why}</span>;
  return (
    <span role="status" title={why || words}>
      {words}
    </span>
  );
}
