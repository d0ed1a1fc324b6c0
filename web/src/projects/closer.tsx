/**
 * A shot of the wall, closer: what it stands out by, and the trim that would bring it to its scene, seen
 * before it is used.
 */
import { useQuery } from "@tanstack/react-query";
import { Menu, MenuItem, MenuTrigger } from "react-aria-components";
import { useEffect, useState } from "react";
import styled from "styled-components";
import type { OnWall, Project, Shot, Trim, Wall } from "../api/types";
import { Button } from "../kit/button";
import { Menued } from "../kit/menued";
import { signed } from "../kit/signed";
import { trimWords } from "../kit/trim";
import { Trouble } from "../kit/trouble";
import { around } from "../kit/partshown";
import { askedOfProject, layerWords, readingWords, stillOf } from "./asked";
import type { Doing } from "./doing";

const Box = styled.section`
  background: var(--g1);
  margin: 0 -18px;
  padding: 16px 18px;
  border-bottom: 1px solid var(--line);
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) 330px;
  gap: 14px;
  figure img {
    width: 100%;
    aspect-ratio: 16/9;
    object-fit: cover;
    border-radius: 3px;
    display: block;
    background: var(--field);
  }
  figcaption {
    display: flex;
    justify-content: space-between;
    color: var(--t2);
    font-size: 12px;
    padding-top: 5px;
  }
  h3 {
    font-size: 15px;
    font-weight: 600;
  }
  h3.warn {
    color: var(--warn);
  }
  .words {
    display: grid;
    gap: 8px;
    align-content: start;
  }
  .words p {
    color: var(--t2);
  }
  dl {
    display: grid;
    grid-template-columns: auto auto auto 1fr;
    gap: 3px 14px;
    margin: 0;
  }
  dl .row {
    display: contents;
  }
  dt {
    color: var(--t2);
  }
  dd {
    margin: 0;
    text-align: right;
  }
  dd.unit {
    text-align: left;
    color: var(--t2);
  }
  .acts {
    display: flex;
    gap: 6px;
    flex-wrap: wrap;
  }
`;

export function Closer(props: {
  project: Project;
  shot: Shot;
  on: OnWall;
  scene: Wall;
  doing: Doing;
  onTrim: () => void;
  onBeside: (shot: number) => void;
  onClose: () => void;
}) {
  const { project, shot, on, doing } = props;
  const mates = props.scene.shots.filter((s) => s.shot !== shot.id);
  const suggested = useQuery({ ...askedOfProject.suggested(project.id, shot.id), enabled: mates.length > 0 });
  const trim = suggested.data?.trim;
  const [original, setOriginal] = useState(false);
  useEffect(() => {
    const held = (e: KeyboardEvent) => {
      if (e.key.toLowerCase() === "h" && !document.querySelector("[role=dialog]"))
        setOriginal(e.type === "keydown");
    };
    window.addEventListener("keydown", held);
    window.addEventListener("keyup", held);
    return () => {
      window.removeEventListener("keydown", held);
      window.removeEventListener("keyup", held);
    };
  }, []);
  const [first, ...rest] = on.apart;
  const trimmed = (t: Trim) =>
    `/api/projects/${project.id}/shots/${shot.id}/trimmed?width=480&trim=${encodeURIComponent(JSON.stringify(t))}`;
  const before = `/api/frames/${shot.frame.id}/still?width=480&trimmed=false&v=${shot.frame.version}`;
  const whats = on.apart.map((a) => a.what as "skin" | "grey" | "tone");
  return (
    <Box aria-label={`${shot.number} ${shot.name}, closer`}>
      <figure>
        <img
          src={original ? before : stillOf(project.id, shot, 480)}
          alt={original ? `${shot.name}, original` : `${shot.name} now`}
          style={around(shot.frame.part)}
        />
        <figcaption>
          <span>{original ? "original" : `shot ${shot.number}, now`}</span>
          <span>{readingWords(on.reading)}</span>
        </figcaption>
      </figure>
      <figure>
        {trim ? (
          <>
            <img
              src={original ? before : trimmed(trim)}
              alt={`${shot.name} with the suggested trim`}
              style={around(shot.frame.part)}
            />
            <figcaption>
              <span>{original ? "original" : "with the trim"}</span>
              <span>{readingWords(suggested.data!.after)}</span>
            </figcaption>
          </>
        ) : null}
      </figure>
      <div className="words">
        <h3 className={first ? "warn" : ""}>
          {first ? `Shot ${shot.number}: ${first.text}` : `Shot ${shot.number} · ${shot.name}`}
        </h3>
        <p>
          {rest.length ? `${rest.map((a) => a.text).join("; ")}. ` : ""}
          {layerWords(shot) || "No look is on it"}, trim {trimWords(shot.trim)}.
        </p>
        {trim ? (
          <dl aria-label="Suggested trim">
            {(
              [
                ["exposure", shot.trim.exposure, trim.exposure, 2, "stops"],
                ["temperature", shot.trim.temperature, trim.temperature, 0, ""],
                ["tint", shot.trim.tint, trim.tint, 0, ""],
              ] as const
            ).map(([name, was, is, digits, unit]) => (
              <div key={name} className="row">
                <dt>{name}</dt>
                <dd>{signed(was, digits)}</dd>
                <dd>→ {signed(is, digits)}</dd>
                <dd className="unit">{unit}</dd>
              </div>
            ))}
          </dl>
        ) : mates.length ? (
          suggested.isPending ? (
            <p role="status">Finding the trim that brings it to its scene …</p>
          ) : null
        ) : (
          <p>It hangs alone: there is no scene to bring it to.</p>
        )}
        <Trouble error={suggested.error} />
        <div className="acts">
          {trim ? (
            <Button
              isDisabled={doing.trim.isPending}
              onPress={() =>
                doing.trim.mutate({ shots: [shot.id], trim, words: `${shot.name} brought to its scene` })
              }
            >
              Use this trim
            </Button>
          ) : null}
          <Button onPress={props.onTrim}>Trim by hand</Button>
          {whats.length ? (
            <Button
              look="quiet"
              onPress={() =>
                doing.meant.mutate({
                  shot: shot.id,
                  meant: [...new Set([...shot.meant, ...whats])],
                })
              }
            >
              It is meant so
            </Button>
          ) : shot.meant.length ? (
            <Button look="quiet" onPress={() => doing.meant.mutate({ shot: shot.id, meant: [] })}>
              Measure it again
            </Button>
          ) : null}
          {mates.length ? (
            <MenuTrigger>
              <Button look="quiet">Beside ▾</Button>
              <Menued placement="bottom end">
                <Menu aria-label="Beside which shot" onAction={(key) => props.onBeside(Number(key))}>
                  {mates.map((m) => {
                    const other = project.shots.find((s) => s.id === m.shot);
                    return (
                      <MenuItem key={m.shot} id={String(m.shot)}>
                        {other?.number} {other?.name}
                      </MenuItem>
                    );
                  })}
                </Menu>
              </Menued>
            </MenuTrigger>
          ) : null}
          <Button look="quiet" onPress={props.onClose}>
            Close
          </Button>
        </div>
        <p>hold H for the original</p>
      </div>
    </Box>
  );
}
