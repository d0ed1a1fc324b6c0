/** A picture, a clip or a numbered sequence that comes among the frames. */
import { useState } from "react";
import { declared } from "../api/declared";
import { formOf, got, server } from "../api/client";
import type { EncodingKey } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { bytes } from "../kit/bytes";
import { EncodingOrFile } from "../kit/encodingchoice";
import { FileDrop } from "../kit/filedrop";
import { Pair, Quiet } from "../kit/layout";
import { RateChoice } from "../kit/ratechoice";
import { isClip, isSequence, packed } from "../kit/sequence";
import { Sheet } from "../kit/sheet";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";

const SAID =
  "or drop it here: PNG, JPEG, TIFF, EXR, DPX; a clip (MOV, MP4, MKV, MXF …); a folder or ZIP of numbered pictures";

/** Sends a picture or a clip. */
function useAdding(onDone: () => void) {
  const add = useWrite((body: FormData) => got(server.POST("/api/frames", { body })), ["frames"], onDone);
  const addClip = useWrite(
    (body: FormData) => got(server.POST("/api/clips", { body })),
    ["frames", "clips"],
    onDone,
  );
  return {
    send: (file: File, about: Record<string, string>) =>
      (isClip(file.name) ? addClip : add).mutate(formOf(file, about)),
    reset: () => [add, addClip].forEach((write) => write.reset()),
    busy: add.isPending || addClip.isPending,
    error: add.error ?? addClip.error,
  };
}

/** The file that was chosen; a folder is packed into one first. */
function useChosen(onChosen: (file: File) => void) {
  const [file, setFile] = useState<File | null>(null);
  const [packing, setPacking] = useState(0);
  const [error, setError] = useState<unknown>(null);
  const take = (found: File) => {
    setError(null);
    setFile(found);
    onChosen(found);
  };
  const takeFolder = async (name: string, files: readonly File[]) => {
    setPacking(files.length);
    try {
      take(await packed(name, files));
    } catch (trouble) {
      setError(trouble);
    } finally {
      setPacking(0);
    }
  };
  return { file, packing, error, take, takeFolder };
}

export function AddFrame({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState("");
  const [light, setLight] = useState("");
  const [encoding, setEncoding] = useState<EncodingKey | null>(null);
  const [rate, setRate] = useState(declared.usual_rate);
  const adding = useAdding(onClose);
  const { file, packing, error, take, takeFolder } = useChosen((found) => {
    adding.reset();
    // What was typed meanwhile stays.
    setName((typed) => typed || found.name.replace(/\.[^.]+$/, "").replaceAll("_", " "));
  });
  const moves = file !== null && isClip(file.name);
  const numbered = file !== null && isSequence(file.name);
  const send = () =>
    file &&
    adding.send(file, { name, light, ...(encoding ? { encoding } : {}), ...(numbered ? { rate } : {}) });
  const said = packing ? `Packing ${packing} files …` : file ? `${file.name}, ${bytes(file.size)}` : SAID;
  return (
    <Sheet title="Add frame" width={560} onClose={onClose}>
      <FileDrop
        button="Choose a file"
        said={said}
        suffixes={[...declared.pictures, ...declared.clips]}
        onFile={take}
        onFolder={(folder, files) =>
          void takeFolder(
            folder,
            files.map((f) => f.file),
          )
        }
      />
      <Text label="Name" value={name} onChange={setName} maxLength={120} />
      <Pair>
        <EncodingOrFile label="Encoded as" chosen={encoding} onChange={setEncoding} />
        <Text label="Light" hint="noon, dusk, fire …" value={light} onChange={setLight} maxLength={40} />
      </Pair>
      {numbered ? <RateChoice chosen={rate} onChange={setRate} /> : null}
      {moves ? (
        <Quiet>
          {numbered ? "The pictures are read into a clip, which" : "A clip"} is looked through first; then it
          stands among the frames, and plays once it has a proxy.
        </Quiet>
      ) : null}
      <Trouble error={error ?? adding.error} />
      <footer>
        <Button onPress={onClose}>Cancel</Button>
        <Button look="main" isDisabled={!file || adding.busy || packing > 0} onPress={send}>
          {adding.busy ? "Reading …" : moves ? "Add clip" : "Add frame"}
        </Button>
      </footer>
    </Sheet>
  );
}
