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
