/**
 * Turns the planes of a decoded frame into R'G'B' on the graphics card, by the matrix that the core declares.
 * The result is a picture like any other, in the encoding of the clip.
 */
import type { Planes } from "../player/messages";

const VERTEX = `#version 300 es
void main() {
  gl_Position = vec4(vec2(gl_VertexID & 1, gl_VertexID >> 1) * 2.0 - 1.0, 0.0, 1.0);
}`;

/**
 * Differences lie on every second column and midway between two rows (ITU-T H.273, chroma sample location
 * type 0), as the core reads them.
 */
const FRAGMENT = `#version 300 es
precision highp float;
precision highp usampler2D;
uniform usampler2D luma, blue, red;
uniform vec4 rows[3];
out vec4 colour;
vec2 codes(ivec2 at) {
  return vec2(texelFetch(blue, at, 0).r, texelFetch(red, at, 0).r);
}
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  ivec2 size = textureSize(blue, 0);
  ivec2 here = at / 2;
  int other = clamp(here.y + ((at.y & 1) == 1 ? 1 : -1), 0, size.y - 1);
  vec2 differences = 0.75 * codes(here) + 0.25 * codes(ivec2(here.x, other));
  if ((at.x & 1) == 1) {
    int next = min(here.x + 1, size.x - 1);
    vec2 beside = 0.75 * codes(ivec2(next, here.y)) + 0.25 * codes(ivec2(next, other));
    differences = 0.5 * (differences + beside);
  }
  vec4 given = vec4(float(texelFetch(luma, at, 0).r), differences, 1.0);
  colour = vec4(dot(rows[0], given), dot(rows[1], given), dot(rows[2], given), 1.0);
}`;

const NAMES = ["luma", "blue", "red"] as const;

export class PlaneReader {
  private readonly program: WebGLProgram;
  private readonly planes: WebGLTexture[];
  private readonly target: WebGLFramebuffer;
  private readonly rows: WebGLUniformLocation | null;
  private size = "";
  private drawn: WebGLTexture | null = null;

  /** Raises where the graphics card cannot draw into half floats. */
  constructor(
    private readonly gl: WebGL2RenderingContext,
    link: (gl: WebGL2RenderingContext, vertex: string, fragment: string) => WebGLProgram,
  ) {
    if (!gl.getExtension("EXT_color_buffer_float") && !gl.getExtension("EXT_color_buffer_half_float"))
      throw new Error("This graphics card cannot draw into half floats.");
    this.program = link(gl, VERTEX, FRAGMENT);
    gl.useProgram(this.program);
    NAMES.forEach((name, k) => gl.uniform1i(gl.getUniformLocation(this.program, name), k));
    this.rows = gl.getUniformLocation(this.program, "rows");
    this.planes = NAMES.map(() => gl.createTexture());
    this.target = gl.createFramebuffer();
  }

  /** Draws the frame into a texture of half floats. rows: as the clip's index gives them. */
  into(texture: WebGLTexture, frame: Planes, rows: readonly number[]): void {
    const { gl } = this;
    this.send(frame);
    const size = `${frame.width}x${frame.height}`;
    gl.bindFramebuffer(gl.FRAMEBUFFER, this.target);
    gl.activeTexture(gl.TEXTURE3);
    gl.bindTexture(gl.TEXTURE_2D, texture);
    if (this.size !== size || this.drawn !== texture) {
      gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA16F, frame.width, frame.height, 0, gl.RGBA, gl.HALF_FLOAT, null);
      gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.TEXTURE_2D, texture, 0);
      this.size = size;
      this.drawn = texture;
    }
    gl.useProgram(this.program);
    gl.uniform4fv(this.rows, rows);
    gl.disable(gl.SCISSOR_TEST);
    gl.viewport(0, 0, frame.width, frame.height);
    gl.drawArrays(gl.TRIANGLE_STRIP, 0, 4);
    gl.bindFramebuffer(gl.FRAMEBUFFER, null);
  }

  private send({ width, height, depth, data }: Planes): void {
    const { gl } = this;
    const bytes = depth > 8 ? 2 : 1;
    const sizes = [
      [width, height],
      [(width + 1) >> 1, (height + 1) >> 1],
      [(width + 1) >> 1, (height + 1) >> 1],
    ] as const;
    let at = 0;
    gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1);
    sizes.forEach(([wide, high], k) => {
      const codes =
        bytes === 2 ? new Uint16Array(data, at, wide * high) : new Uint8Array(data, at, wide * high);
      gl.activeTexture(gl.TEXTURE0 + k);
      gl.bindTexture(gl.TEXTURE_2D, this.planes[k]!);
      for (const name of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER])
        gl.texParameteri(gl.TEXTURE_2D, name, gl.NEAREST);
      const [format, kind] =
        bytes === 2 ? [gl.R16UI, gl.UNSIGNED_SHORT] : ([gl.R8UI, gl.UNSIGNED_BYTE] as const);
      gl.texImage2D(gl.TEXTURE_2D, 0, format, wide, high, 0, gl.RED_INTEGER, kind, codes);
      at += wide * high * bytes;
    });
    gl.pixelStorei(gl.UNPACK_ALIGNMENT, 2);
  }

  close(): void {
    for (const texture of this.planes) this.gl.deleteTexture(texture);
    this.gl.deleteFramebuffer(this.target);
    this.gl.deleteProgram(this.program);
  }
}
