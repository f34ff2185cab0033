import { ATLAS_CELLS_ACROSS, atlasCellOrigin, sizeAtSide } from '@miradero/core/picture';
import type { Picture } from '@miradero/core/schema';
import { memo, useState } from 'react';

const CELL = 64;

/** The smallest level that fills so many device pixels; the largest where none does. */
export const levelFor = ({ levels }: Pick<Picture, 'levels'>, side: number) =>
  levels.find((level) => level.side >= side * window.devicePixelRatio) ?? levels[levels.length - 1];

/**
 * A picture at the size of a thumb, fitted into `width` × `height` CSS pixels: its copy from the atlas at once, its
 * level over it as soon as that is decoded.
 */
export const Thumb = memo(function Thumb({
  picture,
  width,
  height,
}: {
  picture: Picture;
  width: number;
  height: number;
}) {
  const [isShown, setShown] = useState(false);
  const scale = Math.min(width / picture.width, height / picture.height);
  const size = { width: Math.max(1, picture.width * scale), height: Math.max(1, picture.height * scale) };
  const level = levelFor(picture, Math.max(size.width, size.height));
  const { atlas } = picture;
  const cell = sizeAtSide(picture.width, picture.height, CELL);
  const origin = atlas && atlasCellOrigin(atlas.slot, CELL);
  const stretch = size.width / cell.width;
  const side = CELL * ATLAS_CELLS_ACROSS;
  if (!level && !atlas)
    return (
      <span className="grid size-full place-items-center px-2 text-center text-[12px] text-black">
        {picture.failure ?? 'on its way'}
      </span>
    );
  return (
    <span
      className="relative block shrink-0 overflow-hidden"
      style={{
        ...size,
        ...(origin && !isShown
          ? {
              backgroundImage: `url(/api/levels/${atlas.hash64})`,
              backgroundSize: `${side * stretch}px ${(side * size.height) / cell.height}px`,
              backgroundPosition: `${-origin.x * stretch}px ${(-origin.y * size.height) / cell.height}px`,
            }
          : {}),
      }}
    >
      {level && (
        <img
          src={`/api/levels/${level.hash}`}
          alt=""
          draggable={false}
          className="size-full"
          onLoad={() => setShown(true)}
        />
      )}
    </span>
  );
});
