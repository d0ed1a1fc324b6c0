/** LUT: a table of the catalogue, the encodings it expects and gives, and bringing a new one in. */
import { useState } from "react";
import { FileTrigger } from "react-aria-components";
import { declared } from "../../api/declared";
import { formOf, got, server } from "../../api/client";
import { useLuts } from "../../api/queries";
import type { BorrowedLut, StepOf } from "../../api/types";
import { useWrite } from "../../api/writes";
import { Button } from "../../kit/button";
import { EncodingChoice } from "../../kit/encodingchoice";
import { Text } from "../../kit/text";
import { Sheet } from "../../kit/sheet";
import { Trouble } from "../../kit/trouble";
import { replace } from "../steps";
import { useBench } from "../store";
import type { EditorProps, StepView } from "./kind";
import { useTablesToPick } from "./pickable";
import { Picker } from "./picker";
import { RampPlot } from "./plot";
import { Fields, Level, Pair, Said, Warned } from "../../kit/layout";

/** The step with that table in it, and what the table expects and gives. */
export const wearing = (step: StepOf<"lut">, lut: BorrowedLut): StepOf<"lut"> => ({
  ...step,
  table: lut.digest,
  name: lut.name,
  expects: lut.expects,
  gives: lut.gives,
});

function LutEditor({ step, trace, change }: EditorProps<"lut">) {
  const { data: luts = [] } = useLuts();
  const [bringing, setBringing] = useState(false);
  const chosen = luts.find((x) => x.digest === step.table);
  const items = useTablesToPick((lut) =>
    replace(useBench.getState().draft, step.id, (s) => wearing(s as StepOf<"lut">, lut)),
  );
  const use = (lut: BorrowedLut) => change("table", (s: StepOf<"lut">) => wearing(s, lut));
  const encodingChoice = (name: "expects" | "gives", title: string) => (
    <EncodingChoice
      label={title}
      chosen={step[name]}
      onChange={(key) => change(name, (s: StepOf<"lut">) => ({ ...s, [name]: key }))}
    />
  );
  return (
    <Fields>
      <RampPlot trace={trace} label="Grey ramp through the table" />
      <Picker
        label="Table"
        shown={chosen?.name ?? (step.name || "Choose a LUT")}
        onTake={(key) => use(luts.find((x) => x.digest === key)!)}
        items={items}
      />
      {step.table && !chosen ? (
        <Warned>
          “{step.name || "This LUT"}” is not in the catalogue any more. Choose another, switch the step off,
          or bring it in again.
        </Warned>
      ) : null}
      <Pair>
        {encodingChoice("expects", "Expects")}
        {encodingChoice("gives", "Gives")}
      </Pair>
      {chosen ? (
        <Said>
          From {chosen.origin}. Rights: {chosen.rights}.
        </Said>
      ) : null}
      <div>
        <Button onPress={() => setBringing(true)}>Bring in a LUT</Button>
      </div>
      {bringing ? <BringIn onClose={() => setBringing(false)} onDone={use} /> : null}
    </Fields>
  );
}

export function BringIn(props: { onClose: () => void; onDone: (lut: BorrowedLut) => void }) {
  const [file, setFile] = useState<File | null>(null);
  const [about, setAbout] = useState({
    name: "",
    rights: "",
    origin: "",
    expects: declared.usual,
    gives: declared.usual,
  });
  const bring = useWrite(
    (body: FormData) => got(server.POST("/api/luts", { body })),
    ["luts"],
    (lut) => {
      props.onDone(lut);
      props.onClose();
    },
  );
  const send = () => file && bring.mutate(formOf(file, about));
  return (
    <Sheet title="Bring in a LUT" width={440} onClose={props.onClose}>
      <Level>
        <FileTrigger acceptedFileTypes={[".cube"]} onSelect={(files) => setFile(files?.[0] ?? null)}>
          <Button>Choose a .cube file</Button>
        </FileTrigger>
        <span>{file?.name ?? "none chosen"}</span>
      </Level>
      <Text
        label="Name"
        hint="as in the file"
        value={about.name}
        onChange={(name) => setAbout({ ...about, name })}
      />
      <Pair>
        <EncodingChoice
          label="Expects"
          chosen={about.expects}
          onChange={(expects) => setAbout({ ...about, expects })}
        />
        <EncodingChoice
          label="Gives"
          chosen={about.gives}
          onChange={(gives) => setAbout({ ...about, gives })}
        />
      </Pair>
      <Text
        label="Where it comes from"
        value={about.origin}
        onChange={(origin) => setAbout({ ...about, origin })}
        required
      />
      <Text
        label="Rights: may it be passed on?"
        value={about.rights}
        onChange={(rights) => setAbout({ ...about, rights })}
        required
      />
      <Trouble error={bring.error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button
          look="main"
          isDisabled={!file || !about.rights || !about.origin || bring.isPending}
          onPress={send}
        >
          Bring in
        </Button>
      </footer>
    </Sheet>
  );
}

export const lut: StepView<"lut"> = { Editor: LutEditor, summary: (step) => step.name || "none chosen" };
