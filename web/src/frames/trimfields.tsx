/** The numbers of a trim, as the core declares them. */
import { useQuery } from "@tanstack/react-query";
import { server, whole } from "../api/client";
import type { Parameter, Trim } from "../api/types";
import { Amount } from "../kit/amount";

type Declared = Record<keyof Trim, Parameter>;

const NAMES = ["exposure", "temperature", "tint", "contrast"] as const;

export function TrimFields(props: { trim: Trim; onChange: (trim: Trim) => void }) {
  const { data } = useQuery({ queryKey: ["trim"], queryFn: () => whole<Declared>(server.GET("/api/frames/trim")), staleTime: Infinity });
  if (!data) return null;
  return (
    <div>
      {NAMES.map((name) => (
        <Amount key={name} parameter={data[name]} value={props.trim[name]} onChange={(v) => props.onChange({ ...props.trim, [name]: v })} />
      ))}
    </div>
  );
}
