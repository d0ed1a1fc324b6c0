/** Who sits at a draft, against a server that answers as told. */
import { act, renderHook, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { usePresence } from "../src/bench/presence";
import { server } from "./shown";

describe("who sits at a draft", () => {
  it("says so at once, takes over when asked, and says when it goes", async () => {
    let holder = "Tomas";
    const asked = server({
      "PUT /looks/4/presence": (body) => {
        if ((body as { take: boolean }).take) holder = "";
        return { body: { mine: !holder, holder, others: [] } };
      },
      "POST /looks/4/leave": {},
    });
    const { result, unmount } = renderHook(() => usePresence(4, true));
    await waitFor(() =>
      expect(result.current.presence).toEqual({ mine: false, holder: "Tomas", others: [] }),
    );
    await act(() => result.current.take());
    expect(result.current.presence?.mine).toBe(true);
    unmount();
    expect(asked.map((a) => a.what).at(-1)).toBe("POST /looks/4/leave");
  });

  it("keeps what it knew while the server is away, and asks nothing where nobody may be there", async () => {
    const asked = server({
      "PUT /looks/4/presence": () => ({ body: { mine: true, holder: "", others: ["Vera"] } }),
    });
    const { result } = renderHook(() => usePresence(4, true));
    await waitFor(() => expect(result.current.presence?.others).toEqual(["Vera"]));
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("no network")));
    await act(() => result.current.take());
    expect(result.current.presence?.others).toEqual(["Vera"]);
    const before = asked.length;
    renderHook(() => usePresence(5, false));
    expect(asked.length).toBe(before);
  });
});
