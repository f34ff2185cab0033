import { useState } from 'react';

/** A line that is edited in place and may be empty: Enter or leaving keeps it, Escape takes it back. */
export function EditableText({
  label,
  value,
  placeholder,
  isGood = () => true,
  onChange,
}: {
  label: string;
  value: string;
  placeholder: string;
  /** What is not good is not kept, and said to be so. */
  isGood?: (text: string) => boolean;
  onChange: (text: string) => void;
}) {
  const [text, setText] = useState<string>();
  const shown = text ?? value;
  const isBad = shown.trim() !== '' && !isGood(shown.trim());
  const keep = () => {
    if (text !== undefined && !isBad && text.trim() !== value) onChange(text.trim());
    setText(undefined);
  };
  return (
    <input
      aria-label={label}
      aria-invalid={isBad}
      className={`w-full min-w-0 truncate bg-transparent text-right hover:underline focus:underline placeholder:text-muted placeholder:italic ${isBad ? 'text-vermilion' : ''}`}
      placeholder={placeholder}
      title={shown}
      maxLength={2000}
      value={shown}
      onChange={(event) => setText(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key === 'Escape') setText(undefined);
        event.stopPropagation();
      }}
    />
  );
}
