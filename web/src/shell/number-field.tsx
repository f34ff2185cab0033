import { type KeyboardEvent, useEffect, useState } from 'react';
import { useWayBack } from './use-way-back.ts';

/**
 * Reads what a person types for a number: a comma or a point for decimals, a unit after it is ignored.
 * @returns undefined for what is no number
 */
export function parseNumber(text: string): number | undefined {
  const match = /^\s*([-−+]?\d+(?:[.,]\d+)?)\s*(?:°|%|px|mm|ppi)?\s*$/.exec(text);
  return match ? Number(match[1]!.replace(',', '.').replace('−', '-')) : undefined;
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
  const isWrong = isTyped && !isWithin(parseNumber(text) ?? Number.NaN);

  const finish = () => {
    const typed = parseNumber(text);
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
      onChange(Math.min(most, Math.max(least, (parseNumber(text) ?? value) + by)));
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
