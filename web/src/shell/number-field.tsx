import { type KeyboardEvent, useEffect, useState } from 'react';
import { useWayBack } from './use-way-back.ts';

/** What may be said after a number that has its unit elsewhere. */
const UNITS: readonly string[] = ['°', '%', 'px', 'mm', 'ppi'];

/**
 * Reads what a person types for a number: a comma or a point for decimals, the unit may be said.
 *
 * @param unit - of the field
 * @returns undefined for what is no number, or one of another unit
 */
export function parseNumber(text: string, unit = ''): number | undefined {
  const match = /^\s*([-−+]?\d+(?:[.,]\d+)?)\s*(\S*)\s*$/.exec(text);
  const said = match?.[2];
  if (!match || (said && (unit ? said !== unit.trim() : !UNITS.includes(said)))) return undefined;
  return Number(match[1]!.replace(',', '.').replace('−', '-'));
}

/** What a figure may be, in words. */
function boundsWords(label: string, least: number, most: number, unit: string): string {
  const of = `${label} is a number`;
  if (Number.isFinite(most)) return `${of} from ${least} to ${most}${unit}.`;
  return Number.isFinite(least) ? `${of}, at least ${least}${unit}.` : `${of}.`;
}

/** A figure that is typed over in place: Enter or leaving keeps it, arrows step, Escape takes it back. */
export function NumberField({
  label,
  value,
  digits = 0,
  unit = '',
  step = 1,
  least = Number.NEGATIVE_INFINITY,
  most = Number.POSITIVE_INFINITY,
  onChange,
  onRefuse,
}: {
  label: string;
  value: number;
  digits?: number;
  unit?: string;
  step?: number;
  least?: number;
  most?: number;
  onChange: (value: number) => void;
  /** Says why what was typed is not kept. */
  onRefuse?: (words: string) => void;
}) {
  const shown = value.toLocaleString('en', {
    maximumFractionDigits: digits,
    useGrouping: false,
  });
  const [text, setText] = useState(shown);
  const [isTyped, setTyped] = useState(false);
  const wayBack = useWayBack();
  useEffect(() => setText(shown), [shown]);
  const isWithin = (typed: number) => typed >= least && typed <= most;
  const isWrong = isTyped && !isWithin(parseNumber(text, unit) ?? Number.NaN);

  const finish = () => {
    const typed = parseNumber(text, unit);
    if (isTyped && typed !== undefined && isWithin(typed) && typed !== Number(shown)) onChange(typed);
    else {
      if (isWrong) onRefuse?.(`“${text.trim()}” was not kept: ${boundsWords(label, least, most, unit)}`);
      setText(shown);
    }
    setTyped(false);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'Enter') wayBack.leave(event);
    if (event.key === 'Escape') {
      event.stopPropagation();
      if (!isTyped) wayBack.leave(event);
      setText(shown);
      setTyped(false);
    }
    if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      const by = (event.key === 'ArrowUp' ? step : -step) * (event.shiftKey ? 10 : 1);
      onChange(Math.min(most, Math.max(least, (parseNumber(text, unit) ?? value) + by)));
    }
  };
  return (
    <span className="inline-flex items-baseline">
      <input
        aria-label={label}
        aria-invalid={isWrong}
        inputMode="decimal"
        className="field-sizing-content min-w-6 border-transparent border-b bg-transparent px-0.5 text-right hover:border-line focus:border-ink aria-invalid:text-vermilion"
        value={text}
        onFocus={(event) => {
          wayBack.onFocus(event);
          event.currentTarget.select();
        }}
        onChange={(event) => {
          setText(event.target.value);
          setTyped(true);
        }}
        onBlur={finish}
        onKeyDown={onKeyDown}
      />
      {unit && <span aria-hidden>{unit}</span>}
    </span>
  );
}
