/**
 * Draws pictures through tables of colours with WebGL 2. It samples what the core computed and computes
 * nothing itself.
 */
import type { Planes } from "../player/messages";
import { PlaneReader } from "./planes";
import { drawsOnProcessor } from "./quick";
import type { Picture } from "./table";

const VERTEX = `#version 300 es
uniform vec4 rect;
out vec2 place;
void main() {
  vec2 corner = vec2(gl_VertexID & 1, gl_VertexID >> 1);
  place = corner;
  gl_Position = vec4(rect.xy + corner * rect.zw, 0.0, 1.0);
}`;

/**
 * Tetrahedral interpolation: walks from the cell's first corner to its last along the axes, largest part
 * first.
 */
const FRAGMENT = `#version 300 es
precision highp float;
precision highp sampler3D;
uniform sampler2D picture;
uniform sampler3D table;
uniform int top;
uniform bool finished;
in vec2 place;
out vec4 colour;
void main() {
  vec3 given = texture(picture, place).rgb;
  if (finished) {
    colour = vec4(clamp(given, 0.0, 1.0), 1.0);
    return;
  }
  vec3 p = clamp(given, 0.0, 1.0) * float(top);
  ivec3 base = min(ivec3(p), ivec3(top - 1));
  vec3 f = p - vec3(base);
  float high = max(f.r, max(f.g, f.b)), low = min(f.r, min(f.g, f.b));
  float middle = f.r + f.g + f.b - high - low;
  ivec3 first = f.r == high ? ivec3(1, 0, 0) : f.g == high ? ivec3(0, 1, 0) : ivec3(0, 0, 1);
  ivec3 second = ivec3(1) - (f.b == low ? ivec3(0, 0, 1) : f.g == low ? ivec3(0, 1, 0) : ivec3(1, 0, 0));
  vec3 c = (1.0 - high) * texelFetch(table, base, 0).rgb
    + (high - middle) * texelFetch(table, base + first, 0).rgb
    + (middle - low) * texelFetch(table, base + second, 0).rgb
    + low * texelFetch(table, base + ivec3(1), 0).rgb;
  colour = vec4(clamp(c, 0.0, 1.0), 1.0);
}`;

/** Which table a picture is drawn through; `finished` pictures are in the screen's encoding already. */
export type Slot = "look" | "other" | "original" | "finished";

/** Where one picture goes, in pixels of the canvas from its top left. */
export interface Placed {
  picture: string;
  slot: Slot;
  x: number;
  y: number;
  width: number;
  height: number;
  /** Only from this column, up to this one. */
  from?: number;
  to?: number;
  /** Only from this row, up to this one. */
  top?: number;
  bottom?: number;
}

export class NoWebGL extends Error {}

export class Painter {
  private readonly gl: WebGL2RenderingContext;
  private readonly program: WebGLProgram;
  private readonly pictures = new Map<string, { texture: WebGLTexture; width: number }>();
  private readonly tables = new Map<Slot, { texture: WebGLTexture; size: number; values: Uint16Array }>();
  private reader: PlaneReader | null = null;
  private sent: Planes | null = null;
  private readonly at: Record<"rect" | "top" | "picture" | "table" | "finished", WebGLUniformLocation | null>;

  /** Whether there is no graphics card, so that drawing is slow. */
  readonly slow: boolean;

  constructor(readonly canvas: HTMLCanvasElement) {
    const gl = canvas.getContext("webgl2", { alpha: false, antialias: false, preserveDrawingBuffer: true });
    if (!gl) throw new NoWebGL("This browser has no WebGL 2.");
    this.gl = gl;
    this.slow = drawsOnProcessor(gl);
    this.program = link(gl, VERTEX, FRAGMENT);
    gl.useProgram(this.program);
    gl.pixelStorei(gl.UNPACK_ALIGNMENT, 2);
    const where = (name: string) => gl.getUniformLocation(this.program, name);
    this.at = {
      rect: where("rect"),
      top: where("top"),
      picture: where("picture"),
      table: where("table"),
      finished: where("finished"),
    };
    gl.uniform1i(this.at.picture, 0);
    gl.uniform1i(this.at.table, 1);
    gl.bindVertexArray(gl.createVertexArray());
  }

  /**
   * Takes a table for a slot; `values` must not be changed afterwards, so that the same ones are known again
   * and not sent twice.
   */
  setTable(slot: Slot, size: number, values: Uint16Array): void {
    const { gl } = this;
    const kept = this.tables.get(slot);
    if (kept?.values === values) return;
    const texture = kept?.texture ?? gl.createTexture();
    gl.activeTexture(gl.TEXTURE1);
    gl.bindTexture(gl.TEXTURE_3D, texture);
    if (kept?.size === size) {
      gl.texSubImage3D(gl.TEXTURE_3D, 0, 0, 0, 0, size, size, size, gl.RGB, gl.HALF_FLOAT, values);
      kept.values = values;
      return;
    }
    for (const [name, value] of [
      [gl.TEXTURE_MIN_FILTER, gl.NEAREST],
      [gl.TEXTURE_MAG_FILTER, gl.NEAREST],
    ] as const) {
      gl.texParameteri(gl.TEXTURE_3D, name, value);
    }
    gl.texImage3D(gl.TEXTURE_3D, 0, gl.RGB16F, size, size, size, 0, gl.RGB, gl.HALF_FLOAT, values);
    this.tables.set(slot, { texture, size, values });
  }

