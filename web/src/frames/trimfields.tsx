/**
 * The numbers of a trim, as the core declares them: exposure and balance in light, contrast, and an ASC CDL
 * that opens.
 */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Button as AriaButton, Disclosure, DisclosurePanel, Heading } from "react-aria-components";
import styled from "styled-components";
import { got, server } from "../api/client";
import type { Trim } from "../api/types";
import { Amount } from "../kit/amount";
import { NumberBox } from "../kit/numberbox";
import { CHANNELS, corrects, ROWS } from "../kit/trim";

const NAMES = ["exposure", "temperature", "tint", "contrast"] as const;

const Correction = styled(Disclosure)`
  margin-top: 6px;
  border-top: 1px solid var(--line);
  padding-top: 4px;
  h2 button {
    border: 0;
    background: none;
    padding: 3px 0;
    cursor: pointer;
    color: var(--t2);
    font-weight: 500;
    font-size: 13px;
  }
  h2 button i {
    font-style: normal;
    color: var(--t3);
    margin-right: 6px;
  }
  table {
    border-spacing: 0;
    width: 100%;
  }
  th {
    font-weight: 400;
    color: var(--t2);
    text-align: left;
  }
  thead th {
    text-align: right;
    font-size: 12px;
  }
  td {
    text-align: right;
  }
`;

export function TrimFields(props: { trim: Trim; onChange: (trim: Trim) => void }) {
  const { trim, onChange } = props;
  const { data } = useQuery({
    queryKey: ["trim"],
    queryFn: () => got(server.GET("/api/frames/trim")),
    staleTime: Infinity,
  });
  const [open, setOpen] = useState(corrects(trim));
  if (!data) return null;
  return (
    <div>
      {NAMES.map((name) => (
        <Amount
          key={name}
          parameter={data[name]}
          value={trim[name]}
          onChange={(v) => onChange({ ...trim, [name]: v })}
        />
      ))}
      <Correction isExpanded={open} onExpandedChange={setOpen}>
        <Heading level={2}>
          <AriaButton slot="trigger">
            <i aria-hidden>{open ? "▾" : "▸"}</i>
            ASC CDL{corrects(trim) ? ", in use" : ""}
          </AriaButton>
        </Heading>
        <DisclosurePanel>
          <table>
            <thead>
              <tr>
                <td />
                {CHANNELS.map((c) => (
                  <th key={c} scope="col">
                    {c}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {ROWS.map((r) => (
                <tr key={r}>
                  <th scope="row">{data.row[r].label.toLowerCase()}</th>
                  {CHANNELS.map((c) => (
                    <td key={c}>
                      <NumberBox
                        label={`${data.row[r].label}, ${c}`}
                        value={trim[c][r]}
                        low={data.row[r].minimum}
                        high={data.row[r].maximum}
                        fine={data.row[r].fine}
                        digits={4}
                        onChange={(v) => onChange({ ...trim, [c]: { ...trim[c], [r]: v } })}
                      />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
          <Amount
            parameter={data.saturation}
            value={trim.saturation}
            onChange={(saturation) => onChange({ ...trim, saturation })}
          />
        </DisclosurePanel>
      </Correction>
    </div>
  );
}
