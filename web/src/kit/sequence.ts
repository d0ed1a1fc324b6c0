/** Numbered pictures, packed into one file as the server takes a sequence. */
import { declared } from "../api/declared";

const NUMBERED = /\d\.\w+$/;

/** Whether a file is a clip by its name, or a ZIP with a sequence of pictures. */
export const isClip = (name: string) => declared.clips.some((s) => name.toLowerCase().endsWith(s));
/** Whether a file is a ZIP with a sequence of pictures. */
export const isSequence = (name: string) => declared.sequences.some((s) => name.toLowerCase().endsWith(s));
/** Whether a file is a picture whose name ends in a number. */
export const isNumbered = (name: string) =>
  NUMBERED.test(name) && declared.pictures.some((s) => name.toLowerCase().endsWith(s));

/** The numbered pictures of a folder as one ZIP, not compressed. name: of the folder. */
export async function packed(name: string, files: readonly File[]): Promise<File> {
  const { downloadZip } = await import("client-zip");
  const pictures = files.filter((f) => isNumbered(f.name));
  if (!pictures.length)
    throw new Error(`${name} holds no numbered pictures, like kiln_0001.png. Choose the folder they lie in.`);
  return new File([await downloadZip(pictures).blob()], `${name}${declared.sequences[0] ?? ""}`);
}
