/** Files that are brought into a project at once, one after the other. */
import { useState } from "react";
import { formOf, got, server, words } from "../api/client";
import type { EncodingKey } from "../api/types";
import { useWrite } from "../api/writes";
import { isClip, isNumbered, isSequence, packed } from "../kit/sequence";

interface Sent {
  name: string;
  state: string;
}

/** A file, and the folder that it lies in. */
export interface Brought {
  file: File;
  folder: string;
}

/** A file or folder that was dropped. */
export interface Dropped {
  kind: string;
  name?: string;
  getFile?: () => Promise<File>;
  getEntries?: () => AsyncIterable<unknown>;
}

/** The files of what was dropped, with the folder that each lies in. */
export async function filesOf(items: readonly Dropped[]): Promise<Brought[]> {
  const found: Brought[] = [];
  for (const item of items) {
    if (item.kind === "file" && item.getFile) found.push({ file: await item.getFile(), folder: "" });
    if (item.kind !== "directory" || !item.getEntries) continue;
    for await (const inside of item.getEntries() as AsyncIterable<Dropped>)
      if (inside.kind === "file" && inside.getFile)
        found.push({ file: await inside.getFile(), folder: item.name ?? "" });
  }
  return found;
}

/** The same files, where the numbered pictures of each folder are packed into one sequence. */
export async function inSequences(files: readonly Brought[]): Promise<Brought[]> {
  const out: Brought[] = [];
  const folders = new Map<string, File[]>();
  for (const brought of files) {
    const { file, folder } = brought;
    if (folder && isNumbered(file.name)) folders.set(folder, [...(folders.get(folder) ?? []), file]);
    else out.push(brought);
  }
  for (const [folder, inside] of folders)
    if (inside.length > 1) out.push({ file: await packed(folder, inside), folder: "" });
    else out.push(...inside.map((file) => ({ file, folder })));
  return out;
}

/** Sends files one after the other. encoding: of all of them; undefined where nobody says. rate: frames a
    second of sequences. */
export function useBringing(project: number, encoding: EncodingKey | undefined, rate: string) {
  const [sent, setSent] = useState<Sent[]>([]);
  const mark = (name: string, state: string) =>
    setSent((all) => [...all.filter((s) => s.name !== name), { name, state }]);
  const bring = useWrite(
    async (files: Brought[]) => {
      for (const { file, folder } of files) {
        mark(file.name, "on its way");
        const body = formOf(file, { folder, encoding, ...(isSequence(file.name) ? { rate } : {}) });
        const at = { params: { path: { project_id: project } }, body };
        try {
          if (isClip(file.name)) await got(server.POST("/api/projects/{project_id}/clips", at));
          else await got(server.POST("/api/projects/{project_id}/stills", at));
          mark(file.name, isClip(file.name) ? "a clip: look at its cuts below" : "a shot now");
        } catch (error) {
          mark(file.name, words(error));
        }
      }
    },
    ["project", "projects", "clips"],
  );
  return { sent, bring };
}