  setPicture(picture: Picture): void {
    const { gl } = this;
    if (this.pictures.has(picture.key)) return;
    const texture = this.newTexture();
    gl.texImage2D(
      gl.TEXTURE_2D,
      0,
      gl.RGB16F,
      picture.width,
      picture.height,
      0,
      gl.RGB,
      gl.HALF_FLOAT,
      picture.pixels,
    );
    this.pictures.set(picture.key, { texture, width: picture.width });
  }

  /** Takes the frame of a clip as a picture, in the place of the last one of that key. rows: of its matrix. */
  setPlanes(key: string, frame: Planes, rows: readonly number[]): void {
    if (this.sent === frame && this.pictures.has(key)) return;
    this.sent = frame;
    this.reader ??= new PlaneReader(this.gl, link);
    this.reader.into(this.moving(key, frame.width), frame, rows);
  }

  /** Takes what a video element shows as a picture; its codes stay as the browser gives them. */
  setVideo(key: string, video: HTMLVideoElement): void {
    const { gl } = this;
    const texture = this.moving(key, video.videoWidth);
    gl.activeTexture(gl.TEXTURE0);
    gl.bindTexture(gl.TEXTURE_2D, texture);
    gl.pixelStorei(gl.UNPACK_COLORSPACE_CONVERSION_WEBGL, gl.NONE);
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGB, gl.RGB, gl.UNSIGNED_BYTE, video);
  }

  /** The texture of a picture that changes. */
  private moving(key: string, width: number): WebGLTexture {
    const { gl } = this;
    const kept = this.pictures.get(key);
    if (kept?.width === width) return kept.texture;
    const texture = kept?.texture ?? this.newTexture();
    this.pictures.set(key, { texture, width });
    gl.bindTexture(gl.TEXTURE_2D, texture);
    return texture;
  }

  /** A texture of a picture, bound to the first place. */
  private newTexture(): WebGLTexture {
    const { gl } = this;
    const texture = gl.createTexture();
    gl.activeTexture(gl.TEXTURE0);
    gl.bindTexture(gl.TEXTURE_2D, texture);
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, gl.LINEAR);
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, gl.LINEAR);
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_WRAP_S, gl.CLAMP_TO_EDGE);
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_WRAP_T, gl.CLAMP_TO_EDGE);
    return texture;
  }

  /** Lets go of every picture that is not named. */
  keepOnly(pictures: Set<string>): void {
    for (const [key, { texture }] of this.pictures) {
      if (pictures.has(key)) continue;
      this.gl.deleteTexture(texture);
      this.pictures.delete(key);
    }
  }

  draw(all: Placed[]): void {
    const { gl, canvas } = this;
    gl.useProgram(this.program);
    gl.viewport(0, 0, canvas.width, canvas.height);
    gl.disable(gl.SCISSOR_TEST);
    gl.clearColor(0.086, 0.086, 0.086, 1);
    gl.clear(gl.COLOR_BUFFER_BIT);
    gl.enable(gl.SCISSOR_TEST);
    for (const p of all) {
      const picture = this.pictures.get(p.picture);
      const table = this.tables.get(p.slot);
      if (!picture || (!table && p.slot !== "finished")) continue;
      const from = Math.round(p.from ?? 0);
      const to = Math.round(p.to ?? canvas.width);
      const top = Math.round(p.top ?? 0);
      const bottom = Math.round(p.bottom ?? canvas.height);
      if (to <= from || bottom <= top) continue;
      gl.scissor(from, canvas.height - bottom, to - from, bottom - top);
      gl.activeTexture(gl.TEXTURE0);
      gl.bindTexture(gl.TEXTURE_2D, picture.texture);
      // Nearest pixel: at 1:1 no value lies between two pixels, and at large zoom people want to see the
      // pixels themselves.
      const whole = p.width === picture.width && Number.isInteger(p.x) && Number.isInteger(p.y);
      const filter = whole || p.width > picture.width * 3 ? gl.NEAREST : gl.LINEAR;
      gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, filter);
      gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, whole ? gl.NEAREST : gl.LINEAR);
      gl.uniform1i(this.at.finished, table ? 0 : 1);
      if (table) {
        gl.activeTexture(gl.TEXTURE1);
        gl.bindTexture(gl.TEXTURE_3D, table.texture);
        gl.uniform1i(this.at.top, table.size - 1);
      }
      gl.uniform4f(
        this.at.rect,
        (p.x / canvas.width) * 2 - 1,
        1 - (p.y / canvas.height) * 2,
        (p.width / canvas.width) * 2,
        (-p.height / canvas.height) * 2,
      );
      gl.drawArrays(gl.TRIANGLE_STRIP, 0, 4);
    }
  }

  close(): void {
    this.keepOnly(new Set());
    for (const { texture } of this.tables.values()) this.gl.deleteTexture(texture);
    this.tables.clear();
    this.reader?.close();
    this.reader = null;
  }
}

function link(gl: WebGL2RenderingContext, vertex: string, fragment: string): WebGLProgram {
  const program = gl.createProgram();
  for (const [kind, source] of [
    [gl.VERTEX_SHADER, vertex],
    [gl.FRAGMENT_SHADER, fragment],
  ] as const) {
    const shader = gl.createShader(kind)!;
    gl.shaderSource(shader, source);
    gl.compileShader(shader);
    gl.attachShader(program, shader);
  }
  gl.linkProgram(program);
  if (!gl.getProgramParameter(program, gl.LINK_STATUS)) {
    throw new NoWebGL(`The viewer cannot draw here: ${gl.getProgramInfoLog(program) ?? "no reason given"}`);
  }
  return program;
}
