/**
 * Saves the draft by itself, keeps a copy in the browser until the server has it, and says when somebody was
 * faster.
 */
import { useEffect } from "react";
import { got, Problem, server } from "../api/client";
import type { Look } from "../api/types";
import { useBench } from "./store";

const PAUSE = 700;
const RETRY = 3000;
const SPARE = 100;
/** Milliseconds after which a server that did not answer counts as away. */
const LONGEST = 20_000;

/**
 * This page, until it is left: what comes too late from one page does not take the place of what another page
 * set aside.
 */
const TAB = crypto.randomUUID?.() ?? Math.random().toString(36).slice(2);

const spare = (id: number) => `saucer-draft-${id}`;

interface Spare {
  version: number;
  draft: Look;
}

/**
 * The draft that this browser kept because it could not be saved, if it still follows the server's version.
 */
export function restore(id: number, version: number): Look | undefined {
  try {
    const kept = JSON.parse(localStorage.getItem(spare(id)) ?? "null") as Spare | null;
    return kept?.version === version ? kept.draft : undefined;
  } catch {
    return undefined;
  }
}

let sending: Promise<void> | null = null;

/** Saves run one at a time: a second one would name the version that the first has just replaced. */
function save(): Promise<void> {
  sending ??= send().finally(() => {
    sending = null;
  });
  return sending;
}

async function send(): Promise<void> {
  const { id, draft, version } = useBench.getState();
  useBench.setState({ saving: "saving" });
  try {
    const answer = await got(
      server.PUT("/api/looks/{look_id}/draft", {
        params: { path: { look_id: id } },
        body: { version, draft, tab: TAB },
        signal: AbortSignal.timeout(LONGEST),
      }),
    );
    if (useBench.getState().id !== id) return;
    localStorage.removeItem(spare(id));
    const moved = useBench.getState().draft !== draft;
    useBench.setState({
      version: answer.version,
      saved: draft,
      savedAt: Date.now(),
      saving: moved ? "waiting" : "kept",
      trouble: "",
    });
  } catch (error) {
    if (useBench.getState().id !== id) return;
    const problem = error instanceof Problem ? error : new Problem(0, String(error));
    if (problem.status === 409) {
      localStorage.removeItem(spare(id));
      const d = problem.detail as { version: number; draft: Look; set_aside: number };
      useBench.setState({
        saving: "late",
        late: { message: problem.message, version: d.version, draft: d.draft, aside: d.set_aside },
      });
    } else {
      const away = problem.status === 0 || problem.status >= 500;
      useBench.setState({ saving: away ? "away" : "refused", trouble: problem.message });
    }
  }
}

/** Keeps the draft in this browser as well, until the server has it. */
function keepSpare(): void {
  const { id, version, draft, saving } = useBench.getState();
  if (saving !== "waiting" && saving !== "away") return;
  try {
    localStorage.setItem(spare(id), JSON.stringify({ version, draft } satisfies Spare));
  } catch {
    // A full browser store only costs the spare copy; the server is asked all the same.
  }
}

/** Follows the draft outside React: a hand that moves must not draw the whole bench anew. */
export function follow(): () => void {
  let [toServer, toSpare] = [0, 0];
  let following = true;
  const start = () => {
    const { saving } = useBench.getState();
    clearTimeout(toServer);
    if (!following || (saving !== "waiting" && saving !== "away")) return;
    toSpare ||= window.setTimeout(() => {
      toSpare = 0;
      keepSpare();
    }, SPARE);
    toServer = window.setTimeout(() => void save().then(start), saving === "away" ? RETRY : PAUSE);
  };
  start();
  const stop = useBench.subscribe(
    (now, last) => (now.saving !== last.saving || now.draft !== last.draft) && start(),
  );
  window.addEventListener("pagehide", keepSpare);
  return () => {
    following = false;
    stop();
    window.removeEventListener("pagehide", keepSpare);
    clearTimeout(toServer);
    if (toSpare) {
      clearTimeout(toSpare);
      keepSpare();
    }
  };
}

export function useAutosave(enabled: boolean): void {
  useEffect(() => (enabled ? follow() : undefined), [enabled]);
}

/** Makes sure the server has the draft as it is now. */
export async function settle(): Promise<void> {
  for (let tries = 0; tries < 20; tries++) {
    const { saving, trouble } = useBench.getState();
    if (saving === "kept") return;
    if (saving === "late" || saving === "refused")
      throw new Problem(409, trouble || "Choose first which version of the draft goes on.");
    if (saving === "saving") await new Promise((done) => setTimeout(done, 100));
    else await save();
  }
  throw new Problem(0, "The draft cannot be saved just now. Try again when Saucer can be reached.");
}

/** Settles a late draft: mine goes on over theirs, or theirs replaces mine. Either way both had been kept. */
export async function decide(mine: boolean): Promise<void> {
  const { late, id, draft } = useBench.getState();
  if (!late) return;
  if (mine) {
    useBench.setState({ version: late.version, late: null, saving: "waiting", draft: { ...draft } });
    await save();
  } else {
    useBench.getState().change("Their version", () => late.draft);
    useBench.setState({ version: late.version, late: null, saved: late.draft, saving: "kept" });
  }
  await got(
    server.DELETE("/api/looks/{look_id}/set-aside/{aside_id}", {
      params: { path: { look_id: id, aside_id: late.aside } },
    }),
  );
}
