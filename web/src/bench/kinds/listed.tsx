/** A list of parts: which one is chosen, a new one, one less. */
import type { ReactNode } from "react";
import { Button } from "../../kit/button";
import { Segments } from "../../kit/segments";
import { Level } from "../../kit/layout";

export function Listed(props: {
  count: number;
  at: number;
  onAt: (k: number) => void;
  name: string;
  least: number;
  most: number;
  onAdd: () => void;
  onRemove: () => void;
  extra?: readonly [string, string];
  more?: ReactNode;
  children: ReactNode;
}) {
  const options = [
    ...Array.from({ length: props.count }, (_, k) => [String(k), `${k + 1}`] as const),
    ...(props.extra ? [props.extra] : []),
  ];
  return (
    <>
      <Level>
        <Segments
          label={props.name}
          options={options}
          chosen={props.extra && props.at < 0 ? props.extra[0] : String(props.at)}
          onChange={(k) => props.onAt(k === props.extra?.[0] ? -1 : Number(k))}
        />
        <Button
          look="icon"
          aria-label={`Add ${props.name.toLowerCase()}`}
          isDisabled={props.count >= props.most}
          onPress={props.onAdd}
        >
          +
        </Button>
        <Button
          look="icon"
          aria-label={`Remove ${props.name.toLowerCase()}`}
          isDisabled={props.count <= props.least || props.at < 0}
          onPress={props.onRemove}
        >
          ✕
        </Button>
        {props.more}
      </Level>
      {props.children}
    </>
  );
}
