import {
  beyondGamut,
  comparedShares,
  gamutOf,
  hexToOklab,
  oklabToHex,
  type SharedColour,
} from '@miradero/core/colour';
import { Dialog } from 'radix-ui';
import { Sheet } from '../shell/index.ts';
import type { NamedPalette } from './colour-sheets.ts';

const WHEEL_PX = 240;
/** Chroma at the edge of the wheel, OKLab: no less than this, and a little more than the strongest that is shown. */
const EDGE = { least: 0.05, more: 1.25 } as const;
/** So far outside a gamut a colour is marked, OKLab chroma: less is not seen. */
const SEEN = 0.004;

const percent = (share: number): string =>
  share === 0 ? '–' : `${(share * 100).toFixed(share < 0.01 ? 1 : 0)} %`;
const counted = ({ swatches }: NamedPalette) =>
  swatches.map(({ hex, share }) => ({ ...hexToOklab(hex), share }));

/** Two palettes side by side: the share of every colour in each, and which colours of the second the first has not. */
export function ComparedSheet({
  palettes,
  onClose,
}: {
  palettes: readonly [NamedPalette, NamedPalette];
  onClose: () => void;
}) {
  const [one, two] = palettes;
  const rows = comparedShares(counted(one), counted(two));
  return (
    <Sheet onClose={onClose} className="max-h-[90vh] w-[min(680px,94vw)] overflow-auto px-6 py-5">
      <div className="mb-3 flex items-baseline justify-between">
        <Dialog.Title className="font-serif text-[22px]">Side by side</Dialog.Title>
        <Dialog.Close className="text-[13px] text-muted underline underline-offset-3">close</Dialog.Close>
      </div>
      <div className="flex flex-wrap gap-6">
        <SharesTable {...{ palettes, rows }} />
        <GamutMask {...{ palettes }} />
      </div>
    </Sheet>
  );
}

function SharesTable({
  palettes: [one, two],
  rows,
}: {
  palettes: readonly [NamedPalette, NamedPalette];
  rows: readonly SharedColour[];
}) {
  const most = Math.max(0.01, ...rows.flatMap(({ first, second }) => [first, second]));
  const bar = (share: number, hex: string) => (
    <span
      aria-hidden
      className="inline-block h-4"
      style={{ background: hex, width: `${(100 * share) / most}%` }}
    />
  );
  return (
    <table className="min-w-[280px] flex-1 text-[13px]">
      <thead>
        <tr className="text-left text-muted">
          <th className="max-w-[130px] truncate pr-2 text-right font-normal">
            <bdi>{one.title || 'Palette'}</bdi>
          </th>
          <td className="w-6" />
          <th className="max-w-[130px] truncate pl-2 font-normal">
            <bdi>{two.title || 'Palette'}</bdi>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ colour, first, second }) => {
          const hex = oklabToHex(colour);
          return (
            <tr key={`${hex} ${first} ${second}`} className="border-line border-t">
              <td className="py-1 pr-2">
                <span className="flex items-center justify-end gap-2">
                  <span className="flex w-[90px] justify-end">{bar(first, hex)}</span>
                  <span className="figures w-[44px] text-right text-[12px]">{percent(first)}</span>
                </span>
              </td>
              <td>
                <span aria-hidden className="block size-6" style={{ background: hex }} />
                <span className="sr-only">{hex}</span>
              </td>
              <td className="py-1 pl-2">
                <span className="flex items-center gap-2">
                  <span className="figures w-[44px] text-[12px]">{percent(second)}</span>
                  <span className="flex w-[90px]">{bar(second, hex)}</span>
                </span>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** The wheel with the hull of the first palette: what of the second lies outside is marked. */
function GamutMask({ palettes: [one, two] }: { palettes: readonly [NamedPalette, NamedPalette] }) {
  const colours = [...one.swatches, ...two.swatches].map(({ hex }) => hexToOklab(hex));
  const edge = Math.max(EDGE.least, EDGE.more * Math.max(...colours.map(({ a, b }) => Math.hypot(a, b))));
  const gamut = gamutOf(one.swatches.map(({ hex }) => hexToOklab(hex)));
  const at = ({ a, b }: { a: number; b: number }) => {
    const scale = WHEEL_PX / 2 / edge;
    return { x: WHEEL_PX / 2 + a * scale, y: WHEEL_PX / 2 - b * scale };
  };
  const dots = two.swatches.map(({ hex, share }) => {
    const colour = hexToOklab(hex);
    return { hex, share, ...at(colour), isOutside: beyondGamut(gamut, colour) > SEEN };
  });
  const outside = dots.filter(({ isOutside }) => isOutside);
  const share = outside.reduce((sum, dot) => sum + dot.share, 0);
  return (
    <figure className="w-[260px]">
      <svg
        viewBox={`-8 -8 ${WHEEL_PX + 16} ${WHEEL_PX + 16}`}
        className="w-full"
        role="img"
        aria-label="Hull of the first palette on the wheel, colours of the second in it"
      >
        <circle
          {...{ cx: WHEEL_PX / 2, cy: WHEEL_PX / 2, r: WHEEL_PX / 2 }}
          fill="#797979"
          stroke="var(--line)"
        />
        <polygon
          points={gamut
            .map(at)
            .map(({ x, y }) => `${x.toFixed(1)},${y.toFixed(1)}`)
            .join(' ')}
          fill="rgba(250, 250, 249, 0.22)"
          stroke="#fafaf9"
          strokeWidth={1.2}
          strokeLinejoin="round"
        />
        {dots.map(({ hex, share: part, x, y, isOutside }, index) => (
          <g key={`${index} ${hex}`} data-outside={isOutside || undefined}>
            <circle {...{ cx: x, cy: y, r: 4 + 16 * Math.sqrt(part), fill: hex, stroke: '#1d1d1b' }} />
            {isOutside && (
              <circle
                {...{ cx: x, cy: y, r: 7.5 + 16 * Math.sqrt(part), fill: 'none' }}
                stroke="#fafaf9"
                strokeWidth={2}
                strokeDasharray="4 3"
              />
            )}
          </g>
        ))}
      </svg>
      <figcaption className="text-[13px]">
        <span className="block text-[12px] text-muted">
          hue around, chroma outward; at the edge <span className="figures">{edge.toFixed(2)}</span> of OKLab
        </span>
        {outside.length === 0 ? (
          'Every colour of the second lies within the first.'
        ) : (
          <>
            Outside the first: <span className="figures">{percent(share)}</span> of the second, ringed (
            <span className="figures">{outside.map(({ hex }) => hex).join(', ')}</span>).
          </>
        )}
      </figcaption>
    </figure>
  );
}
