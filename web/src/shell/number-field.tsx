import { type KeyboardEvent, useEffect, useState } from 'react';

/**
 * Reads what a person types for a number: a comma or a point for decimals, a unit after it is ignored.
 * @returns undefined for what is no number
 */
export function parseNumber(text: string): number | undefined {
  const match = /^\s*([-−+]?\d+(?:[.,]\d+)?)\s*(?:°|%|px)?\s*$/.exec(text);
  return match ? Number(match[1]!.replace(',', '.').replace('−', '-')) : undefined;
}

/** A figure that is typed over in place: Enter or leaving keeps it, arrows step, Escape takes it back. */
export function NumberField({
  label,
  value,
  digits = 0,
  unit = '',
  step = 1,
  onChange,
}: {
  label: string;
  value: number;
  digits?: number;
  unit?: string;
  step?: number;
  onChange: (value: number) => void;
}) {
  const shown = value.toLocaleString('en', {
    maximumFractionDigits: digits,
    useGrouping: false,
  });
  const [text, setText] = useState(shown);
  const [isTyped, setTyped] = useState(false);
  useEffect(() => setText(shown), [shown]);
  const isWrong = isTyped && parseNumber(text) === undefined;

  const finish = () => {
    const typed = parseNumber(text);
    if (isTyped && typed !== undefined && typed !== Number(shown)) onChange(typed);
    else setText(shown);
    setTyped(false);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'Enter') event.currentTarget.blur();
    if (event.key === 'Escape') {
      event.stopPropagation();
      setText(shown);
      setTyped(false);
    }
    if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      const by = (event.key === 'ArrowUp' ? step : -step) * (event.shiftKey ? 10 : 1);
      onChange((parseNumber(text) ?? value) + by);
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
        onFocus={(event) => event.currentTarget.select()}
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
