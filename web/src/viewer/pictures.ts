/** Frames as places in a look's table, fetched once for each size and input. */
import { queryOptions, useQueries, useQuery } from "@tanstack/react-query";
import { BYTES, got, server } from "../api/client";
import type { EncodingKey, Frame, Trim } from "../api/types";
import { parseLive, parsePicture } from "./table";

export const pictureKey = (frame: Frame, input: EncodingKey, width: number, trimmed: boolean) =>
  `${frame.id}-${frame.version}-${input}-${width}-${trimmed}`;

const query = (frame: Frame, input: EncodingKey, width: number, trimmed: boolean) => {
  const key = pictureKey(frame, input, width, trimmed);
  return queryOptions({
    queryKey: ["picture", key],
    queryFn: async () =>
      parsePicture(
        key,
        await got(
          server.GET("/api/frames/{frame_id}/places", {
            params: { path: { frame_id: frame.id }, query: { input, width, trimmed, v: frame.version } },
            ...BYTES,
          }),
        ),
      ),
    enabled: width > 0,
    staleTime: Infinity,
    gcTime: 60_000,
  });
};

export const usePictures = (frames: Frame[], input: EncodingKey, width: number, trimmed = true) =>
  useQueries({
    queries: frames.map((f) => query(f, input, width, trimmed)),
    combine: (all) => all.flatMap((q) => q.data ?? []),
  });

/** The table that shows the frames of a clip with a trim and without a look; it takes them as they come in. */
export const useTrimmed = (frame: Frame | null, trim: Trim | null) =>
  useQuery({
    queryKey: ["unlooked", "trimmed", frame?.id, frame?.encoding, trim],
    queryFn: async () => {
      const { id, encoding } = frame!;
      const look = { input: encoding, output: encoding, steps: [] };
      const body = { look, frame: id, trim: trim!, traces: false };
      return parseLive(await got(server.POST("/api/live", { body, ...BYTES })));
    },
    enabled: frame !== null && trim !== null,
    placeholderData: (last) => last,
    gcTime: 60_000,
  });

/** The table that shows a picture without a look. */
export const useUnlooked = (input: EncodingKey) =>
  useQuery({
    queryKey: ["unlooked", input],
    queryFn: async () =>
      parseLive(await got(server.GET("/api/unlooked", { params: { query: { input } }, ...BYTES }))),
    staleTime: Infinity,
  });
