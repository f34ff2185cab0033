import { RadioGroup } from 'radix-ui';

/** One of few words is chosen; the chosen one is underlined. */
export function Choices<T extends string>({
  label,
  words,
  value,
  onChange,
  className = '',
}: {
  label: string;
  /** In their order, each with the word for it. */
  words: Readonly<Record<T, string>>;
  value: T;
  onChange: (value: T) => void;
  className?: string;
}) {
  return (
    <RadioGroup.Root
      aria-label={label}
      className={`flex gap-3 text-[13px] ${className}`}
      value={value}
      onValueChange={(next) => onChange(next as T)}
    >
      {(Object.entries(words) as [T, string][]).map(([one, word]) => (
        <RadioGroup.Item
          key={one}
          value={one}
          className="py-1 text-muted data-[state=checked]:border-verdigris data-[state=checked]:border-b-2 data-[state=checked]:text-ink"
        >
          {word}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
