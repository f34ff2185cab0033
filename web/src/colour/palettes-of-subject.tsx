import { cellWords } from '@miradero/core/subject';
import { useQuery } from '@tanstack/react-query';
import { KEPT_PALETTES, keptPalettes } from './kept-palettes.ts';
import { copyText } from './readings.ts';

/** Palettes of the shelf that belong to a subject, and from where it is seen with them; a patch that is pressed is copied. */
export function PalettesOfSubject({ subject, onSay }: { subject: string; onSay: (words: string) => void }) {
  const { data } = useQuery({ queryKey: KEPT_PALETTES, staleTime: 0, queryFn: keptPalettes });
  const own = (data ?? []).filter((palette) => palette.subject === subject);
  if (own.length === 0) return null;
  const copy = async (hex: string) =>
    onSay((await copyText(window, hex)) ? `Copied: ${hex}.` : `The clipboard could not be written: ${hex}.`);
  return (
    <section aria-label="Palettes" className="mt-5">
      <h2 className="mb-1 font-serif text-[16px] text-muted italic">palettes</h2>
      <ul className="grid gap-3">
        {own.map(({ id, title, swatches, viewpoint }) => (
          <li key={id}>
            <div className="flex h-9">
              {swatches.map(({ hex, share, name }, index) => (
                <button
                  key={`${index} ${hex}`}
                  type="button"
                  aria-label={`Copy ${name} ${hex}`}
                  title={`${name} ${hex}`}
                  style={{ background: hex, flexGrow: Math.max(0.04, share), flexBasis: 0 }}
                  onClick={() => void copy(hex)}
                />
              ))}
            </div>
            <p className="flex justify-between gap-3 pt-1 text-[13px]">
              <bdi className="min-w-0 truncate">{title || 'Palette'}</bdi>
              {viewpoint && <span className="text-muted">{cellWords(viewpoint.sector, viewpoint.band)}</span>}
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}
