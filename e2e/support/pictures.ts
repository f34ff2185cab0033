import sharp from 'sharp';

/** A JPEG that tells which one it is: a coloured ground with a light square in its top left quarter. */
export async function testPicture(seed: number, width = 900, height = 600, quality = 90): Promise<Buffer> {
  const hue = (seed * 67) % 360;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">
    <rect width="100%" height="100%" fill="hsl(${hue} 45% 40%)"/>
    <rect x="${width * 0.1}" y="${height * 0.1}" width="${width * 0.3}" height="${height * 0.3}" fill="hsl(${hue} 60% 85%)"/>
    <text x="${width * 0.55}" y="${height * 0.8}" font-size="${height * 0.3}" fill="white">${seed}</text></svg>`;
  return sharp(Buffer.from(svg)).jpeg({ quality }).toBuffer();
}

/** A PNG of noise with the bytes of a photograph. */
export async function heavyPicture(seed: number, side = 1400): Promise<Buffer> {
  const data = Buffer.alloc(side * side * 3);
  let state = seed + 1;
  for (let index = 0; index < data.length; index += 1) {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    data[index] = state >>> 24;
  }
  return sharp(data, { raw: { width: side, height: side, channels: 3 } })
    .png({ compressionLevel: 1 })
    .toBuffer();
}
