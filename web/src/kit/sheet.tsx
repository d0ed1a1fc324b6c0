/** A sheet over the screen. */
import type { ReactNode } from "react";
import { Dialog, Heading, Modal, ModalOverlay } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./button";
import { Quiet } from "./layout";

const Shade = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  background: var(--shade);
  display: grid;
  place-items: center;
  z-index: 20;
`;
const Panel = styled(Modal)`
  background: var(--g1);
  border: 1px solid var(--g4);
  border-radius: 10px;
  max-height: 92vh;
  max-width: 94vw;
  overflow: auto;
  [role="dialog"] {
    outline: none;
    padding: 20px 22px;
    display: flex;
    flex-direction: column;
    gap: 14px;
  }
  header {
    display: flex;
    align-items: baseline;
    gap: 12px;
  }
  header > [slot="title"] {
    flex: 1;
  }
  footer {
    display: flex;
    gap: 10px;
    justify-content: flex-end;
    align-items: center;
    padding-top: 4px;
  }
`;

/** A sheet over the screen; Escape or a click beside it closes it. */
export function Sheet(props: {
  title: string;
  width: number;
  onClose: () => void;
  children: ReactNode;
  note?: string;
}) {
  return (
    <Shade isOpen isDismissable onOpenChange={(open) => !open && props.onClose()}>
      <Panel style={{ width: props.width }}>
        <Dialog>
          <header>
            <Heading slot="title" level={1}>
              {props.title}
            </Heading>
            {props.note ? <Quiet>{props.note}</Quiet> : null}
            <Button look="icon" aria-label="Close" onPress={props.onClose}>
              ✕
            </Button>
          </header>
          {props.children}
        </Dialog>
      </Panel>
    </Shade>
  );
}
