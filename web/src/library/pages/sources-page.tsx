import { missingOf, sourceLineOf, sourcesAsCsv, sourcesAsHtml, sourcesAsText } from '@miradero/core/formats';
import type { PatchPicture, Picture } from '@miradero/core/schema';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { GatherLine, GatherRoom } from '../../gather/index.ts';
import {
  EditableText,
  LIBRARY,
  Lintel,
  saveFile,
  Thumb,
  useBoards,
  useSubjects,
  useSync,
  useTheme,
  WEB_ADDRESS,
} from '../../shell/index.ts';
import { patchedBy, patchPicture, pathOfPicture } from '../../sync/index.ts';
import { askedOf } from '../finding/library-query.ts';
import { allOf } from '../finding/use-library.ts';

const UNSAID = '–';

/** Hands a text out as a file. */
const save = (name: string, type: string, text: string): void =>
  saveFile(new Blob([text], { type: `${type};charset=utf-8` }), name);

function Line({
  picture,
  onPatch,
}: {
  picture: Picture;
  onPatch: (picture: string, patch: PatchPicture) => void;
}) {
  const { id, source, useMark } = picture;
  const missing = missingOf(picture);
  const cell = (key: 'creator' | 'licence' | 'page', label: string, kind?: typeof WEB_ADDRESS) => (
    <td
      data-name={label.toLowerCase()}
      className="max-w-56 py-1 pr-4 align-middle max-lg:col-start-2 max-lg:max-w-none max-lg:flex max-lg:items-center max-lg:gap-2 max-lg:py-0.5 max-lg:before:w-16 max-lg:before:shrink-0 max-lg:before:text-muted max-lg:before:content-[attr(data-name)] [&_input]:text-left"
    >
      <EditableText
        label={`${label} of ${picture.name}`}
        value={source[key] ?? ''}
        placeholder={UNSAID}
        {...(kind ? { kind } : {})}
        onChange={(text) => onPatch(id, { source: { [key]: text === '' ? null : text } })}
      />
    </td>
  );
  return (
    <tr className="border-line border-b max-lg:grid max-lg:grid-cols-[72px_1fr] max-lg:py-2">
      <td className="w-16 py-1 pr-3 max-lg:row-span-5">
        <span className="grid h-11 w-14 place-items-center bg-[#797979]">
          <Thumb picture={picture} width={54} height={42} />
        </span>
      </td>
      <td className="max-w-64 truncate pr-4 max-lg:max-w-none">
        <Link to={`/library/${id}`} className="font-serif text-[15px] hover:underline">
          {picture.name}
        </Link>
      </td>
      {cell('creator', 'Made by')}
      {cell('licence', 'Licence')}
      {cell('page', 'Page', WEB_ADDRESS)}
      <td className="whitespace-nowrap pr-4 max-lg:col-start-2">
        <select
          aria-label={`Use of ${picture.name}`}
          className="bg-transparent"
          value={useMark ?? ''}
          onChange={(event) =>
            onPatch(id, { useMark: (event.target.value || null) as 'look' | 'work' | null })
          }
        >
          <option value="">{UNSAID}</option>
          <option value="look">only to look at</option>
          <option value="work">may go into the work</option>
        </select>
      </td>
      <td className="text-[12px] text-vermilion max-lg:col-start-2">
        {missing.length > 0 && `${missing.join(', ')} missing`}
      </td>
    </tr>
  );
}

