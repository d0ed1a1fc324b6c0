/** Bring in frames: where files and folders come in, and what still waits for a decision. */
import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { FileTrigger } from "react-aria-components";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { declared } from "../api/declared";
import { Button } from "../kit/button";
import { DropArea } from "../kit/droparea";
import { chosen, dropped, type Gathered } from "../kit/gather";
import { Said } from "../kit/layout";
import { Page, TopBar } from "../kit/topbar";
import { Trouble } from "../kit/trouble";
import { longAgo } from "../kit/when";
import { askedOfIntakes } from "./asked";
import { send, useSending } from "./sending";

const Body = styled.main`
  overflow-y: auto;
  padding: 18px;
  display: grid;
  gap: 22px;
  align-content: start;
  max-width: 900px;
  width: 100%;
  margin: 0 auto;
`;
const Waits = styled.ul`
  display: grid;
  list-style: none;
  padding: 0;
`;
const Row = styled(Link)`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 16px;
  padding: 11px 4px;
  border-top: 1px solid var(--line);
  text-decoration: none;
  color: var(--t2);
  &:hover {
    background: var(--g2);
  }
`;

export default function Begin() {
  const navigate = useNavigate();
  const intakes = useQuery(askedOfIntakes.all);
  const { sent, error } = useSending();
  useEffect(() => {
    document.title = "Bring in frames · Saucer";
  }, []);
  const take = (files: Gathered[]) => void send(files, null, (id) => void navigate(`/frames/in/${id}`));
  return (
    <Page>
      <TopBar />
      <Body>
        <header>
          <h1>Bring in frames</h1>
          <Said>
            Each picture is looked through and shown to you first. Nothing is kept before you say so.
          </Said>
        </header>
        <DropArea onDrop={async (e) => take(await dropped(e.items))}>
          {sent ? (
            <strong role="status">
              Sending {sent.done} of {sent.of} files …
            </strong>
          ) : (
            <>
              <strong>Drop pictures and folders here</strong>
              <div>
                <FileTrigger
                  allowsMultiple
                  acceptedFileTypes={declared.pictures}
                  onSelect={(files) => take(chosen(files))}
                >
                  <Button look="main">Choose pictures</Button>
                </FileTrigger>
                <FileTrigger acceptDirectory onSelect={(files) => take(chosen(files))}>
                  <Button>Choose a folder</Button>
                </FileTrigger>
              </div>
              <p>
                Camera raw, HEIF, AVIF, JPEG, JPEG XL, WebP, PNG, TIFF, OpenEXR, Radiance HDR, DPX and Cineon.
                A colour profile in a file is honoured, and what a file does not say is guessed and shown with
                how sure that is.
              </p>
            </>
          )}
        </DropArea>
        <Trouble error={error} />
        {intakes.data?.length ? (
          <section aria-label="Waiting for a decision">
            <h2>Waiting for a decision</h2>
            <Waits>
              {intakes.data.map((intake) => (
                <li key={intake.id}>
                  <Row to={`/frames/in/${intake.id}`}>
                    <span>
                      {intake.count} {intake.count === 1 ? "file" : "files"}
                      {intake.project ? `, for ${intake.project.name}` : ""}
                    </span>
                    <span>{longAgo(Date.parse(intake.begun_at))}</span>
                  </Row>
                </li>
              ))}
            </Waits>
          </section>
        ) : null}
      </Body>
    </Page>
  );
}
