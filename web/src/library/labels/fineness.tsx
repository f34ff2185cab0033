import { printInches, sharpnessIn } from '@miradero/core/picture';
import type { Picture } from '@miradero/core/schema';
import { nearLensWords } from '@miradero/core/subject';
import { useState } from 'react';
import { Row } from './label-row.tsx';

const CM = 2.54;
const DEFAULT_PPI = 300;

/** How fine a picture really is, and how large it can be printed. */
export function Fineness({ picture }: { picture: Picture }) {
  const [ppi, setPpi] = useState(DEFAULT_PPI);
  const { measures, width, height } = picture;
  if (!measures) return <p className="text-[13px] text-muted">It is being measured.</p>;
  const print = (pixels: number) => printInches(pixels, ppi, measures.sharpness);
  const [w, h] = [print(width), print(height)];
  const cm = (inches: number) => (inches * CM).toFixed(1);
  const regions = picture.purposes.filter(({ region }) => region !== null && region.width > 0);
  const lens = nearLensWords(picture, Object.values(picture.views)[0]?.distance ?? null);
  const isForWork = picture.useMark === 'work';
  return (
    <dl className="text-[13px]">
      <Row name="Sharp up to">
        <span className="figures">{measures.sharpness.toFixed(2)} cycles / px</span>
      </Row>
      {regions.map(({ region, purpose }) => (
        <Row key={JSON.stringify([region, purpose])} name={`In the part for ${purpose}`}>
          <span className="figures">
            {sharpnessIn(measures.sharpnessGrid, region!).toFixed(2)} cycles / px
          </span>
        </Row>
      ))}
      <Row name="Prints at">
        <input
          type="number"
          aria-label="Pixels per inch"
          className="figures w-14 border-line border-b bg-transparent text-right"
          min={30}
          max={2400}
          step={10}
          value={ppi}
          onChange={(event) => setPpi(Math.max(1, Number(event.target.value)))}
        />{' '}
        <span className="figures">ppi</span>
      </Row>
      <Row name="as large as">
        <span className="figures">
          {cm(w.byPixels)} × {cm(h.byPixels)}&thinsp;cm
        </span>
      </Row>
      <Row name="sharp as large as">
        <span className="figures">
          about {cm(w.byDetail)} × {cm(h.byDetail)}&thinsp;cm
        </span>
      </Row>
      {isForWork && w.byDetail * CM < 10 && (
        <p className="py-1 text-vermilion">
          It goes into the work, and prints sharp no wider than {cm(w.byDetail)} cm.
        </p>
      )}
      {isForWork && lens && <p className="py-1 text-vermilion">{lens}</p>}
    </dl>
  );
}