/** Every picture of a board, a subject or a search with where it comes from; what is missing is marked. */
export function SourcesPage() {
  useTheme(undefined);
  const sync = useSync();
  const queries = useQueryClient();
  const [parameters] = useSearchParams();
  const query = parameters.toString();
  const key = [...LIBRARY, 'sources', query];
  const { data: boards = [] } = useBoards();
  const { data: subjects = [] } = useSubjects();
  const [isMissingOnly, setMissingOnly] = useState(false);
  const { data: pictures, error } = useQuery({
    queryKey: key,
    queryFn: async () => {
      // What is on its way to the server counts already.
      const { answer, bodies } = await sync.patches.duringUnder(pathOfPicture(''), () =>
        allOf(askedOf(new URLSearchParams(query))),
      );
      return answer.map((one) => patchedBy(one, bodies.get(pathOfPicture(one.id)) ?? []));
    },
  });
  useEffect(() => {
    document.title = 'Sources · Miradero';
  }, []);
  const of =
    boards.find(({ id }) => id === parameters.get('board'))?.name ??
    subjects.find(({ id }) => id === parameters.get('subject'))?.name;
  const title = of ? `Sources of ${of}` : 'Sources';
  useEffect(
    () =>
      sync.patches.subscribe((path, settled) => {
        if (settled) return;
        queries.setQueryData<Picture[]>([...LIBRARY, 'sources', query], (known) =>
          known?.map((one) =>
            pathOfPicture(one.id) === path ? patchedBy(one, sync.patches.bodiesOf(path)) : one,
          ),
        );
      }),
    [sync, queries, query],
  );
  const patch = (id: string, body: PatchPicture) => {
    const known = pictures?.find((one) => one.id === id);
    void patchPicture(sync, id, body, { ...(known ? { known } : {}), isArriving: false });
  };
  const all = pictures ?? [];
  const incomplete = all.filter((picture) => missingOf(picture).length > 0);
  const shown = isMissingOnly ? incomplete : all;
  const lines = all.map(sourceLineOf);
  const file = title.toLowerCase().replaceAll(/[^\p{L}\p{N}]+/gu, '-');
  const word = 'underline underline-offset-3';
  return (
    <main className="flex h-full flex-col">
      <Lintel status={<GatherLine />} />
      <GatherRoom />
      <div className="relative min-h-0 flex-1 overflow-auto px-6 py-6">
        <div className="mb-4 flex flex-wrap items-baseline gap-x-6 gap-y-1">
          <h1 className="font-serif text-[30px] leading-none">{title}</h1>
          <p className="text-muted">
            {pictures && (
              <>
                <span className="figures">{all.length}</span> {all.length === 1 ? 'picture' : 'pictures'}, of{' '}
                <span className="figures">{incomplete.length}</span> something is missing
              </>
            )}
          </p>
          {incomplete.length > 0 && (
            <button
              type="button"
              aria-pressed={isMissingOnly}
              className="choice text-[13px]"
              onClick={() => setMissingOnly(!isMissingOnly)}
            >
              only those
            </button>
          )}
          <span className="flex-1" />
          <span className="flex items-baseline gap-4 text-[13px]">
            <span className="text-muted">hand out as</span>
            <button
              type="button"
              className={word}
              onClick={() => save(`${file}.csv`, 'text/csv', sourcesAsCsv(lines))}
            >
              CSV
            </button>
            <button
              type="button"
              className={word}
              onClick={() => save(`${file}.html`, 'text/html', sourcesAsHtml(title, lines))}
            >
              HTML
            </button>
            <button
              type="button"
              className={word}
              onClick={() => save(`${file}.txt`, 'text/plain', sourcesAsText(title, lines))}
            >
              text
            </button>
          </span>
        </div>
        {error && !pictures && <p role="alert">The sources do not come: {error.message}</p>}
        {pictures?.length === 0 && (
          <p className="border-line border-t py-8 font-serif text-[18px] text-muted italic">
            No picture is here to name a source of.
          </p>
        )}
        {shown.length > 0 && (
          <table className="w-full border-line border-t text-left text-[13px] max-lg:block">
            <thead className="text-[12px] text-muted max-lg:sr-only">
              <tr className="border-line border-b">
                {['Shown', 'Picture', 'Made by', 'Licence', 'Page', 'Use', 'Missing'].map((heading) => (
                  <th key={heading} className="py-1.5 font-normal">
                    {heading === 'Missing' || heading === 'Shown' ? (
                      <span className="sr-only">{heading}</span>
                    ) : (
                      heading
                    )}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody className="max-lg:block">
              {shown.map((picture) => (
                <Line key={picture.id} picture={picture} onPatch={patch} />
              ))}
            </tbody>
          </table>
        )}
      </div>
    </main>
  );
}
