import { lensOf } from '@miradero/core/lens';
import type { Desk } from '../desk/index.ts';
import { NumberField } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { setLensAmount } from './lenses.ts';

/** How far the eyes are closed while squinting. */
export function SquintAmount({ desk }: { desk: Desk }) {
  useStore(desk.store);
  const { least, most, unit } = lensOf('squint').amount!;
  return (
    <div className="flex items-baseline gap-2 whitespace-nowrap px-1.5 text-[13px]">
      <span className="text-muted">squint by</span>
      <span className="figures">
        <NumberField
          label="How much squinting blurs"
          value={desk.lensAmount('squint')}
          least={least}
          most={most}
          unit={`\u2009${unit}`}
          onRefuse={(words) => desk.say(words)}
          onChange={(amount) => setLensAmount(desk, 'squint', amount)}
        />
      </span>
    </div>
  );
}
