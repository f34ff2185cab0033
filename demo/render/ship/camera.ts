import { mkdir, writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { applyProjective, type Point, projectiveFromQuads, type Quad } from '@miradero/core/geometry';
import sharp, { type Sharp } from 'sharp';
import { PICTURES } from './pictures.ts';

/** What the simulated camera sees, in the interface's own folder: it ships with the application, not with the demo. */
const SCENES = fileURLToPath(new URL('../../../web/public/simulated-camera/', import.meta.url));
const TRUTH = fileURLToPath(new URL('../../truth/simulated-camera.json', import.meta.url));
const VIEW = { width: 1600, height: 1200 } as const;
/** Where the sheet's corners are seen, clockwise from its top left, pixels. */
const SHEET: Quad = [
  { x: 372, y: 168 },
  { x: 1296, y: 236 },
  { x: 1402, y: 1004 },
  { x: 214, y: 906 },
];
const PAPER_MM = { width: 297, height: 210 } as const;

const UNIT: Quad = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];

interface Raw {
  readonly data: Buffer;
  readonly width: number;
  readonly height: number;
}
async function raw(picture: Sharp): Promise<Raw> {
  const { data, info } = await picture.removeAlpha().raw().toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}

const toneAt = ({ data, width, height }: Raw, u: number, v: number, channel: number): number => {
  const x = Math.min(width - 1, Math.max(0, Math.floor(u * width)));
  const y = Math.min(height - 1, Math.max(0, Math.floor(v * height)));
  return data[(y * width + x) * 3 + channel]!;
};

/** Light tones stay bare paper; pencil never gets as dark as ink. */
const pencil = (tone: number): number => 78 + 165 * Math.min(1, (tone / 200) ** 1.3);

/** Warm light from a window at the left, falling off, and the photographer's own shadow over one corner. */
function lightAt({ x, y }: Point): number {
  const fall = 1.02 - 0.42 * (x / VIEW.width) - 0.1 * (y / VIEW.height);
  const shadow = 0.3 / (1 + Math.exp((1250 - x - 0.35 * (VIEW.height - y)) / -70));
  return fall - shadow;
}

/** A pencil drawing on a sheet that lies on planks, seen from a standing person's side, in uneven light. */
async function sketchOnTable(): Promise<Buffer> {
  const drawing = await raw(sharp(`${PICTURES}page-7-right.png`).toColourspace('srgb').resize(1400));
  const table = await raw(
    sharp(`${PICTURES}surface-wet-planks.webp`)
      .toColourspace('srgb')
      .resize(VIEW.width, VIEW.height, { fit: 'cover' }),
  );
  const toSheet = projectiveFromQuads(SHEET, UNIT);
  const data = Buffer.alloc(VIEW.width * VIEW.height * 3);
  const OVER = [0.25, 0.75];
  for (let y = 0; y < VIEW.height; y += 1) {
    for (let x = 0; x < VIEW.width; x += 1) {
      const light = lightAt({ x, y });
      for (let channel = 0; channel < 3; channel += 1) {
        const warmth = [1, 0.965, 0.9][channel]!;
        let sum = 0;
        for (const dy of OVER)
          for (const dx of OVER) {
            const { x: u, y: v } = applyProjective(toSheet, { x: x + dx, y: y + dy });
            const isOn = u >= 0 && u <= 1 && v >= 0 && v <= 1;
            // A sheet's margin stays bare.
            const [iu, iv] = [(u - 0.06) / 0.88, (v - 0.06) / 0.88];
            const isDrawn = iu >= 0 && iu <= 1 && iv >= 0 && iv <= 1;
            const stroke = isDrawn ? pencil(toneAt(drawing, iu, iv, 1)) : 243;
            sum += isOn
              ? Math.min(243, stroke)
              : 0.55 * toneAt(table, (x + dx) / VIEW.width, (y + dy) / VIEW.height, channel);
          }
        const grain = ((Math.imul(x * 7919 + y * 104_729 + channel, 2_654_435_761) >>> 24) - 128) / 40;
        data[(y * VIEW.width + x) * 3 + channel] = Math.max(
          0,
          Math.min(255, (sum / 4) * light * warmth + grain),
        );
      }
    }
  }
  return sharp(data, { raw: { ...VIEW, channels: 3 } })
    .jpeg({ quality: 82, mozjpeg: true })
    .toBuffer();
}

export async function shipCamera(): Promise<void> {
  await mkdir(SCENES, { recursive: true });
  await writeFile(`${SCENES}paper.jpg`, await sketchOnTable());
  const lantern = sharp(`${PICTURES}storm-lantern-dusk.jpg`).resize(1280, 960, { fit: 'cover' });
  await lantern.jpeg({ quality: 80, mozjpeg: true }).toFile(`${SCENES}lantern.jpg`);
  const truth = { file: 'paper.jpg', ...VIEW, sheet: SHEET, paperMm: PAPER_MM };
  await writeFile(TRUTH, `${JSON.stringify(truth, null, 1)}\n`);
}
