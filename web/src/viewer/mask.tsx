/** Where the picture is clipped or out of gamut, laid over it as a hatching; the core says where. */
import { useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { BYTES, got, server } from "../api/client";
import { declared } from "../api/declared";
import { atRest } from "../api/rest";
import { sized } from "./framing";
import type { Wish } from "./live";

export type MaskName = "black" | "white" | "outside";

/** The ink that each mask is hatched with, as R, G and B. */
const INKS: Record<MaskName, [number, number, number]> = {
  black: [169, 214, 194],
  white: [200, 120, 20],
  outside: [214, 130, 226],
};
/** Lies over the picture and leaves it the pointer. */
const Hatching = styled.canvas`
  position: absolute;
  pointer-events: none;
`;
const REST = 120;

interface Found {
  width: number;
  height: number;
  bits: Uint8Array;
}

export function Mask(props: { wish: Wish; width: number; name: MaskName; style: React.CSSProperties }) {
  const { wish, width, name } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const [found, setFound] = useState<Found | null>(null);
  useEffect(() => {
    return atRest(REST, async (signal) => {
      const bytes = await got(
        server.POST("/api/masks", { params: { query: { width } }, body: wish, signal, ...BYTES }),
      );
      const { width: across, height, at } = sized(bytes);
      setFound({ width: across, height, bits: new Uint8Array(bytes, at) });
    });
  }, [wish, width]);
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (!context || !found) return;
    const bit = declared.masks[name]!;
    const ink = INKS[name];
    const image = context.createImageData(found.width, found.height);
    for (let k = 0; k < found.bits.length; k++) {
      if (!(found.bits[k]! & bit)) continue;
      const stripe = ((k % found.width) + Math.floor(k / found.width)) % 8 < 4;
      image.data.set(stripe ? [...ink, 255] : [22, 22, 22, 170], 4 * k);
    }
    context.putImageData(image, 0, 0);
  }, [found, name]);
  return (
    <Hatching
      className="mask"
      ref={canvas}
      width={found?.width ?? 1}
      height={found?.height ?? 1}
      aria-hidden
      style={props.style}
    />
  );
}
