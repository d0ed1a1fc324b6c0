/** The finished picture: any frame at full size under the look, for other programs. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { got, server } from "../api/client";
import type { Frame } from "../api/types";
import { Choice } from "../kit/choice";
import { Level, Said } from "../kit/layout";
import { Switch } from "../kit/switch";

const List = styled.ul`
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 4px 14px;
  li {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    border-top: 1px solid var(--line);
    padding-top: 4px;
  }
  span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  a {
    color: var(--accent);
  }
`;

/** As many pictures as one package holds. */
const MOST = 16;

export function Finished(props: {
  id: number;
  revision: number | null;
  frames: Frame[];
  output: string;
  finish: boolean;
}) {
  const [kind, setKind] = useState("png16");
  const [finish, setFinish] = useState(true);
  const { data: kinds = [] } = useQuery({
    queryKey: ["finished kinds"],
    queryFn: () => got(server.GET("/api/finished-kinds")),
    staleTime: Infinity,
  });
  const revision = props.revision === null ? "" : `revision=${props.revision}&`;
  return (
    <section aria-label="Finished pictures">
      <h2>Finished pictures</h2>
      <Level>
        <Choice
          label="File"
          look="inline"
          chosen={kind}
          onChange={setKind}
          options={kinds.map((k) => ({ key: k.key, label: k.label }))}
        />
        {props.finish ? <Switch label="with the finish" on={finish} onChange={setFinish} /> : null}
      </Level>
      {props.frames.length ? (
        <List>
          {props.frames.map((f) => (
            <li key={f.id}>
              <span>{f.name}</span>
              <a
                href={`/api/looks/${props.id}/finished/${f.id}?${revision}kind=${kind}&finish=${finish}`}
                download
                aria-label={`${f.width} × ${f.height}, ${f.name} under the look`}
              >
                {f.width} × {f.height}
              </a>
            </li>
          ))}
        </List>
      ) : (
        <Said>Add a frame first.</Said>
      )}
      {props.frames.length > 1 ? (
        <Level>
          <a
            href={`/api/looks/${props.id}/finished?${revision}kind=${kind}&finish=${finish}${props.frames
              .slice(0, MOST)
              .map((f) => `&frame=${f.id}`)
              .join("")}`}
            download
          >
            {props.frames.length > MOST ? `The first ${MOST}` : `All ${props.frames.length}`} as one ZIP
          </a>
        </Level>
      ) : null}
      <Said>
        Full size, trimmed, in {props.output}. Transparency and notes of the frame&apos;s own file are kept
        where there is room.
      </Said>
      {props.frames
        .filter((f) => f.unread.length)
        .map((f) => (
          <Said key={f.id}>
            Of {f.name} is left out: {f.unread.join("; ")}.
          </Said>
        ))}
    </section>
  );
}
