/**
 * Presets for the chosen step: those that come with Saucer, one's own, the team's; each shown as what it
 * would draw.
 */
import { useQuery } from "@tanstack/react-query";
import { memo, useEffect, useState } from "react";
import {
  Button as AriaButton,
  Collection,
  Dialog,
  DialogTrigger,
  FileTrigger,
  Header,
  ListBox,
  ListBoxItem,
  ListBoxSection,
} from "react-aria-components";
import styled from "styled-components";
import { formOf, got, server } from "../api/client";
import type { Preset, Step } from "../api/types";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Said } from "../kit/layout";
import { Menued } from "../kit/menued";
import { Trouble } from "../kit/trouble";
import { Tip } from "../kit/tip";
import { KeepPreset } from "./keeppreset";
import { copy, find, replace } from "./steps";
import { useBench } from "./store";
import { TinyTrace } from "./kinds/registry";
import { view } from "./view";

const List = styled.div`
  width: 288px;
  max-height: 50vh;
  overflow: auto;
  [role="listbox"] {
    outline: none;
  }
  [role="option"] {
    align-items: center !important;
    gap: 10px !important;
  }
  [role="option"] span {
    flex: 1;
    min-width: 0;
  }
  small {
    display: block;
  }
`;

const Head = styled.div`
  display: flex;
  gap: 5px;
  align-items: center;
  min-height: 34px;
  margin-bottom: 10px;
  .one {
    width: 46px;
    height: 34px;
    flex: none;
    display: grid;
    place-items: center;
    background: var(--g0);
    border: 1px solid var(--g4);
    border-radius: var(--r);
    padding: 0;
    cursor: pointer;
  }
  .one[data-hovered],
  .one[data-focus-visible] {
    border-color: var(--t1);
  }
  .one[data-disabled] {
    cursor: default;
    border-color: var(--g3);
  }
  > :last-child {
    margin-left: auto;
  }
`;
const Own = styled.div`
  border-top: 1px solid var(--g4);
  padding: 6px 10px;
  max-width: 320px;
  > span {
    display: flex;
    align-items: center;
    gap: 10px;
  }
  > span > a {
    margin-left: auto;
    color: var(--accent);
    font-size: 12px;
  }
`;

/** As many stand at the head of a control; the list has all. */
const FIRST = 3;

export const usePresets = (kind: string, encoding: string) =>
  useQuery({
    queryKey: ["presets", kind, encoding],
    queryFn: () => got(server.GET("/api/presets", { params: { query: { kind, encoding } } })),
    staleTime: 30_000,
  });

type Keyed = Preset & { key: string };
interface Section {
  title: string;
  items: Keyed[];
}

/** The step as the preset has it; what the step is called and whether it is on stays. */
function applied(step: Step, preset: Preset): Step {
  const content = {
    ...structuredClone(preset.content),
    id: step.id,
    label: step.label,
    on: step.on,
  } as unknown as Step;
  if (content.kind !== "group") return content;
  return { ...content, label: step.label || preset.name, steps: content.steps.map(copy) };
}

/** By whose they are. */
function sections(presets: Preset[]): Section[] {
  const keyed = presets.map((p) => ({ ...p, key: `${p.id || "given"}-${p.name}` }));
  return [
    { title: "Yours", items: keyed.filter((p) => p.mine) },
    { title: "The team's", items: keyed.filter((p) => p.owner && !p.mine) },
    { title: "To start from", items: keyed.filter((p) => !p.owner) },
  ].filter((s) => s.items.length);
}

/** All presets; the one under the pointer or the keys is shown on the picture. */
function All(props: { all: Section[]; onShow: (p: Preset) => void; onTake: (p: Preset) => void }) {
  const { all, onShow } = props;
  const about = (p: Preset) =>
    [p.owner && !p.mine ? p.owner : "", p.mine && p.shared ? "shared with the team" : "", p.note]
      .filter(Boolean)
      .join(" · ");
  return (
    <List onPointerLeave={() => view({ preview: null })}>
      <ListBox
        aria-label="Presets for this step"
        selectionMode="none"
        autoFocus
        onAction={(key) => props.onTake(all.flatMap((s) => s.items).find((p) => p.key === key)!)}
      >
        {all.map((s) => (
          <ListBoxSection key={s.title} id={s.title}>
            <Header>{s.title}</Header>
            <Collection items={s.items}>
              {(p) => (
                <ListBoxItem id={p.key} textValue={p.name} onHoverStart={() => onShow(p)}>
                  {({ isFocusVisible }) => (
                    <>
                      {isFocusVisible ? <Shown does={() => onShow(p)} /> : null}
                      <TinyTrace kind={p.kind} trace={p.trace} />
                      <span>
                        {p.name}
                        <small>{about(p)}</small>
                      </span>
                    </>
                  )}
                </ListBoxItem>
              )}
            </Collection>
          </ListBoxSection>
        ))}
      </ListBox>
    </List>
  );
}

