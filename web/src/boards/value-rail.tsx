import {
  munsellValueOf,
  munsellValueOfSrgb,
  munsellValueToGrey8,
  rgbOfHex,
  surroundColour,
} from '@miradero/core/colour';
import { RadioGroup } from 'radix-ui';
import type { Desk } from '../desk/index.ts';
import { useStore } from '../state/index.ts';
import { useDistribution, usePointerValue, useSelectedColours } from './use-values.ts';

const STEPS = Array.from({ length: 11 }, (_, index) => 10 - index);
/** Space above and below the steps, CSS pixels. */
const PAD_PX = 10;
const SILHOUETTE_PX = 30;

/** Value steps are fields, each centred on its value: 10 lies in the middle of the uppermost. */
const shareFromTop = (value: number) => (10.5 - value) / STEPS.length;

/** A distribution as an outline that leans on the rail: `d` of a path in a box 1 wide and 100 high. */
function outlineOf(distribution: Float32Array): string {
  const bins = distribution.length;
  // A running mean of three takes the comb out of 8-bit pictures.
  const smooth = Array.from(distribution, (share, bin) => {
    const [before, after] = [distribution[bin - 1] ?? share, distribution[bin + 1] ?? share];
    return (before + 2 * share + after) / 4;
  });
  const most = Math.max(...smooth, 1e-6);
  const y = (value: number) => (shareFromTop(value) * 100).toFixed(2);
  const points = smooth.map(
    (share, bin) => `${Math.sqrt(share / most).toFixed(3)} ${y(((bin + 0.5) / bins) * 10)}`,
  );
  return `M0 ${y(0)}L${points.join('L')}L0 ${y(10)}Z`;
}

/** The values of the selected picture beside the steps. */
function Silhouette({ desk, surround }: { desk: Desk; surround: number }) {
  const distribution = useDistribution(desk);
  if (!distribution) return null;
  return (
    <svg
      className="pointer-events-none absolute left-full z-10"
      style={{ top: PAD_PX, height: `calc(100% - ${2 * PAD_PX}px)`, width: SILHOUETTE_PX }}
      viewBox="0 0 1 100"
      preserveAspectRatio="none"
      role="img"
      aria-label="Distribution of values in the selected picture"
      data-testid="silhouette"
    >
      <path
        d={outlineOf(distribution)}
        fill={surround >= 5 ? 'rgb(0 0 0 / 0.42)' : 'rgb(255 255 255 / 0.34)'}
      />
    </svg>
  );
}

/** Widths of the patches, CSS pixels. */
const PATCH_PX = { least: 10, most: 46, high: 16 } as const;

/** The colours of what is selected, each lying at its own value and as wide as its share. */
function ColoursAtValues({ desk }: { desk: Desk }) {
  const colours = useSelectedColours(desk);
  if (colours.length === 0) return null;
  const most = Math.max(...colours.map(({ share }) => share), 1e-6);
  return (
    <div
      className="pointer-events-none absolute left-full z-10 ml-9 max-md:ml-1"
      style={{ top: PAD_PX, height: `calc(100% - ${2 * PAD_PX}px)` }}
      role="img"
      aria-label="Colours of what is selected, at their values"
      data-testid="rail-colours"
    >
      {colours.map(({ hex, share }, index) => (
        <span
          key={`${index} ${hex}`}
          className="absolute border border-white/80 outline outline-black/30"
          style={{
            ...{ background: hex, height: PATCH_PX.high },
            top: `calc(${shareFromTop(munsellValueOf(rgbOfHex(hex))) * 100}% - ${PATCH_PX.high / 2}px)`,
            width: PATCH_PX.least + ((PATCH_PX.most - PATCH_PX.least) * share) / most,
          }}
        />
      ))}
    </div>
  );
}

/** The value under the pointer as a tick across the steps. */
function PointerTick({ desk }: { desk: Desk }) {
  const value = usePointerValue(desk);
  const isHidden = useStore(desk.store, ({ tool }) => tool?.hidesValues === true);
  if (value === undefined || isHidden) return null;
  return (
    <div
      className="pointer-events-none absolute inset-x-0 z-20"
      style={{ top: PAD_PX, height: `calc(100% - ${2 * PAD_PX}px)` }}
      data-testid="pointer-value"
      data-value={value.toFixed(2)}
    >
      <div
        className="absolute left-[3px] flex -translate-y-1/2 items-center"
        style={{ top: `${shareFromTop(value) * 100}%` }}
      >
        <div className="h-[3px] w-[46px] border-y border-y-white/70 bg-ochre" />
        <span className="figures border border-line bg-raised px-1 text-ink">{value.toFixed(1)}</span>
      </div>
    </div>
  );
}

/**
 * The narrow strip of eleven value steps at the left edge. It sets the surround, shows the value under the pointer, and
 * how the values of the selected picture are distributed.
 */
export function ValueRail({
  desk,
  surround,
  onSurround,
}: {
  desk: Desk;
  surround: number;
  onSurround: (value: number) => void;
}) {
  return (
    <div className="relative flex w-[34px] shrink-0 border-line border-r bg-paper">
      <RadioGroup.Root
        className="flex flex-1 flex-col px-[6px]"
        style={{ paddingBlock: PAD_PX }}
        aria-label="Value of the surround"
        value={String(surround)}
        onValueChange={(value) => onSurround(Number(value))}
      >
        {STEPS.map((value) => {
          const level = munsellValueToGrey8(value);
          const isLight = munsellValueOfSrgb(level, level, level) > 5.5;
          return (
            <RadioGroup.Item
              key={value}
              value={String(value)}
              aria-label={`Value ${value}`}
              title={`Surround at value ${value}`}
              className="figures relative flex-1 data-[state=checked]:z-10 data-[state=checked]:outline-2 data-[state=checked]:outline-verdigris data-[state=checked]:outline-offset-1"
              // All of the scale is seen, however low the window is.
              style={{
                ...{ minHeight: 0, background: surroundColour(value) },
                color: isLight ? '#1d1d1b' : '#f4f4f2',
              }}
            >
              {value}
            </RadioGroup.Item>
          );
        })}
      </RadioGroup.Root>
      <Silhouette desk={desk} surround={surround} />
      <ColoursAtValues desk={desk} />
      <PointerTick desk={desk} />
    </div>
  );
}
