/** A frame under a look, small: computed by the server as the picture itself is. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { BLOB, got, server } from "../api/client";
import type { Frame, Look } from "../api/types";

/** `mark` names the look for as long as it is the same. */
export function Thumb({
  frame,
  look,
  mark,
  width,
}: {
  frame: Frame;
  look: Look;
  mark: string;
  width: number;
}) {
  const { data } = useQuery({
    queryKey: ["thumb", frame.id, frame.version, mark, width],
    queryFn: () =>
      got(
        server.POST("/api/picture", {
          params: { query: { width } },
          body: { look, frame: frame.id, traces: false },
          ...BLOB,
        }),
      ),
    staleTime: Infinity,
    gcTime: 60_000,
  });
  const [src, setSrc] = useState("");
  useEffect(() => {
    if (!data) return;
    const made = URL.createObjectURL(data);
    setSrc(made);
    return () => URL.revokeObjectURL(made);
  }, [data]);
  return src ? <img src={src} alt="" /> : <i />;
}
