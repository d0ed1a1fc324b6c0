/** What the screens of bringing in frames ask for. */
import { queryOptions } from "@tanstack/react-query";
import { got, server } from "../api/client";

export const askedOfIntakes = {
  /** One's own intakes that are open. */
  all: queryOptions({ queryKey: ["intakes"], queryFn: () => got(server.GET("/api/intakes")) }),
  one: (id: number) =>
    queryOptions({
      queryKey: ["intake", id],
      queryFn: () => got(server.GET("/api/intakes/{intake_id}", { params: { path: { intake_id: id } } })),
    }),
};
