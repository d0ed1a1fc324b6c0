/** The picture as the server draws it, for browsers without WebGL 2. */
import { useEffect, useState } from "react";
import { BLOB, got, server } from "../api/client";
import { atRest } from "../api/rest";
import type { Frame } from "../api/types";
import type { Wish } from "./live";

export function StillPicture(props: { wish: Wish | null; frame: Frame | null; width: number }) {
  const { wish, frame, width } = props;
  const [src, setSrc] = useState("");
  useEffect(() => {
    if (!frame || !width) return;
    if (!wish) {
      setSrc(`/api/frames/${frame.id}/still?width=${width}&v=${frame.version}`);
      return;
    }
    return atRest(120, async (signal) =>
      setSrc(
        URL.createObjectURL(
          await got(
            server.POST("/api/picture", { params: { query: { width } }, body: wish, signal, ...BLOB }),
          ),
        ),
      ),
    );
  }, [wish, frame, width]);
  useEffect(() => () => URL.revokeObjectURL(src), [src]);
  return src ? <img src={src} alt={frame?.name ?? ""} /> : null;
}
