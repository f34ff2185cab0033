import { useEffect, useState } from 'react';

/** Reads a length: a point or a comma before decimals. @returns undefined for what is none */
const read = (text: string): number | undefined =>
  /^\s*\d+(?:[.,]\d+)?\s*$/.test(text) ? Number(text.replace(',', '.')) : undefined;

const write = (value: number): string => String(Math.round(value * 1_000) / 1_000);

/** A figure of a sheet that counts while it is typed. What is no figure is marked, and nothing is told of it. */
export function LengthField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number;
  onChange: (value: number) => void;
}) {
  const [text, setText] = useState(write(value));
  const isWrong = read(text) === undefined;
  useEffect(() => {
    setText((was) => (read(was) === undefined || write(read(was)!) !== write(value) ? write(value) : was));
  }, [value]);
  return (
    <input
      aria-label={label}
      aria-invalid={isWrong}
      inputMode="decimal"
      className="figures w-20 border border-line bg-paper px-2 py-1 text-right aria-invalid:border-vermilion"
      value={text}
      maxLength={12}
      onFocus={(event) => event.currentTarget.select()}
      onChange={(event) => {
        setText(event.target.value);
        const typed = read(event.target.value);
        if (typed !== undefined) onChange(typed);
      }}
      onBlur={() => setText(write(value))}
    />
  );
}
