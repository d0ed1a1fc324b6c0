/** The bake sheet: which grid is enough, what the file says, and the files made so far. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Radio, RadioGroup } from "react-aria-components";
import styled from "styled-components";
import { settle } from "../bench/autosave";
import { useBench } from "../bench/store";
import { got, server } from "../api/client";
import { client, useEncodingLabel } from "../api/queries";
import type { LookRecord, Revision } from "../api/types";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Text } from "../kit/text";
import { Sheet } from "../kit/sheet";
import { Trouble } from "../kit/trouble";
import { Pair } from "../kit/layout";

const Grids = styled(RadioGroup)`
  display: grid;
  gap: 2px;
  .head,
  .one {
    display: grid;
    grid-template-columns: 22px 84px 0.7fr 0.8fr 0.8fr 1.1fr 96px;
    align-items: center;
    padding: 6px 8px;
    border-radius: var(--r);
  }
  .head {
    color: var(--t2);
    font-size: 12px;
  }
  .one {
    cursor: pointer;
    border: 1px solid transparent;
  }
  .one:before {
    content: "";
    width: 11px;
    height: 11px;
    border-radius: 50%;
    border: 2px solid var(--t2);
  }
  .one[data-selected] {
    background: var(--g2);
    border-color: var(--g4);
  }
  .one[data-selected]:before {
    background: var(--accent);
    border-color: var(--accent);
  }
  .one[data-focus-visible] {
    outline: 2px solid var(--accent);
  }
  .right {
    text-align: right;
  }
`;
const Files = styled.ul`
  list-style: none;
  padding: 0;
  display: grid;
  gap: 0;
  li {
    display: grid;
    grid-template-columns: 1fr auto auto;
    gap: 14px;
    padding: 7px 0;
    border-top: 1px solid var(--line);
    align-items: center;
  }
  small {
    color: var(--t2);
  }
  a {
    color: var(--accent);
  }
`;

export function BakeSheet(props: { look: LookRecord; revision: Revision | null; onClose: () => void }) {
  const { look } = props;
  const label = useEncodingLabel();
  const newest = props.revision ?? look.revisions[0] ?? null;
  const mayDesign = look.may_edit;
  const changed = useBench((s) => s.version) > 0;
  const [source, setSource] = useState<string>(newest ? String(newest.id) : "draft");
  const [grid, setGrid] = useState("33");
  const [title, setTitle] = useState(look.name);
  const [rights, setRights] = useState("");
  const [note, setNote] = useState("");
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState<unknown>(null);
  const measured = useQuery({
    queryKey: ["grids", look.id, source, source === "draft" ? useBench.getState().version : 0],
    queryFn: async () => {
      if (source === "draft") await settle();
      return got(
        server.POST("/api/looks/{look_id}/grids", {
          params: { path: { look_id: look.id }, query: source === "draft" ? {} : { revision: Number(source) } },
        }),
      );
    },
    staleTime: 60_000,
  });
  const bakes = useQuery({
    queryKey: ["bakes", look.id],
    queryFn: () => got(server.GET("/api/looks/{look_id}/bakes", { params: { path: { look_id: look.id } } })),
  });
  const metric = measured.data?.[0]?.deviation.metric.split(" ")[0] ?? "ΔE";
  const best = measured.data?.find((m) => m.recommended)?.grid;
  const revisions =
    props.revision && !look.revisions.some((r) => r.id === props.revision?.id) ? [props.revision, ...look.revisions] : look.revisions;
  const chosen = revisions.find((r) => String(r.id) === source);

  const bake = async () => {
    setBusy(true);
    setError(null);
    try {
      let id = Number(source);
      if (source === "draft") {
        await settle();
        const made = await got(
          server.POST("/api/looks/{look_id}/revisions", {
            params: { path: { look_id: look.id } },
            body: { note: note || "kept for a bake" },
          }),
        );
        id = made.id;
        setSource(String(id));
        await client.invalidateQueries({ queryKey: ["look", look.id] });
        await client.invalidateQueries({ queryKey: ["catalogue"] });
      }
      await got(
        server.POST("/api/revisions/{revision_id}/bakes", {
          params: { path: { revision_id: id } },
          body: { grid: Number(grid), title, rights, note },
        }),
      );
      await bakes.refetch();
    } catch (problem) {
      setError(problem);
    } finally {
      setBusy(false);
    }
  };
  const outside = chosen ? `${label(chosen.input)} → ${label(chosen.output)}` : `${label(look.draft.input)} → ${label(look.draft.output)}`;

  return (
    <Sheet title="Bake" note={outside} width={700} onClose={props.onClose}>
      <Choice
        label="What is baked"
        look="inline"
        chosen={source}
        onChange={setSource}
        options={[
          ...revisions.map((r) => ({ key: String(r.id), label: `revision ${r.number}`, note: `${r.status}, ${r.note || "no note"}` })),
          ...(mayDesign && changed ? [{ key: "draft", label: "the draft, kept as a new revision first" }] : []),
        ]}
      />
      <section>
        <h2>Grid, and how far the file is from the look</h2>
        <Grids aria-label="Grid size" value={grid} onChange={setGrid}>
          <div className="head">
            <span />
            <span>grid</span>
            <span className="right">{metric} mean</span>
            <span className="right">99 % within</span>
            <span className="right">largest</span>
            <span className="right">within 1 code</span>
            <span />
          </div>
          {(["17", "33", "65"] as const).map((g) => {
            const d = measured.data?.find((m) => String(m.grid) === g)?.deviation;
            return (
              <Radio key={g} value={g} className="one">
                <span>
                  {g} × {g} × {g}
                </span>
                <span className="right">{d ? d.delta_mean.toFixed(2) : "…"}</span>
                <span className="right">{d ? d.delta_99.toFixed(2) : "…"}</span>
                <span className="right">{d ? d.delta_largest.toFixed(2) : "…"}</span>
                <span className="right">{d ? `${(d.share_under_one * 100).toFixed(1)} %` : "…"}</span>
                <span className="right" style={{ color: "var(--accent)" }}>
                  {best === Number(g) ? "recommended" : ""}
                </span>
              </Radio>
            );
          })}
        </Grids>
        <p style={{ color: "var(--t2)", marginTop: 6 }}>
          What an eye would see ({metric}: 1 is about the least it notices), over 65,536 colours spread through the whole cube and a grey
          ramp; the largest sits in colours few pictures hold. A code is one of 1,024. Recommended is the smallest grid with 99 % within 0.5
          and all within 2, else the nearest.
        </p>
        <Trouble error={measured.error} />
      </section>
      <Pair>
        <Text label="Title in the file" value={title} onChange={setTitle} maxLength={200} />
        <Text label="Rights: who may pass it on" hint="ask first" value={rights} onChange={setRights} maxLength={300} />
      </Pair>
      <Text label="Note in the file" value={note} onChange={setNote} maxLength={2000} />
      <Trouble error={error} />
      {bakes.data?.length ? (
        <section>
          <h2>Files</h2>
          <Files>
            {bakes.data.map((b) => (
              <li key={b.id}>
                <span>
                  {b.file_name} <small>{b.rights ? `· ${b.rights}` : ""}</small>
                </span>
                <small>
                  99 % within {b.deviation.metric.split(" ")[0]} {b.deviation.delta_99.toFixed(2)} · {(b.bytes / 2 ** 20).toFixed(1)} MiB
                </small>
                <a href={`/api/bakes/${b.id}/file`} download>
                  Download
                </a>
              </li>
            ))}
          </Files>
        </section>
      ) : null}
      <footer>
        <span style={{ color: "var(--t2)", flex: 1 }}>
          Format: .cube, or .clf where the look takes linear light; tetrahedral reading measured
        </span>
        <Button onPress={props.onClose}>Close</Button>
        {mayDesign ? (
          <Button look="main" isDisabled={busy || !source} onPress={() => void bake()}>
            {busy ? "Baking …" : "Bake file"}
          </Button>
        ) : null}
      </footer>
    </Sheet>
  );
}
