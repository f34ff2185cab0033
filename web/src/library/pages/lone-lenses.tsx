import { type LaidLens, type LensId, lensOf } from '@miradero/core/lens';
import { inOrder } from '../../looking/index.ts';
import { NumberField, PopoverCard } from '../../shell/index.ts';
import { LONE_LENSES } from '../commands.ts';

/** The same lenses with one more, or without it where it is laid on. */
export function withLens(lenses: readonly LaidLens[], lens: LensId): readonly LaidLens[] {
  const others = lenses.filter((one) => one.lens !== lens);
  if (others.length < lenses.length) return others;
  return inOrder([...others, { lens, amount: lensOf(lens).amount?.usual ?? 0, on: null }]);
}

/** What a picture alone is looked at through: one word that opens them, and those that are laid on with their figures. */
export function LoneLenses({
  lenses,
  onLay,
  onRefuse,
}: {
  lenses: readonly LaidLens[];
  onLay: (lenses: readonly LaidLens[]) => void;
  onRefuse: (words: string) => void;
}) {
  return (
    <div className="absolute top-3 left-3 z-10 flex max-w-[calc(100%-24px)] flex-wrap items-baseline gap-x-4 border border-line bg-raised px-3 py-1.5 text-[13px]">
      <PopoverCard word="look" label="Look through a lens" side="bottom" align="start" className="p-2">
        <ul>
          {LONE_LENSES.map((lens) => (
            <li key={lens}>
              <button
                type="button"
                aria-pressed={lenses.some((one) => one.lens === lens)}
                className="w-full px-2 py-1 text-left hover:bg-paper aria-pressed:text-verdigris pointer-coarse:py-2.5"
                onClick={() => onLay(withLens(lenses, lens))}
              >
                {lensOf(lens).words}
              </button>
            </li>
          ))}
        </ul>
      </PopoverCard>
      {lenses.map(({ lens, amount }) => {
        const { words, amount: range } = lensOf(lens);
        return (
          <span key={lens} className="flex items-baseline gap-1.5">
            <button
              type="button"
              aria-label={`Without ${words}`}
              className="text-verdigris underline underline-offset-3"
              onClick={() => onLay(withLens(lenses, lens))}
            >
              {words}
            </button>
            {range && (
              <span className="figures">
                <NumberField
                  label={`Figure of the lens: ${words}`}
                  value={amount}
                  {...{ least: range.least, most: range.most }}
                  unit={range.unit && `\u2009${range.unit}`}
                  onRefuse={onRefuse}
                  onChange={(next) =>
                    onLay(lenses.map((one) => (one.lens === lens ? { ...one, amount: next } : one)))
                  }
                />
              </span>
            )}
          </span>
        );
      })}
    </div>
  );
}
