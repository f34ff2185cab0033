import { mkdir } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { chromium, type Page } from '@playwright/test';
import sharp from 'sharp';
import { SCENE } from './scene.ts';
import { SHOTS, type Shot } from './shots.ts';

/** Rows of one draw call: a software renderer must not be away from its watchdog for long. */
const STRIP_ROWS = 20;
const FOLDER = fileURLToPath(new URL('../pictures/', import.meta.url));

function sunOf({ sunAzimuthDeg, sunElevationDeg }: Shot): [number, number, number] {
  const azimuth = (sunAzimuthDeg * Math.PI) / 180;
  const elevation = (sunElevationDeg * Math.PI) / 180;
  return [
    Math.sin(azimuth) * Math.cos(elevation),
    Math.sin(elevation),
    Math.cos(azimuth) * Math.cos(elevation),
  ];
}

async function prepare(page: Page): Promise<void> {
  await page.setContent('<canvas></canvas>');
  // tsx marks named functions with a call of this name, which the page does not know.
  await page.evaluate('globalThis.__name = (named) => named');
  await page.evaluate((source) => {
    const canvas = document.querySelector('canvas')!;
    const gl = canvas.getContext('webgl2', { preserveDrawingBuffer: true })!;
    const compile = (kind: number, text: string) => {
      const shader = gl.createShader(kind)!;
      gl.shaderSource(shader, text);
      gl.compileShader(shader);
      if (!gl.getShaderParameter(shader, gl.COMPILE_STATUS))
        throw new Error(gl.getShaderInfoLog(shader) ?? '');
      return shader;
    };
    const program = gl.createProgram();
    const plain = '#version 300 es\nin vec2 at; void main() { gl_Position = vec4(at, 0.0, 1.0); }';
    gl.attachShader(program, compile(gl.VERTEX_SHADER, plain));
    gl.attachShader(program, compile(gl.FRAGMENT_SHADER, source));
    gl.linkProgram(program);
    if (!gl.getProgramParameter(program, gl.LINK_STATUS))
      throw new Error(gl.getProgramInfoLog(program) ?? '');
    gl.useProgram(program);
    gl.bindBuffer(gl.ARRAY_BUFFER, gl.createBuffer());
    gl.bufferData(gl.ARRAY_BUFFER, new Float32Array([-1, -1, 3, -1, -1, 3]), gl.STATIC_DRAW);
    gl.enableVertexAttribArray(0);
    gl.vertexAttribPointer(0, 2, gl.FLOAT, false, 0, 0);
    Object.assign(window, { gl, program });
  }, SCENE);
}

/** One strip as RGBA rows, top first. */
async function renderStrip(
  page: Page,
  shot: Shot,
  sun: number[],
  top: number,
  rows: number,
): Promise<Buffer> {
  const base64 = await page.evaluate(
    ({ shot, sun, top, rows }) => {
      const { gl, program } = window as unknown as { gl: WebGL2RenderingContext; program: WebGLProgram };
      gl.canvas.width = shot.width;
      gl.canvas.height = rows;
      gl.viewport(0, 0, shot.width, rows);
      const at = (name: string) => gl.getUniformLocation(program, name);
      gl.uniform2f(at('size'), shot.width, shot.height);
      gl.uniform1f(at('top'), top + rows);
      gl.uniform3fv(at('eye'), shot.eye);
      gl.uniform3fv(at('target'), shot.target);
      gl.uniform1f(at('focal'), shot.focalMm);
      gl.uniform3fv(at('sun'), sun);
      gl.uniform3fv(at('sunColour'), shot.sunColour);
      gl.uniform3fv(at('skyLow'), shot.skyLow);
      gl.uniform3fv(at('skyHigh'), shot.skyHigh);
      gl.uniform1f(at('fog'), shot.fog);
      gl.uniform1f(at('lampGlow'), shot.lampGlow);
      gl.uniform1i(at('scene'), shot.scene === 'lantern' ? 1 : 0);
      gl.drawArrays(gl.TRIANGLES, 0, 3);
      const pixels = new Uint8Array(shot.width * rows * 4);
      gl.readPixels(0, 0, shot.width, rows, gl.RGBA, gl.UNSIGNED_BYTE, pixels);
      let text = '';
      for (let row = rows - 1; row >= 0; row -= 1) {
        const line = pixels.subarray(row * shot.width * 4, (row + 1) * shot.width * 4);
        for (let index = 0; index < line.length; index += 8192) {
          text += String.fromCharCode(...line.subarray(index, index + 8192));
        }
      }
      return btoa(text);
    },
    { shot, sun, top, rows },
  );
  return Buffer.from(base64, 'base64');
}

async function renderShot(page: Page, shot: Shot): Promise<void> {
  const strips: Buffer[] = [];
  for (let top = 0; top < shot.height; top += STRIP_ROWS) {
    const rows = Math.min(STRIP_ROWS, shot.height - top);
    strips.push(await renderStrip(page, shot, sunOf(shot), top, rows));
  }
  await sharp(Buffer.concat(strips), { raw: { width: shot.width, height: shot.height, channels: 4 } })
    .removeAlpha()
    .withExif({ IFD0: { ImageDescription: shot.name, Copyright: 'Invented for the Miradero demo' } })
    .jpeg({ quality: 90, chromaSubsampling: '4:4:4' })
    .toFile(`${FOLDER}${shot.file}`);
}

/** Renders the named pictures (all without names), at a part of their size for a first look: `render.ts [scale] [file …]`. */
async function main(): Promise<void> {
  const [scaleText = '1', ...files] = process.argv.slice(2);
  const scale = Number(scaleText);
  await mkdir(FOLDER, { recursive: true });
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--use-angle=swiftshader',
    ],
  });
  const page = await browser.newPage();
  await prepare(page);
  for (const shot of SHOTS) {
    if (files.length > 0 && !files.includes(shot.file)) continue;
    const started = Date.now();
    await renderShot(page, {
      ...shot,
      width: Math.round(shot.width * scale),
      height: Math.round(shot.height * scale),
    });
    console.log(`${shot.file}: ${((Date.now() - started) / 1000).toFixed(0)} s`);
  }
  await browser.close();
}

await main();
