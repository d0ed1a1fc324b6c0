/** A file of an intake as a row: what it is, what it is read as and why, what there is to look at. */
import { Button as AriaButton, GridListItem, Meter } from "react-aria-components";
import styled, { css } from "styled-components";
import type { IntakeFile } from "../api/types";
import { Button } from "../kit/button";
import { bytes } from "../kit/bytes";
import { Line, Name } from "../kit/deciding";
import { EncodingChoice } from "../kit/encodingchoice";
import { InPlace } from "../kit/inplace";
import { around } from "../kit/partshown";
import { Tick } from "../kit/tick";
import type { FileSaid } from "./acts";
import { toSay, unread } from "./judging";

/** Pixels: the height of a row. */
export const ROW = 62;
const COLUMNS = "22px 92px minmax(120px, 0.9fr) minmax(160px, 1.2fr) 76px 74px minmax(130px, 1.1fr)";
/** In a window narrower than this. */
const NARROW = "(max-width: 1150px)";
const NARROWER = "22px 72px minmax(96px, 0.9fr) minmax(116px, 1.1fr) 56px 62px minmax(100px, 1fr)";

/** The columns of rows and of their heads. */
export const inColumns = css`
  display: grid;
  grid-template-columns: ${COLUMNS};
  gap: 0 12px;
  align-items: center;
  @media ${NARROW} {
    grid-template-columns: ${NARROWER};
    gap: 0 9px;
  }
`;

const Row = styled(GridListItem)`
  ${inColumns}
  height: ${ROW}px;
  padding: 0 14px;
  border-bottom: 1px solid var(--line);
  outline-offset: -2px !important;
  &[data-hovered],
  &[data-focused] {
    background: var(--g2);
  }
  &.looked {
    background: var(--g3);
    box-shadow: inset -2px 0 var(--t1);
  }
  > * {
    min-width: 0;
  }
`;
const Look = styled(AriaButton)`
  padding: 0;
  border: 0;
  background: none;
  cursor: pointer;
  display: block;
  border-radius: 3px;
`;
const Whole = styled.img`
  display: block;
  width: 92px;
  max-width: 100%;
  height: 52px;
  object-fit: contain;
  background: var(--field);
  border-radius: 3px;
`;
const Card = styled.img`
  display: block;
  width: 74px;
  max-width: 100%;
  height: 42px;
  object-fit: cover;
  border-radius: 3px;
`;
const None = styled.span`
  display: grid;
  place-items: center;
  width: 92px;
  max-width: 100%;
  height: 52px;
  border: 1px dashed var(--g4);
  border-radius: 3px;
  color: var(--t2);
  font-size: 12px;
`;
/** Its words stand in line with the head of the column. */
const Choosing = styled.div`
  margin-left: -6px;
`;
const Sure = styled(Meter)`
  display: flex;
  align-items: center;
  gap: 7px;
  padding-left: 6px;
  min-width: 0;
`;

export function FileRow(props: {
  intake: number;
  file: IntakeFile;
  looked: boolean;
  onLook: () => void;
  onSay: (said: FileSaid) => void;
}) {
  const { file, onSay } = props;
  const address = `/api/intakes/${props.intake}/files/${file.id}/picture`;
  const said = toSay(file);
  return (
    <Row id={String(file.id)} textValue={file.name} className={props.looked ? "looked" : ""}>
      <Tick slot="selection" aria-label={`Keep ${file.name}`} />
      {file.picture ? (
        <Look aria-label={`Look at ${file.name}`} onPress={props.onLook}>
          <Whole src={`${address}?width=240&v=${file.picture}`} alt="" loading="lazy" />
        </Look>
      ) : (
        <None>{unread(file) ? "no picture" : "…"}</None>
      )}
      <div>
        <Name title={file.folder ? `${file.folder}/${file.name}` : file.name}>{file.name}</Name>
        <Line $quiet>{[file.kind, file.depth].filter(Boolean).join(", ") || bytes(file.bytes)}</Line>
        <Line $quiet>{file.width ? `${file.width} × ${file.height}` : ""}</Line>
      </div>
      <ReadAs file={file} onSay={onSay} />
      {file.stage === "read" ? (
        <InPlace
          label={`Light of ${file.name}`}
          value={file.light}
          hint="–"
          longest={40}
          onChange={(light) => onSay({ light })}
        />
      ) : (
        <span />
      )}
      {file.picture ? (
        <Card
          src={`${address}?width=240&v=${file.picture}`}
          alt=""
          loading="lazy"
          style={around(file.part)}
        />
      ) : (
        <span />
      )}
      <div title={[said.first, said.more].filter(Boolean).join("\n")}>
        <Line $warns={said.warns}>{said.first}</Line>
        <Line $quiet>
          {said.more}
          {file.twin && !file.chosen ? (
            <Button look="quiet" onPress={() => onSay({ chosen: true })}>
              keep both
            </Button>
          ) : null}
        </Line>
      </div>
    </Row>
  );
}

/** What a picture is read as, how sure that is, and why. */
function ReadAs({ file, onSay }: { file: IntakeFile; onSay: (said: FileSaid) => void }) {
  if (file.stage !== "read" || !file.encoding) return <Line $quiet>{unread(file) ? "not known" : ""}</Line>;
  const said = file.guess && file.encoding !== file.guess.key;
  const why = said ? "said by you" : (file.guess?.why ?? "");
  const sure = said ? 1 : (file.guess?.sure ?? 0);
  return (
    <Choosing>
      <EncodingChoice
        label={`${file.name} is read as`}
        hidden
        look="bare"
        chosen={file.encoding}
        onChange={(encoding) => onSay({ encoding })}
      />
      <Sure aria-label="How sure that is" value={100 * sure} valueLabel={`${Math.round(100 * sure)} %`}>
        <Line $quiet $warns={file.unsure} title={why}>
          {Math.round(100 * sure)} %, {why}
        </Line>
      </Sure>
    </Choosing>
  );
}
