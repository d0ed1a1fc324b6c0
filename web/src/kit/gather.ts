/** Files with their places in the folders they were dropped or chosen with. */
import { isDirectoryDropItem, isFileDropItem, type DropItem } from "react-aria-components";

export interface Gathered {
  file: File;
  path: string;
}

/** The most files that are taken at once, as the server takes them. */
export const MOST = 10_000;

async function* walked(item: DropItem, folder: string): AsyncGenerator<Gathered> {
  if (isDirectoryDropItem(item)) {
    for await (const inner of item.getEntries()) yield* walked(inner, `${folder}${item.name}/`);
  } else if (isFileDropItem(item)) {
    const file = await item.getFile();
    yield { file, path: folder + file.name };
  }
}

/** Everything that was dropped, folders walked to their ends. Stops one beyond the most that is taken. */
export async function dropped(items: Iterable<DropItem>): Promise<Gathered[]> {
  const found: Gathered[] = [];
  for (const item of items) {
    for await (const one of walked(item, "")) {
      found.push(one);
      if (found.length > MOST) return found;
    }
  }
  return found;
}

/** Everything that was chosen in the browser's own dialog: a folder's files know their places in it. */
export const chosen = (files: Iterable<File> | null): Gathered[] =>
  [...(files ?? [])].map((file) => ({ file, path: file.webkitRelativePath || file.name }));

/** What to call them together: the one file, the one folder, or how many there are. */
export function called(gathered: Gathered[]): string {
  const [first] = gathered;
  if (!first) return "";
  if (gathered.length === 1) return first.file.name;
  const folders = new Set(gathered.map((g) => (g.path.includes("/") ? (g.path.split("/")[0] ?? "") : "")));
  const [only] = folders;
  return folders.size === 1 && only ? only : `${gathered.length} files`;
}

/** Bytes of one request. */
const BYTES = 64 * 2 ** 20;

/** The gathered files in requests that are small enough. files: of one request at most. */
export function batches(gathered: readonly Gathered[], files: number): Gathered[][] {
  const out: Gathered[][] = [];
  let bytes = 0;
  for (const one of gathered) {
    const last = out.at(-1);
    if (last && last.length < files && bytes + one.file.size <= BYTES) last.push(one);
    else {
      out.push([one]);
      bytes = 0;
    }
    bytes += one.file.size;
  }
  return out;
}
