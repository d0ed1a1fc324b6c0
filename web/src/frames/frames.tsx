/** Frames: reference pictures, their encodings, their sets and their trims. */
import { useEffect, useState } from "react";
import { DropZone } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { useFrames } from "../api/queries";
import type { Frame } from "../api/types";
import { send } from "../framesin/sending";
import { Button } from "../kit/button";
import { Empty } from "../kit/empty";
import { dropped } from "../kit/gather";
import { Grow, Quiet } from "../kit/layout";
import { Segments } from "../kit/segments";
import { Page, TopBar } from "../kit/topbar";
import { Waiting } from "../kit/waiting";
import { AddFrame } from "./addframe";
import { FrameCard } from "./framecard";
import { Many } from "./many";
import { TrimSheet } from "./trimsheet";

const Drop = styled(DropZone)`
  min-height: 100%;
  padding: 20px 22px 30px;
  &[data-drop-target] {
    background: var(--g2);
  }
`;
const Head = styled.div`
  display: flex;
  gap: 14px;
  margin-bottom: 18px;
  align-items: center;
  flex-wrap: wrap;
`;
const Grid = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
  gap: 22px 18px;
`;
const Scroll = styled.main`
  flex: 1;
  min-height: 0;
  overflow-y: auto;
`;

export default function Frames() {
  const frames = useFrames();
  const navigate = useNavigate();
  const [adding, setAdding] = useState(false);
  const [open, setOpen] = useState<number | null>(null);
  const [set, setSet] = useState("");
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  useEffect(() => {
    document.title = "Frames · Saucer";
  }, []);
  const all = frames.data ?? [];
  const looked = all.find((f) => f.id === open);
  const many = all.filter((f) => chosen.has(f.id));
  const choose = (id: number, on: boolean) =>
    setChosen((last) => new Set(on ? [...last, id] : [...last].filter((k) => k !== id)));
  return (
    <Page>
      <TopBar>
        <Grow />
        <Button look="quiet" onPress={() => void navigate("/people/bin")}>
          Bin
        </Button>
        <Button onPress={() => void navigate("/frames/encodings")}>Camera encodings</Button>
        <Button onPress={() => setAdding(true)}>Add frame</Button>
        <Button look="main" onPress={() => void navigate("/frames/in")}>
          Bring in frames
        </Button>
      </TopBar>
      <Scroll>
        <h1 className="unseen">Frames</h1>
        {!frames.data ? (
          <Waiting query={frames} what="frames" />
        ) : all.length ? (
          <All all={all} set={set} onSet={setSet} chosen={chosen} onChoose={choose} onOpen={setOpen} />
        ) : (
          <Empty
            title="No frames yet"
            action={
              <Button look="main" onPress={() => void navigate("/frames/in")}>
                Bring in frames
              </Button>
            }
          >
            Bring reference pictures, clips, and numbered sequences. What a file declares of its encoding is
            believed; else say how it is encoded. A good set is deliberately mixed.
          </Empty>
        )}
      </Scroll>
      {many.length ? <Many frames={many} set={set} onDone={() => setChosen(new Set())} /> : null}
      {adding ? <AddFrame onClose={() => setAdding(false)} /> : null}
      {looked ? <TrimSheet key={looked.id} frame={looked} onClose={() => setOpen(null)} /> : null}
    </Page>
  );
}

function All(props: {
  all: Frame[];
  set: string;
  onSet: (set: string) => void;
  chosen: ReadonlySet<number>;
  onChoose: (id: number, on: boolean) => void;
  onOpen: (id: number) => void;
}) {
  const { all, set } = props;
  const navigate = useNavigate();
  const sets = [...new Set(all.flatMap((f) => f.sets))].sort();
  const shown = set && sets.includes(set) ? all.filter((f) => f.sets.includes(set)) : all;
  return (
    <Drop
      onDrop={async (e) => void send(await dropped(e.items), null, (id) => void navigate(`/frames/in/${id}`))}
    >
      <Head>
        {sets.length ? (
          <Segments
            label="Set of frames"
            chosen={sets.includes(set) ? set : ""}
            onChange={props.onSet}
            options={[
              ["", `All ${all.length}`],
              ...sets.map((s) => [s, `${s} ${all.filter((f) => f.sets.includes(s)).length}`] as const),
            ]}
          />
        ) : null}
        <Quiet>
          {shown.length} frames. A look is judged on all of them: daylight, dusk, night, skin, strong colours,
          a clean grey ramp.
        </Quiet>
      </Head>
      <Grid>
        {shown.map((f) => (
          <FrameCard
            key={f.id}
            frame={f}
            chosen={props.chosen.has(f.id)}
            onChoose={(on) => props.onChoose(f.id, on)}
            onOpen={() => props.onOpen(f.id)}
          />
        ))}
      </Grid>
    </Drop>
  );
}