/** One's own presets as files, to the bin, and from a file. kind: of the step that they are for. */
function Files(props: { own: Keyed[]; kind: Step["kind"] }) {
  const away = useWrite(
    (p: Preset) => got(server.DELETE("/api/presets/{preset_id}", { params: { path: { preset_id: p.id } } })),
    ["presets"],
  );
  const bring = useWrite(
    (file: File) => got(server.POST("/api/presets/file", { body: formOf(file) })),
    ["presets", "luts", "encodings"],
  );
  const brought = bring.data;
  const elsewhere =
    brought && brought.kind !== props.kind ? `, for ${brought.kind.replaceAll("_", " ")}` : "";
  return (
    <Own>
      {props.own.map((p) => (
        <span key={p.key}>
          {p.name}
          <a href={`/api/presets/${p.id}/file`} download aria-label={`Take the preset ${p.name} as a file`}>
            as a file
          </a>
          <Button
            look="icon"
            aria-label={`Move the preset ${p.name} to the bin`}
            onPress={() => away.mutate(p)}
          >
            ✕
          </Button>
        </span>
      ))}
      <FileTrigger acceptedFileTypes={[".json"]} onSelect={(files) => files?.[0] && bring.mutate(files[0])}>
        <Button look="quiet">Bring in a preset from a file</Button>
      </FileTrigger>
      {brought ? (
        <Said role="status">{[`“${brought.name}” is kept${elsewhere}.`, ...brought.said].join(" ")}</Said>
      ) : null}
      <Trouble error={bring.error ?? away.error} />
    </Own>
  );
}

export const Presets = memo(function Presets(props: {
  id: string;
  kind: Step["kind"];
  encoding: string;
  readOnly: boolean;
}) {
  const { id, kind, readOnly } = props;
  const { data = [] } = usePresets(kind, props.encoding);
  const [keeping, setKeeping] = useState(false);
  const [open, setOpen] = useState(false);
  const show = (p: Preset) =>
    view({ preview: { name: p.name, look: replace(useBench.getState().draft, id, (s) => applied(s, p)) } });
  useEffect(() => () => view({ preview: null }), []);
  const take = (p: Preset) => {
    view({ preview: null });
    useBench.getState().change(`Preset ${p.name}`, (d) => replace(d, id, (s) => applied(s, p)));
    setOpen(false);
  };
  const all = sections(data);
  const ordered = all.flatMap((s) => s.items);
  return (
    <Head role="group" aria-label="Presets">
      {/* A group has no trace to be drawn by. */}
      {(kind === "group" ? [] : ordered.slice(0, FIRST)).map((p) => (
        <Tip key={p.key} name={p.name} note={p.note}>
          <AriaButton
            className="one"
            aria-label={p.name}
            isDisabled={readOnly}
            onPress={() => take(p)}
            onHoverStart={() => show(p)}
            onHoverEnd={() => view({ preview: null })}
          >
            <TinyTrace kind={p.kind} trace={p.trace} high={24} />
          </AriaButton>
        </Tip>
      ))}
      {data.length ? (
        <DialogTrigger
          isOpen={open}
          onOpenChange={(o) => {
            setOpen(o);
            if (!o) view({ preview: null });
          }}
        >
          <Button look="quiet" aria-label={`All ${data.length} presets`}>
            all {data.length} ▾
          </Button>
          <Menued placement="bottom start">
            <Dialog aria-label="Presets">
              <All all={all} onShow={show} onTake={take} />
              <Files own={ordered.filter((p) => p.mine)} kind={kind} />
            </Dialog>
          </Menued>
        </DialogTrigger>
      ) : null}
      {readOnly ? null : (
        <Button look="quiet" aria-label="Keep as preset" onPress={() => setKeeping(true)}>
          {data.length ? "keep" : "keep as preset"}
        </Button>
      )}
      {keeping ? (
        <KeepPreset step={find(useBench.getState().draft, id)!} onClose={() => setKeeping(false)} />
      ) : null}
    </Head>
  );
});

/** Shows a preset on the picture when keys come to it, as the pointer does. */
function Shown({ does }: { does: () => void }) {
  useEffect(does, []); // eslint-disable-line react-hooks/exhaustive-deps
  return null;
}
