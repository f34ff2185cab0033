import { multiply } from '@miradero/core/board';
import { isMultiplied } from '@miradero/core/items';
import { sharpnessIn } from '@miradero/core/picture';
import type { Picture, Placement, TakenOfModel } from '@miradero/core/schema';
import { useEffect } from 'react';
import { Link } from 'react-router';
import type { Desk } from '../../desk/index.ts';
import { EditableName, useJobProgress } from '../../shell/index.ts';
import { DATE, Row } from '../label-row.tsx';
import { Standing } from '../standing.tsx';
import { AlsoOn } from './also-on.tsx';
import { PictureLabels } from './picture-labels.tsx';
import { PictureSourceRows } from './picture-source.tsx';

const sizeWords = (bytes: number) =>
  bytes >= 1024 * 1024
    ? `${(bytes / 1024 / 1024).toFixed(1)}\u2009MB`
    : `${Math.max(1, Math.round(bytes / 1024))}\u2009kB`;

/** Everything known about a picture, set like the label beside a picture in a museum. */
export function PictureLabel({ desk, item: placement }: { desk: Desk; item: Placement }) {
  const known = desk.sync.shelf.get(placement.picture);
  const facts = known?.picture ?? known?.file;
  const tiles = useJobProgress(placement.picture);
  // Of all pictures of a board they are not told; of one that is looked at they are asked for.
  const lacksMeasures = known?.picture !== undefined && known.picture.measures === undefined;
  useEffect(() => {
    if (lacksMeasures) desk.sync.shelf.want([placement.picture]);
  }, [lacksMeasures, desk, placement.picture]);
  const addedAt = facts?.addedAt;
  const bytes = known?.picture?.bytes ?? known?.file?.bytes.size;
  const state = known?.picture?.failure ?? known?.file?.refusal;
  const colour = known?.picture && colourWords(known.picture);
  const { x, y, width, height, outline } = placement.trim;
  const isTrimmed = x !== 0 || y !== 0 || width !== 1 || height !== 1 || outline !== undefined;
  const round = (n: number) => Math.round(n).toLocaleString('en');
  return (
    <>
      <EditableName
        key={placement.picture}
        label="Name of the picture"
        className="text-[20px] leading-[1.2]"
        isWrapping
        name={known?.name ?? ''}
        onRename={(name) => desk.session.renamePicture(placement.picture, name)}
      />
      {facts && (
        <p className="mb-2 truncate text-[13px] text-muted" title={facts.fileName}>
          {facts.fileName}
        </p>
      )}
      {state && <p className="mb-2 text-vermilion text-[13px]">{state}</p>}
      <dl className="text-[13px]">
        <Row name="Original">
          {round(placement.pictureWidth)} × {round(placement.pictureHeight)}&thinsp;px
        </Row>
        {isTrimmed && (
          <Row name="Trimmed to">
            {round(placement.pictureWidth * width)} × {round(placement.pictureHeight * height)}&thinsp;px
            {trimWords(placement)}
          </Row>
        )}
        <Standing desk={desk} item={placement} />
        <Row name="Over what is below">
          <button
            type="button"
            aria-pressed={isMultiplied(placement)}
            className="underline underline-offset-3"
            onClick={() => desk.session.commit(multiply([placement]))}
          >
            {isMultiplied(placement) ? 'multiplied' : 'covers it'}
          </button>
        </Row>
        {sharpWords(placement, known?.picture) && (
          <Row name="Sharp up to">{sharpWords(placement, known?.picture)}</Row>
        )}
        {tiles && <Row name="Finest detail">{tiles}</Row>}
        {colour && <Row name="Colour">{colour}</Row>}
        {bytes !== undefined && <Row name="File">{sizeWords(bytes)}</Row>}
        {known?.picture && motionWords(known.picture) && <Row name="Moves">{motionWords(known.picture)}</Row>}
        {known?.picture?.facts.taken && <TakenRows taken={known.picture.facts.taken} />}
        {lensWords(known?.picture) && <Row name="Lens">{lensWords(known?.picture)}</Row>}
        {known?.picture?.facts.paperMm && (
          <Row name="On paper">
            {known.picture.facts.paperMm.width} × {known.picture.facts.paperMm.height}&thinsp;mm
          </Row>
        )}
        {known?.picture && <AlsoOn desk={desk} picture={known.id} />}
        {addedAt && <Row name="Added">{DATE.format(new Date(addedAt))}</Row>}
      </dl>
      {known?.picture && <PictureSourceRows key={known.id} desk={desk} picture={known.picture} />}
      {known?.picture && <PictureLabels desk={desk} picture={known.picture} />}
      {known?.picture && (
        <Link
          to={`/library/${known.id}`}
          className="mt-2 block text-[13px] underline decoration-1 underline-offset-3"
        >
          look at it alone: purposes, parts, print
        </Link>
      )}
    </>
  );
}

/** What a trim is beside a rectangle. */
const trimWords = ({ trim: { lean, outline } }: Placement): string =>
  [
    ...(outline === undefined ? [] : [outline === 'ellipse' ? ', an ellipse' : ', by a lasso']),
    ...(lean ? [`, straightened by ${Math.abs(lean).toFixed(1)}°`] : []),
  ].join('');

/** To which zoom of the board its detail lasts at the size at which it stands. */
function sharpWords({ trim, width }: Placement, picture: Picture | undefined): string {
  if (!picture?.measures) return '';
  const isWhole = trim.width === 1 && trim.height === 1;
  const sharpness = isWhole ? picture.measures.sharpness : sharpnessIn(picture.measures.sharpnessGrid, trim);
  const zoom = (picture.width * trim.width * 2 * sharpness) / width;
  return sharpness === 0 ? '' : `about ${Math.round(zoom * 100)}\u2009% zoom`;
}

/** "12 frames, 1.2 s", for what moves. */
function motionWords({ kind, frames, durationMs, facts }: Picture): string {
  if (kind === 'model')
    return facts.triangles ? `a model of ${facts.triangles.toLocaleString('en')} triangles` : 'a model';
  if (kind === 'still') return '';
  const seconds = durationMs === null ? '' : `${(durationMs / 1000).toFixed(1)}\u2009s`;
  return [frames > 1 ? `${frames} frames` : '', seconds].filter(Boolean).join(', ');
}

/** From where a picture of a model was taken, and in which light: round and up, as the dials tell it. */
function TakenRows({ taken }: { taken: TakenOfModel }) {
  return (
    <>
      <Row name="Model seen from">
        {taken.azimuthDeg}° · {taken.elevationDeg}°
      </Row>
      <Row name="Lit from">
        {taken.lightAzimuthDeg}° · {taken.lightElevationDeg}°
      </Row>
    </>
  );
}

/** The lens, as long as one that shows the same on small film where the file says so. */
function lensWords(picture: Picture | undefined): string {
  const { focalLength35Mm, focalLengthMm } = picture?.facts ?? {};
  if (focalLength35Mm) return `${focalLength35Mm}\u2009mm (35 mm film)`;
  return focalLengthMm ? `${focalLengthMm}\u2009mm` : '';
}

/** A picture's own colour space, where it is not the ordinary one. */
const colourWords = ({ colour, depth }: Picture): string =>
  [colour === 'sRGB' ? '' : colour, depth && depth > 8 ? `${depth}\u2009bit` : ''].filter(Boolean).join(', ');
