/** What pointing at the picture does: it reads a spot, marks one, or gives one to whoever picks. */
import { useCallback, useRef } from "react";
import { got, server } from "../api/client";
import type { Place } from "../api/types";
import type { Wish } from "../viewer/live";
import { usePointed } from "./pointed";
import { SPOTS, useView, view } from "./view";

/** Milliseconds between two spots that are read while the pointer moves. */
const PAUSE = 60;
/** A press this near to a spot, as a share of the picture's width, takes it away. */
const NEAR = 0.012;

/** Marks a spot, or takes the one there away. */
function mark(at: Place) {
  const { spots, zoom } = useView.getState();
  const near = spots.findIndex((s) => Math.hypot(s.x - at.x, s.y - at.y) < NEAR / zoom.scale);
  view({ spots: near >= 0 ? spots.filter((_, k) => k !== near) : [...spots, at].slice(-SPOTS) });
}

export function usePointing(shown: Wish | null): (at: Place | null, pressed: boolean) => void {
  // One spot is asked for at a time; the newest place wins.
  const probing = useRef<{ busy: boolean; next: Place | null; inside: boolean }>({
    busy: false,
    next: null,
    inside: false,
  });
  const probe = useCallback(
    (spot: Place, step?: string) =>
      got(server.POST("/api/probe", { body: { ...shown, traces: false, spot, step } })),
    [shown],
  );
  return useCallback(
    (at, pressed) => {
      if (!shown) return;
      const { picking } = useView.getState();
      if (pressed && at) {
        if (!picking) mark(at);
        else
          void probe(at, picking.step)
            .then(picking.take, () => undefined)
            .finally(() => view({ picking: null }));
        return;
      }
      const now = probing.current;
      now.next = at;
      now.inside = !!at;
      if (!at) usePointed.setState({ found: null });
      if (now.busy || !at) return;
      const run = async () => {
        now.busy = true;
        while (now.next) {
          const place: Place = now.next;
          now.next = null;
          const found = await probe(place).catch(() => null);
          // The pointer may have left while the server was asked.
          if (found && now.inside) usePointed.setState({ found });
          await new Promise((done) => setTimeout(done, PAUSE));
        }
        now.busy = false;
      };
      void run();
    },
    [shown, probe],
  );
}
