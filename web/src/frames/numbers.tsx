/** The numbers of a camera encoding as fields, and what they do. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { got, server } from "../api/client";
import type { CameraForm, CameraNumbers } from "../api/types";

import { Choice } from "../kit/choice";

import { Said, Warned } from "../kit/layout";

import { Trouble } from "../kit/trouble";
import { TypedNumber } from "../kit/typednumber";

import { CheckValues, CurvePlot, PrimariesPlot } from "./encodingplots";
import type { Typed } from "./typed";
import { NONE, CORNERS, CURVE, limits } from "./typed";

export function Numbers(props: { form: CameraForm; typed: Typed; onChange?: (typed: Typed) => void }) {
  const { form, typed, onChange } = props;
  const readOnly = !onChange;
  const same = form.primaries.find((p) => CORNERS.every((c) => p[c].join() === typed[c].join()));
  return (
    <div className="numbers">
      <h2>Primaries and white, CIE 1931 xy</h2>
      {onChange ? (
        <Choice
          label="Begin from"
          chosen={same?.label ?? null}
          empty="numbers of its own"
          options={form.primaries.map((p) => ({ key: p.label, label: p.label }))}
          onChange={(label) => {
            const found = form.primaries.find((p) => p.label === label);
            if (found) onChange({ ...typed, ...Object.fromEntries(CORNERS.map((c) => [c, found[c]])) });
          }}
        />
      ) : null}
      <div className="pairs">
        <span />
        <span>x</span>
        <span>y</span>
        {CORNERS.map((corner) => (
          <Row
            key={corner}
            corner={corner}
            value={typed[corner]}
            onChange={onChange && ((v) => onChange({ ...typed, [corner]: v }))}
          />
        ))}
      </div>
      <h2>Curve, as in the Log node of the Common LUT Format</h2>
      <div className="two">
        {CURVE.map((field) => {
          const { title, description, low, high } = limits(form, field);
          return (
            <TypedNumber
              key={field}
              label={title}
              help={description}
              value={typed[field]}
              low={low}
              high={high}
              none={NONE[field]}
              readOnly={readOnly}
              onChange={(v) => onChange?.({ ...typed, [field]: v })}
            />
          );
        })}
      </div>
    </div>
  );
}

function Row(props: {
  corner: (typeof CORNERS)[number];
  value: [number, number];
  onChange: ((v: [number, number]) => void) | undefined;
}) {
  const { corner, value, onChange } = props;
  return (
    <>
      <span>{corner}</span>
      {(["x", "y"] as const).map((axis, k) => (
        <TypedNumber
          key={axis}
          hidden
          label={`${corner} ${axis}`}
          value={value[k]!}
          low={-1}
          high={2}
          readOnly={!onChange}
          onChange={(v) => v !== null && onChange?.(k === 0 ? [v, value[1]] : [value[0], v])}
        />
      ))}
    </>
  );
}

export function Seen(props: {
  form: CameraForm;
  numbers: CameraNumbers | null;
  typed: Typed;
  error: unknown;
  children?: React.ReactNode;
}) {
  const { numbers } = props;
  const body = numbers && { ...numbers, name: "not kept yet" };
  const measured = useQuery({
    queryKey: ["measured", body],
    queryFn: () => got(server.POST("/api/encodings/team/measured", { body: body! })),
    enabled: body !== null,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
  const seen = numbers && !measured.error ? measured.data : undefined;
  return (
    <div className="seen">
      {seen ? (
        <CurvePlot measured={seen} />
      ) : (
        <Said>
          {measured.error
            ? ""
            : "The curve appears here when its five numbers are typed: base, slopes and offsets."}
        </Said>
      )}
      <Trouble error={props.error ?? measured.error} />
      {seen?.doubts.map((d) => (
        <Warned key={d}>{d}</Warned>
      ))}
      <div className="below">
        <PrimariesPlot numbers={props.typed as CameraNumbers} known={props.form.primaries[0]} />
        {seen ? (
          <div>
            <CheckValues measured={seen} />
            <Said>
              Highest code at {seen.ceiling.toFixed(2)} times scene white
              {seen.stops_above === null ? "" : `, ${seen.stops_above.toFixed(1)} stops above mid grey`}. One
              stop from there takes {seen.stop_of_grey.toFixed(0)} codes. Compare with the values the maker
              publishes.
            </Said>
          </div>
        ) : null}
      </div>
      {props.children}
    </div>
  );
}
