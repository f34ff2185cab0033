import { hexOfRgb, mixtureSteps, rgbOfHex } from '@miradero/core/colour';
import type { Desk } from '../desk/index.ts';
import { copyHex } from './copying.ts';

const MIXED = 7;

/** The steps between two colours that were chosen: what lies between them is at home with both. */
export function Mixture({ desk, between }: { desk: Desk; between: readonly string[] }) {
  const [one, two] = between;
  if (!one || !two)
    return one ? (
      <p className="border-line border-t py-1.5 text-muted">Press another patch: the steps between.</p>
    ) : null;
  return (
    <div className="border-line border-t py-1.5">
      {(
        [
          ['light', 'between, as light'],
          ['paint', 'as paint: a model'],
        ] as const
      ).map(([mixing, words]) => (
        <div key={mixing} className="mb-1">
          <p className="text-[12px] text-muted">{words}</p>
          <div className="flex h-7 pointer-coarse:h-10">
            {mixtureSteps(rgbOfHex(one), rgbOfHex(two), MIXED, mixing).map((colour, index) => {
              const hex = hexOfRgb(colour);
              return (
                <button
                  key={`${index} ${hex}`}
                  type="button"
                  aria-label={`Copy ${hex}`}
                  title={hex}
                  className="flex-1"
                  style={{ background: hex }}
                  onClick={() => void copyHex(desk, hex)}
                />
              );
            })}
          </div>
        </div>
      ))}
    </div>
  );
}
