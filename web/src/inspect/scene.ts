/** The cloud in three dimensions: the points come from the core, three.js draws and turns them. */
import {
  BufferAttribute,
  BufferGeometry,
  Color,
  LineBasicMaterial,
  LineSegments,
  PerspectiveCamera,
  Points,
  PointsMaterial,
  Scene,
  Vector3,
  WebGLRenderer,
  SRGBColorSpace,
} from "three";
import { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import type { CloudPoints } from "../api/types";

export type Shown = "before" | "after" | "both";

export interface Drawn {
  cloud: CloudPoints;
  shown: Shown;
  /** Ways are drawn for points that move at least so far, ΔE. */
  least: number;
  /** Marked points: L, a, b before and after. */
  marks: number[][];
}

/** Names round the foot, at their hue in OKLab. */
const HUES = [
  ["0° rose", 0],
  ["90° yellow", 90],
  ["180° green", 180],
  ["270° blue", 270],
] as const;
/** Chroma of the foot's ring, and how much wider than high chroma is drawn. */
const RING = 0.3;
const WIDE = 1.55;
const FOOT = -0.04;

/** OKLab to the room: lightness up, chroma to the sides. */
export function placed(lab: ArrayLike<number>, into: Float32Array, count: number): Float32Array {
  for (let i = 0; i < count; i++) {
    into[3 * i] = (lab[3 * i + 1] ?? 0) * WIDE;
    into[3 * i + 1] = lab[3 * i] ?? 0;
    into[3 * i + 2] = -(lab[3 * i + 2] ?? 0) * WIDE;
  }
  return into;
}

const points = (lab: number[]) => placed(lab, new Float32Array(lab.length), lab.length / 3);

function lines(ends: Float32Array, rgb: Float32Array | null, material: LineBasicMaterial): LineSegments {
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(ends, 3));
  if (rgb) geometry.setAttribute("color", new BufferAttribute(rgb, 3));
  return new LineSegments(geometry, material);
}

/** Colours 0–255 of the screen as three.js takes them. */
function colours(rgb: number[]): Float32Array {
  const out = new Float32Array(rgb.length);
  const one = new Color();
  for (let i = 0; i < rgb.length; i += 3) {
    one.setRGB((rgb[i] ?? 0) / 255, (rgb[i + 1] ?? 0) / 255, (rgb[i + 2] ?? 0) / 255, SRGBColorSpace);
    out.set([one.r, one.g, one.b], i);
  }
  return out;
}

export interface Turned {
  turn: number;
  tilt: number;
}

/**
 * Draws into a canvas; throws where the browser has no WebGL. `onTurn` is told how the cloud stands,
 * `onLabels` where names belong.
 */
export class CloudScene {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly camera = new PerspectiveCamera(34, 1, 0.1, 20);
  private readonly controls: OrbitControls;
  private asked = 0;

