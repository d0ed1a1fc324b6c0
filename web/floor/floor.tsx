/**
 * The least that a moved control can cost in this browser, for `./saucer measure screen`: the body that the
 * bench posts is posted, a constant answer of the same size comes back, and it is drawn with the bench's own
 * drawing. Nothing is decided and nothing kept.
 */
import { createRoot } from "react-dom/client";
import { Scopes } from "../src/bench/scopes";
import { GlobalStyle } from "../src/kit/theme";
import { Painter, type Placed } from "../src/viewer/painter";
import { parseReadings, useRead } from "../src/viewer/readings";
import { parseLive, parsePicture } from "../src/viewer/table";

/**
 * What was recorded at the bench: its canvases in pixels with the pictures in them, and the bodies it posted.
 */
interface Told {
  canvases: { width: number; height: number; places: Placed[] }[];
  live: string;
  readings: string;
}

const told = (await (await fetch("told.json")).json()) as Told;
const main = document.querySelector("main")!;

const post = async (path: string, body: string): Promise<ArrayBuffer> => {
  const answer = await fetch(path, { method: "POST", body, headers: { "Content-Type": "application/json" } });
  return answer.arrayBuffer();
};

const screens = told.canvases.map(({ width, height, places }) => {
  const canvas = document.createElement("canvas");
  Object.assign(canvas, { width, height });
  canvas.dataset.drawn = "0";
  main.append(canvas);
  return { painter: new Painter(canvas), places };
});
for (const { painter, places } of screens) {
  for (const { picture } of places)
    painter.setPicture(parsePicture(picture, await (await fetch(`picture/${picture}`)).arrayBuffer()));
}

const read = document.createElement("div");
const control = document.createElement("div");
control.ariaLabel = "Control";
control.innerHTML = `<input type="range">`;
main.append(read, control);
createRoot(read).render(
  <>
    <GlobalStyle />
    <Scopes />
  </>,
);

async function draw(): Promise<void> {
  const live = parseLive(await post("live", told.live));
  for (const { painter, places } of screens) {
    painter.setTable("look", live.size, live.table);
    painter.draw(places);
    painter.canvas.dataset.drawn = String(performance.now());
  }
}

let moved = 0;
/** Constant counts would change nothing on the page: every other answer is turned round. */
async function count(): Promise<void> {
  const found = parseReadings(await post("readings", told.readings));
  moved += 1;
  useRead.setState({
    read: { ...found, histogram: moved % 2 ? found.histogram : found.histogram.map((c) => c.toReversed()) },
  });
}

const reading = new URLSearchParams(location.search).has("readings");
control.addEventListener("keydown", () => void draw().then(() => (reading ? count() : undefined)));
await draw();
await count();
