import { LENS_IDS, type LensId, lensOf } from '@miradero/core/lens';
import type { Desk } from '../desk/index.ts';
import { NumberField } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { setLensAmount } from './lenses.ts';

/** What each is set by, in words before its figure. */
const WORDS: Readonly<Partial<Record<LensId, string>>> = {
  ...{
    steps: 'value steps',
    notan: 'tones of a notan',
    posterised: 'few colours',
    outline: 'outline, detail left out',
  },
  squint: 'squint by',
};

function LensAmount({ desk, lens }: { desk: Desk; lens: LensId }) {
  const { least, most, unit } = lensOf(lens).amount!;
  const words = WORDS[lens] ?? lensOf(lens).words;
  return (
    <div className="flex items-baseline gap-2 whitespace-nowrap px-1.5 text-[13px]">
      <span className="text-muted">{words}</span>
      <span className="figures">
        <NumberField
          label={`Figure of the lens: ${words}`}
          value={desk.lensAmount(lens)}
          {...{ least, most }}
          unit={unit && `\u2009${unit}`}
          onRefuse={(said) => desk.say(said)}
          onChange={(amount) => setLensAmount(desk, lens, amount)}
        />
      </span>
    </div>
  );
}

/** Figures of lenses: of those that are laid on, or of all that have one. */
export function LensAmounts({ desk, isOnAlone = false }: { desk: Desk; isOnAlone?: boolean }) {
  const { lenses } = useStore(desk.store);
  const isOn = (lens: LensId) => lenses.some((one) => one.lens === lens);
  return (
    <div className="flex flex-col gap-0.5">
      {LENS_IDS.filter((lens) => lensOf(lens).amount && (!isOnAlone || isOn(lens))).map((lens) => (
        <LensAmount key={lens} desk={desk} lens={lens} />
      ))}
    </div>
  );
}
