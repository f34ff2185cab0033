import type { PurposeName, Region } from '@miradero/core/schema';
import { useEffect, useState } from 'react';
import { useLocation, useNavigate, useParams } from 'react-router';
import { usePlace } from '../../commands/index.ts';
import { GatherLine, GatherRoom } from '../../gather/index.ts';
import { Lintel, Message, useTheme } from '../../shell/index.ts';
import { ask } from '../../sync/index.ts';
import { PICTURE } from '../commands.ts';
import { PictureLabel } from '../labels/picture-label.tsx';
import { usePicture } from '../labels/use-picture.ts';
import { LoneStage } from './lone-stage.tsx';

/** One picture alone: on the stage as large as it will, beside it everything known of it. */
export function PicturePage() {
  useTheme(undefined);
  const { id = '' } = useParams();
  const navigate = useNavigate();
  const location = useLocation();
  const { picture, trouble, patch } = usePicture(id);
  const [marking, setMarking] = useState<PurposeName>();
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
  usePlace(PICTURE, { leave: () => (marking ? setMarking(undefined) : void navigate(back)) });
  if (trouble) return <Message title="This picture is not here">{trouble}</Message>;
  const onRegion = (region: Region) => {
    if (!picture || !marking) return;
    patch({ purposes: [...picture.purposes, { purpose: marking, isNot: false, region }] });
    setMarking(undefined);
  };
  return (
    <main className="flex h-full flex-col">
      <Lintel status={<GatherLine />} home={back}>
        <h1 className="min-w-0 shrink truncate font-serif text-[16px] italic">
          {picture?.name ?? 'Picture'}
        </h1>
      </Lintel>
      <GatherRoom />
      <div className="flex min-h-0 flex-1 max-md:flex-col">
        {picture && (
          <>
            <LoneStage
              key={picture.id}
              picture={picture}
              marked={picture.purposes.flatMap(({ region, purpose, isNot }) =>
                region ? [{ region, words: isNot ? `not ${purpose}` : purpose }] : [],
              )}
              onMark={marking ? onRegion : undefined}
            />
            <PictureLabel picture={picture} patch={patch} marking={marking} onMark={setMarking} />
          </>
        )}
      </div>
    </main>
  );
}
