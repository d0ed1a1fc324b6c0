/** The keys of the bench, all on one sheet. */
import styled from "styled-components";
import { Sheet } from "../kit/sheet";
import { KEYS } from "./commands";

const Columns = styled.div`
  columns: 2;
  column-gap: 34px;
  section {
    break-inside: avoid;
    margin-bottom: 16px;
  }
  h2 {
    margin-bottom: 6px;
  }
  dl {
    display: grid;
    grid-template-columns: minmax(130px, auto) 1fr;
    gap: 5px 16px;
  }
  dt {
    font-weight: 600;
  }
  dd {
    color: var(--t2);
    margin: 0;
  }
`;

export function KeySheet({ onClose }: { onClose: () => void }) {
  return (
    <Sheet title="Keys" width={860} onClose={onClose}>
      <Columns>
        {KEYS.map(([title, keys]) => (
          <section key={title}>
            <h2>{title}</h2>
            <dl>{keys.map(([key, does]) => [<dt key={key}>{key}</dt>, <dd key={does}>{does}</dd>])}</dl>
          </section>
        ))}
      </Columns>
    </Sheet>
  );
}
