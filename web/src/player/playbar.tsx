/** What a clip is played by under a picture, on the pages beside the bench; nothing for a still. */
import type { Player } from "./player";
import { Rate } from "./rate";
import { Scrubber, Transport } from "./transport";

export const PlayBar = ({ player }: { player: Player | null }) =>
  player ? (
    <div>
      <Transport player={player} said={<Rate player={player} />} />
      <Scrubber player={player} />
    </div>
  ) : null;
