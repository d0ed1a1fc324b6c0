/** Who is at the draft: said every few seconds, so that two people never change it unknowingly. */
import { useCallback, useEffect, useState } from "react";
import { got, server } from "../api/client";
import type { Seats } from "../api/types";

const EVERY = 8000;

export function useSeats(id: number, enabled: boolean): { seats: Seats | null; take: () => Promise<void> } {
  const [seats, setSeats] = useState<Seats | null>(null);
  const sit = useCallback(
    async (take: boolean) => {
      try {
        setSeats(await got(server.PUT("/api/looks/{look_id}/sitting", { params: { path: { look_id: id } }, body: { take } })));
      } catch {
        // Offline: keep showing who was there last.
      }
    },
    [id],
  );
  useEffect(() => {
    if (!enabled) return;
    void sit(false);
    const timer = setInterval(() => void sit(false), EVERY);
    const seen = () => document.visibilityState === "visible" && void sit(false);
    document.addEventListener("visibilitychange", seen);
    const leave = () => void got(server.POST("/api/looks/{look_id}/leave", { params: { path: { look_id: id } } })).catch(() => undefined);
    window.addEventListener("pagehide", leave);
    return () => {
      clearInterval(timer);
      document.removeEventListener("visibilitychange", seen);
      window.removeEventListener("pagehide", leave);
      leave();
      setSeats(null);
    };
  }, [enabled, id, sit]);
  return { seats, take: () => sit(true) };
}
