/** Which revisions a look's page shows, kept in its address. */
import { useSearchParams } from "react-router";
import type { Kept, Revision } from "../api/types";

export interface InAddress {
  search: URLSearchParams;
  /** Puts a value into the address, or takes it out. */
  put: (kind: string, value: string | null) => void;
  /** The revision that is shown, the newest one unless another is named. */
  revision: Revision | undefined;
  /** The one that it is held against. */
  against: Revision | null;
  /** The number of a kept revision, as it stands in the address. */
  numberOf: (id: number | null) => string | null;
}

export function useInAddress(kept: Kept[]): InAddress {
  const [search, setSearch] = useSearchParams();
  const put = (kind: string, value: string | null) =>
    setSearch(
      (last) => {
        const next = new URLSearchParams(last);
        if (value) next.set(kind, value);
        else next.delete(kind);
        return next;
      },
      { replace: true },
    );
  const byNumber = (kind: string) =>
    kept.find((k) => String(k.revision.number) === search.get(kind))?.revision;
  const revision = byNumber("r") ?? kept[0]?.revision;
  const against = byNumber("against") ?? null;
  const numberOf = (id: number | null) => {
    const found = kept.find((k) => k.revision.id === id);
    return found ? String(found.revision.number) : null;
  };
  return { search, put, revision, against, numberOf };
}
