import type { LaidLens } from '@miradero/core/lens';
import { grownRegion, movedRegion } from '@miradero/core/picture';
import type { Region } from '@miradero/core/schema';
import { useEffect, useState } from 'react';
import { useLocation, useNavigate, useParams } from 'react-router';
import { PERCHABLE, usePlace } from '../../commands/index.ts';
import { GatherLine, GatherRoom } from '../../gather/index.ts';
import { Lintel, Message, useTheme } from '../../shell/index.ts';
import { ask } from '../../sync/index.ts';
import { PICTURE } from '../commands.ts';
import { PictureLabel } from '../labels/picture-label.tsx';
import type { Marking } from '../labels/regions.tsx';
import { usePicture } from '../labels/use-picture.ts';
import { LoneLenses, withLens } from './lone-lenses.tsx';
import { LoneStage } from './lone-stage.tsx';

const NOTICE_MS = 6_000;
/** A press of an arrow, in shares of the picture's sides. */
const STEP = 0.01;

/** One picture alone: on the stage as large as it will, beside it everything known of it. */
export function PicturePage() {
  useTheme(undefined);
  const { id = '' } = useParams();
  const navigate = useNavigate();
  const location = useLocation();
  const { picture, trouble, patch } = usePicture(id);
  const [marking, setMarking] = useState<Marking>();
  const [held, setHeld] = useState<number>();
  const [lenses, setLenses] = useState<readonly LaidLens[]>([]);
  const [notice, say] = useState('');
  useEffect(() => {
    const timer = setTimeout(() => say(''), NOTICE_MS);
    return () => clearTimeout(timer);
  }, [notice]);
  const back = (location.state as { from?: string } | null)?.from ?? '/library';
  const name = picture?.name;
  useEffect(() => {
    document.title = `${name ?? 'Picture'} · Miradero`;
  }, [name]);
  useEffect(() => {
    void ask('POST /api/pictures/:id/looked', { parameters: { id } }).catch(() => {
      // That somebody looked is no loss when the server is away.
    });
  }, [id]);
  const regionOf = (index: number | undefined): Region | undefined =>
    (index === undefined ? undefined : picture?.purposes[index]?.region) ?? undefined;
  const alter = (index: number, region: Region) => {
    if (!picture) return;
    patch({ purposes: picture.purposes.map((one, at) => (at === index ? { ...one, region } : one)) });
  };
  const steer = (by: (region: Region) => Region) => {
    const region = regionOf(held);
    if (region) alter(held!, by(region));
    else say('Take hold of a marked part first: press it, or its name.');
  };
  usePlace(PERCHABLE, { shows: () => ({ kind: 'pictures', pictures: [id] }) });
  usePlace(PICTURE, {
    leave() {
      if (marking) setMarking(undefined);
      else if (held !== undefined) setHeld(undefined);
      else void navigate(back);
    },
    move: (x, y) => steer((region) => movedRegion(region, { x: x * STEP, y: y * STEP })),
    grow: (x, y) => steer((region) => grownRegion(region, { x: x * STEP, y: y * STEP })),
    look: (lens) => setLenses((now) => (lens === undefined ? [] : withLens(now, lens))),
    forget() {
      if (!picture || !regionOf(held)) return say('Take hold of a marked part first: press it, or its name.');
      patch({ purposes: picture.purposes.filter((_, at) => at !== held) });
      setHeld(undefined);
    },
  });
  if (trouble) return <Message title="This picture is not here">{trouble}</Message>;
  const onRegion = (region: Region) => {
    if (!picture || !marking) return;
    patch({ purposes: [...picture.purposes, { ...marking, region }] });
    setMarking(undefined);
    setHeld(picture.purposes.length);
  };
  return (
    <main className="flex h-full flex-col">
      <Lintel status={<GatherLine />} home={back}>
        <h1 className="min-w-0 shrink truncate font-serif text-[16px] italic">
          {picture?.name ?? 'Picture'}
        </h1>
      </Lintel>
      <GatherRoom />
      <div className="relative flex min-h-0 flex-1 max-md:flex-col">
        {picture && (
          <>
            <LoneStage
              key={picture.id}
              picture={picture}
              marked={picture.purposes.flatMap(({ region, purpose, isNot }, index) =>
                region ? [{ index, region, words: isNot ? `not this ${purpose}` : purpose }] : [],
              )}
              held={regionOf(held) && held}
              onMark={marking ? onRegion : undefined}
              onHold={setHeld}
              onAlter={alter}
              lenses={lenses}
            />
            <LoneLenses lenses={lenses} onLay={setLenses} onRefuse={say} />
            <p
              role="status"
              className="absolute bottom-3 left-3 border border-line bg-raised px-3 py-2 text-[13px] empty:hidden"
            >
              {notice}
            </p>
            <PictureLabel
              picture={picture}
              patch={patch}
              marking={marking}
              onMark={setMarking}
              onGoTo={setHeld}
            />
          </>
        )}
      </div>
    </main>
  );
}
