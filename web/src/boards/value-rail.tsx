import { munsellValueOfSrgb, surroundColour } from '@miradero/core/colour';
import { RadioGroup } from 'radix-ui';

const STEPS = Array.from({ length: 11 }, (_, index) => 10 - index);
const greyOf = (value: number) => surroundColour(value);

/** The narrow strip of eleven value steps at the left edge. It sets the surround. */
export function ValueRail({
  surround,
  onSurround,
}: {
  surround: number;
  onSurround: (value: number) => void;
}) {
  return (
    <RadioGroup.Root
      className="flex w-[34px] shrink-0 flex-col border-line border-r bg-paper px-[6px] py-[10px]"
      aria-label="Value of the surround"
      value={String(surround)}
      onValueChange={(value) => onSurround(Number(value))}
    >
      {STEPS.map((value) => {
        const grey = greyOf(value);
        const level = Number(grey.match(/\d+/)?.[0]);
        const isLight = munsellValueOfSrgb(level, level, level) > 5.5;
        return (
          <RadioGroup.Item
            key={value}
            value={String(value)}
            aria-label={`Value ${value}`}
            title={`Surround at value ${value}`}
            className="figures relative flex-1 data-[state=checked]:z-10 data-[state=checked]:outline-2 data-[state=checked]:outline-verdigris data-[state=checked]:outline-offset-1"
            style={{ background: grey, color: isLight ? '#1d1d1b' : '#f4f4f2' }}
          >
            {value}
          </RadioGroup.Item>
        );
      })}
    </RadioGroup.Root>
  );
}
