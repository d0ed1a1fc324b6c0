/** The live table of the draft: asked for by the store when the draft changes, without waiting for React. */
import { useEffect, useState } from "react";
import { createFeed, type Feed } from "../viewer/live";
import { useBench } from "./store";
import { useView } from "./view";

/** ready: the look is open and its frames are known. */
export function useLiveFeed(id: number, frame: number | null, ready: boolean): Feed {
  const [feed] = useState(createFeed);
  const only = useView((v) => v.only);
  const preview = useView((v) => v.preview);
  useEffect(() => {
    if (!ready) return;
    // As it is now: what the control shows in place of the draft may have come since this was drawn.
    const look = useView.getState().preview?.look ?? useBench.getState().draft;
    feed.ask({ look, frame, traces: true, only });
    return useBench.subscribe((now, last) => {
      if (now.draft !== last.draft && now.id === id) feed.ask({ look: now.draft, frame, traces: true, only });
    });
  }, [ready, feed, id, frame, only, preview]);
  return feed;
}
