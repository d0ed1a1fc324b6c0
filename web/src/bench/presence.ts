/** Who is at the draft: said every few seconds, so that two people never change it unknowingly. */
import { useCallback, useEffect, useState } from "react";
import { got, server } from "../api/client";
import type { DraftPresence } from "../api/types";

const EVERY = 8000;

export function usePresence(
  id: number,
  enabled: boolean,
): { presence: DraftPresence | null; take: () => Promise<void> } {
  const [presence, setPresence] = useState<DraftPresence | null>(null);
  const announce = useCallback(
    async (take: boolean) => {
      try {
        setPresence(
          await got(
            server.PUT("/api/looks/{look_id}/presence", {
              params: { path: { look_id: id } },
              body: { take },
            }),
          ),
        );
      } catch {
        // Offline: keep showing who was there last.
      }
    },
    [id],
  );
  useEffect(() => {
    if (!enabled) return;
    void announce(false);
    const timer = setInterval(() => void announce(false), EVERY);
    const seen = () => document.visibilityState === "visible" && void announce(false);
    document.addEventListener("visibilitychange", seen);
    const leave = () =>
      void got(server.POST("/api/looks/{look_id}/leave", { params: { path: { look_id: id } } })).catch(
        () => undefined,
      );
    window.addEventListener("pagehide", leave);
    return () => {
      clearInterval(timer);
      document.removeEventListener("visibilitychange", seen);
      window.removeEventListener("pagehide", leave);
      leave();
      setPresence(null);
    };
  }, [enabled, id, announce]);
  return { presence, take: () => announce(true) };
}
