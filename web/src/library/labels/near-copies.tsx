import type { Picture, PictureCopy, SettleCopy } from '@miradero/core/schema';
import { betterOf } from '@miradero/core/subject';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { CopyChoices, LIBRARY, Thumb, useSync } from '../../shell/index.ts';
import { ask, settleCopy } from '../../sync/index.ts';

const SIDE = 118;

const lines = ({ measures, width, height }: Picture) =>
  measures ? `${Math.round(measures.sharpness * Math.max(width, height))} lines` : 'not measured yet';
const kilobytes = (bytes: number) => `${Math.round(bytes / 1024).toLocaleString('en')}\u2009kB`;

function Side({ picture, isBetter, words }: { picture: Picture; isBetter: boolean; words: string }) {
  return (
    <div style={{ width: SIDE }} className={isBetter ? 'better' : ''}>
      <div className="grid place-items-center bg-[#797979]" style={{ height: SIDE }}>
        <Thumb picture={picture} width={SIDE} height={SIDE} />
      </div>
      <p className="pt-1 text-[12px]">
        {words}
        {isBetter && <span className="text-verdigris"> · better</span>}
      </p>
      <p className="figures">
        {picture.width} × {picture.height}
        <br />
        {lines(picture)}
        <br />
        {kilobytes(picture.bytes)}
      </p>
    </div>
  );
}

/** Two near copies side by side, the better one marked, and what can be done about them. */
export function NearCopy({
  picture,
  copy,
  onDone,
}: {
  picture: Picture;
  copy: PictureCopy;
  onDone: (kept: string) => void;
}) {
  const { data: other } = useQuery({
    queryKey: [...LIBRARY, 'picture', copy.picture],
    queryFn: () =>
      ask('GET /api/pictures/:id', { parameters: { id: copy.picture } }).then((answer) => answer.picture),
  });
  const sync = useSync();
  const [trouble, setTrouble] = useState('');
  if (!other) return null;
  const better = betterOf(picture, other);
  const settle = (keep: SettleCopy['keep']) =>
    settleCopy(sync, picture.id, other.id, keep).then(
      () => onDone(keep === 'other' ? other.id : picture.id),
      (error: Error) => setTrouble(error.message),
    );
  const word = 'text-[13px] underline decoration-1 underline-offset-3';
  return (
    <div className="border-line border-t py-2">
      <div className="flex gap-3">
        <Side picture={picture} isBetter={better === picture} words="this one" />
        <Side
          picture={other}
          isBetter={better === other}
          words={copy.isMirrored ? 'that one, mirrored' : 'that one'}
        />
      </div>
      <p className="flex flex-wrap gap-x-3 pt-1">
        <CopyChoices onSettle={(keep) => void settle(keep)} />
        <Link to={`/library/${other.id}`} className={word}>
          look at that one
        </Link>
      </p>
      {trouble && <p className="text-[13px] text-vermilion">{trouble}</p>}
    </div>
  );
}