  constructor(
    canvas: HTMLCanvasElement,
    private readonly onTurn: (turned: Turned) => void,
    private readonly onLabels: (labels: { text: string; x: number; y: number; near: boolean }[]) => void,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true });
    this.camera.position.set(-1.05, 0.92, 2.1);
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.target.set(0, 0.4, 0);
    this.controls.enablePan = false;
    this.controls.minDistance = 1;
    this.controls.maxDistance = 4;
    this.controls.minPolarAngle = 0.15;
    this.controls.maxPolarAngle = 1.75;
    this.controls.addEventListener("change", () => this.draw());
    this.controls.update();
  }

  /** Turns by degrees, as the arrow keys ask. */
  turn(round: number, up: number) {
    const to = this.camera.position.clone().sub(this.controls.target);
    to.applyAxisAngle(new Vector3(0, 1, 0), (round * Math.PI) / 180);
    const side = new Vector3().crossVectors(new Vector3(0, 1, 0), to).normalize();
    const tilted = to.clone().applyAxisAngle(side, (-up * Math.PI) / 180);
    const angle = tilted.angleTo(new Vector3(0, 1, 0));
    this.camera.position.copy(this.controls.target).add(angle > 0.15 && angle < 1.75 ? tilted : to);
    this.controls.update();
    this.draw();
  }

  size(width: number, height: number) {
    this.renderer.setPixelRatio(Math.min(window.devicePixelRatio, 2));
    this.renderer.setSize(width, height, false);
    this.camera.aspect = width / Math.max(height, 1);
    this.camera.updateProjectionMatrix();
    this.draw();
  }

  show(drawn: Drawn) {
    this.clear();
    const { cloud } = drawn;
    const from = points(cloud.before);
    const to = points(cloud.after);
    const at = drawn.shown === "before" ? from : to;
    const rgb = colours(drawn.shown === "before" ? cloud.before_rgb : cloud.after_rgb);
    const geometry = new BufferGeometry();
    geometry.setAttribute("position", new BufferAttribute(at, 3));
    geometry.setAttribute("color", new BufferAttribute(rgb, 3));
    this.scene.add(new Points(geometry, new PointsMaterial({ size: 0.021, vertexColors: true })));
    if (drawn.shown === "both") {
      this.edges(from, null, cloud.edges, 0x8a8a8a, 0.75);
      this.ways(from, to, rgb, cloud.delta, drawn.least);
    }
    this.edges(at, rgb, cloud.edges, 0xffffff, 1);
    this.foot();
    this.marks(drawn);
    this.draw();
  }

  private edges(
    at: Float32Array,
    rgb: Float32Array | null,
    pairs: number[],
    colour: number,
    opacity: number,
  ) {
    const ends = new Float32Array(pairs.length * 3);
    const own = rgb ? new Float32Array(pairs.length * 3) : null;
    pairs.forEach((p, i) => {
      ends.set(at.subarray(3 * p, 3 * p + 3), 3 * i);
      if (own && rgb) own.set(rgb.subarray(3 * p, 3 * p + 3), 3 * i);
    });
    const material = new LineBasicMaterial({
      color: colour,
      vertexColors: own !== null,
      transparent: true,
      opacity,
    });
    this.scene.add(lines(ends, own, material));
  }

  private ways(from: Float32Array, to: Float32Array, rgb: Float32Array, delta: number[], least: number) {
    const moved = delta.flatMap((d, i) => (d >= least ? [i] : []));
    const ends = new Float32Array(moved.length * 6);
    const own = new Float32Array(moved.length * 6);
    moved.forEach((p, i) => {
      ends.set(from.subarray(3 * p, 3 * p + 3), 6 * i);
      ends.set(to.subarray(3 * p, 3 * p + 3), 6 * i + 3);
      own.set(rgb.subarray(3 * p, 3 * p + 3), 6 * i);
      own.set(rgb.subarray(3 * p, 3 * p + 3), 6 * i + 3);
    });
    this.scene.add(
      lines(ends, own, new LineBasicMaterial({ vertexColors: true, transparent: true, opacity: 0.55 })),
    );
  }

  private foot() {
    const ring: number[] = [];
    const round = (chroma: number) => {
      for (let k = 0; k < 72; k++) {
        for (const at of [k, k + 1]) {
          const angle = (at * Math.PI) / 36;
          ring.push(Math.cos(angle) * chroma * WIDE, FOOT, -Math.sin(angle) * chroma * WIDE);
        }
      }
    };
    round(RING);
    round(RING / 2);
    for (let k = 0; k < 4; k++) {
      const angle = (k * Math.PI) / 4;
      for (const sign of [1, -1])
        ring.push(sign * Math.cos(angle) * RING * WIDE, FOOT, -sign * Math.sin(angle) * RING * WIDE);
    }
    this.scene.add(lines(new Float32Array(ring), null, new LineBasicMaterial({ color: 0x505050 })));
    this.scene.add(
      lines(new Float32Array([0, FOOT, 0, 0, 1, 0]), null, new LineBasicMaterial({ color: 0x505050 })),
    );
  }

  private marks(drawn: Drawn) {
    if (!drawn.marks.length) return;
    const from = points(drawn.marks.flatMap((m) => m.slice(0, 3)));
    const to = points(drawn.marks.flatMap((m) => m.slice(3, 6)));
    const geometry = new BufferGeometry();
    geometry.setAttribute("position", new BufferAttribute(drawn.shown === "before" ? from : to, 3));
    // A dark rim, so that a mark stands out from colours like its own.
    this.scene.add(
      new Points(
        geometry,
        new PointsMaterial({ size: 0.17, color: 0x161616, depthTest: false, transparent: true }),
      ),
    );
    this.scene.add(
      new Points(
        geometry,
        new PointsMaterial({ size: 0.11, color: 0xe0b15a, depthTest: false, transparent: true }),
      ),
    );
    if (drawn.shown !== "both") return;
    const ends = new Float32Array(drawn.marks.length * 6);
    drawn.marks.forEach((_, i) => {
      ends.set(from.subarray(3 * i, 3 * i + 3), 6 * i);
      ends.set(to.subarray(3 * i, 3 * i + 3), 6 * i + 3);
    });
    this.scene.add(lines(ends, null, new LineBasicMaterial({ color: 0xe0b15a, depthTest: false })));
  }

  /** Draws once before the screen is next refreshed, however often it is asked. */
  private draw() {
    cancelAnimationFrame(this.asked);
    this.asked = requestAnimationFrame(() => {
      this.renderer.render(this.scene, this.camera);
      const turn = ((this.controls.getAzimuthalAngle() * 180) / Math.PI + 360) % 360;
      this.onTurn({
        turn: Math.round(turn),
        tilt: Math.round(90 - (this.controls.getPolarAngle() * 180) / Math.PI),
      });
      this.onLabels(
        HUES.map(([text, hue]) => {
          const angle = (hue * Math.PI) / 180;
          const reach = RING * WIDE * 1.16;
          const at = new Vector3(Math.cos(angle) * reach, FOOT, -Math.sin(angle) * reach);
          const near =
            at.distanceTo(this.camera.position) <
            this.controls.target.distanceTo(this.camera.position) + 0.25;
          at.project(this.camera);
          return { text, x: (at.x + 1) / 2, y: (1 - at.y) / 2, near };
        }),
      );
    });
  }

  private clear() {
    for (const child of [...this.scene.children]) {
      this.scene.remove(child);
      if (child instanceof Points || child instanceof LineSegments) {
        (child.geometry as BufferGeometry).dispose();
        (child.material as PointsMaterial | LineBasicMaterial).dispose();
      }
    }
  }

  dispose() {
    cancelAnimationFrame(this.asked);
    this.clear();
    this.controls.dispose();
    this.renderer.dispose();
  }
}
