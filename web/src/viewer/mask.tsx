/** Where the picture is clipped or out of gamut, laid over it as a hatching; the core says where. */
import { useEffect, useRef, useState } from "react";
import { BYTES, got, server } from "../api/client";
import { atRest } from "../api/rest";
import { sized } from "./framing";
import type { Wish } from "./live";

export type MaskName = "black" | "white" | "outside";

/** The core's bit for each mask, and the ink it is hatched with. */
const MASKS: Record<MaskName, { bit: number; ink: [number, number, number] }> = {
  black: { bit: 1, ink: [169, 214, 194] },
  white: { bit: 2, ink: [200, 120, 20] },
  outside: { bit: 4, ink: [214, 130, 226] },
};
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
    const { bit, ink } = MASKS[name];
    const image = context.createImageData(found.width, found.height);
    for (let k = 0; k < found.bits.length; k++) {
      if (!(found.bits[k]! & bit)) continue;
      const stripe = ((k % found.width) + Math.floor(k / found.width)) % 8 < 4;
      image.data.set(stripe ? [...ink, 255] : [22, 22, 22, 170], 4 * k);
    }
    context.putImageData(image, 0, 0);
  }, [found, name]);
  return (
    <canvas
      ref={canvas}
      width={found?.width ?? 1}
      height={found?.height ?? 1}
      aria-hidden
      style={{ ...props.style, pointerEvents: "none" }}
    />
  );
}
