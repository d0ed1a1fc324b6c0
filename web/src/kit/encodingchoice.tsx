/** Which encoding. What was withdrawn stands in the list only where it is chosen. */
import { useEncodings } from "../api/queries";
import type { EncodingKey } from "../api/types";
import { Choice } from "./choice";

export function EncodingChoice(props: {
  label: string;
  chosen: EncodingKey;
  onChange: (key: EncodingKey) => void;
  look?: "" | "inline" | "bare";
  hidden?: boolean;
  disabled?: boolean;
}) {
  const { data = [] } = useEncodings();
  const options = data
    .filter((e) => e.offered || e.key === props.chosen)
    .map((e) => ({ key: e.key, label: e.label, note: e.own ? "the team's" : undefined }));
  return <Choice {...props} options={options} />;
}

/** Which encoding, or what the file itself says: nothing chosen. */
export function EncodingOrFile(props: {
  label: string;
  chosen: EncodingKey | null;
  onChange: (key: EncodingKey | null) => void;
}) {
  const { data = [] } = useEncodings();
  const options = [
    { key: BY_FILE, label: "as the file says" },
    ...data
      .filter((e) => e.offered)
      .map((e) => ({ key: e.key, label: e.label, note: e.own ? "the team's" : undefined })),
  ];
  return (
    <Choice
      label={props.label}
      options={options}
      chosen={props.chosen ?? BY_FILE}
      onChange={(key) => props.onChange(key === BY_FILE ? null : key)}
    />
  );
}

const BY_FILE = "by file";
