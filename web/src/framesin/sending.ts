/**
 * Sending gathered files into an intake, a few at a time; they are read as they come. It goes on while other
 * screens are shown. A file that is there already is passed over, so that a folder can be sent again.
 */
import { createStore, useStore } from "zustand";
import { got, server } from "../api/client";
import { client } from "../api/queries";
import { batches, type Gathered } from "../kit/gather";

/** Files of one request, and of one intake, as the server takes them. */
const FILES = 20;
const MOST = 5000;

interface Sending {
  /** The intake that files are sent into, and how many of how many were sent; `null` where none are. */
  sent: { intake: number; done: number; of: number } | null;
  error: unknown;
  stopped: boolean;
}

const sending = createStore<Sending>(() => ({ sent: null, error: null, stopped: false }));

export const useSending = () => useStore(sending);

export const stopSending = () => sending.setState({ stopped: true });

async function sendAll(gathered: Gathered[], intake: number): Promise<void> {
  let done = 0;
  const inOrder = [...gathered].sort((a, b) => a.path.localeCompare(b.path, "en", { numeric: true }));
  for (const batch of batches(inOrder, FILES)) {
    if (sending.getState().stopped) return;
    sending.setState({ sent: { intake, done, of: gathered.length } });
    const body = new FormData();
    for (const { file } of batch) body.append("files", file);
    body.append("paths", JSON.stringify(batch.map((g) => g.path)));
    await server.POST("/api/intakes/{intake_id}/files", { params: { path: { intake_id: intake } }, body });
    done += batch.length;
    void client.invalidateQueries({ queryKey: ["intake", intake] });
  }
}

const begin = (project?: number) =>
  project === undefined
    ? got(server.POST("/api/intakes"))
    : got(server.POST("/api/projects/{project_id}/intakes", { params: { path: { project_id: project } } }));

/** Sends files into an intake, or into a new one, which `begun` is told of. project: whose shots they become. */
export async function send(
  gathered: Gathered[],
  intake: number | null,
  begun: (id: number) => void,
  project?: number,
) {
  if (!gathered.length) return;
  sending.setState({ error: null, stopped: false });
  try {
    if (gathered.length > MOST)
      throw new Error(
        `More than ${MOST.toLocaleString("en")} files at once. Bring the folders in one after the other.`,
      );
    const id = intake ?? (await begin(project)).id;
    sending.setState({ sent: { intake: id, done: 0, of: gathered.length } });
    if (intake === null) begun(id);
    await sendAll(gathered, id);
  } catch (error) {
    sending.setState({ error });
  } finally {
    sending.setState({ sent: null });
    void client.invalidateQueries({ queryKey: ["intakes"] });
    void client.invalidateQueries({ queryKey: ["intake"] });
  }
}
