import { useState } from 'react';
import { useWayBack } from './use-way-back.ts';

/** What may be kept as an address, and why other things are not. */
export const WEB_ADDRESS = {
  isGood: (text: string): boolean => /^https?:\/\//.test(text) && URL.canParse(text),
  why: 'no address of the web (https://…)',
} as const;

/** A line that is edited in place and may be empty: Enter or leaving keeps it, Escape takes it back. */
export function EditableText({
  label,
  value,
  placeholder,
  kind,
  onChange,
}: {
  label: string;
  value: string;
  placeholder: string;
  /** What it must be where it is anything; something else is not kept, and said not to be. */
  kind?: typeof WEB_ADDRESS;
  onChange: (text: string) => void;
}) {
  const [text, setText] = useState<string>();
  const [refused, setRefused] = useState('');
  const wayBack = useWayBack();
  const shown = text ?? value;
  const isBad = shown.trim() !== '' && kind !== undefined && !kind.isGood(shown.trim());
  const keep = () => {
    if (text === undefined) return;
    setRefused(isBad ? text.trim() : '');
    if (!isBad && text.trim() !== value) onChange(text.trim());
    setText(undefined);
  };
  return (
    <>
      <input
        aria-label={label}
        aria-invalid={isBad}
        className={`w-full min-w-0 truncate bg-transparent text-right hover:underline focus:underline placeholder:text-muted placeholder:italic ${isBad ? 'text-vermilion' : ''}`}
        placeholder={placeholder}
        title={shown}
        maxLength={2000}
        value={shown}
        onChange={(event) => setText(event.target.value)}
        onFocus={wayBack.onFocus}
        onBlur={keep}
        onKeyDown={(event) => {
          if (event.key === 'Enter') wayBack.leave(event);
          if (event.key === 'Escape') {
            if (text === undefined) wayBack.leave(event);
            else setText(undefined);
          }
          event.stopPropagation();
        }}
      />
      {refused !== '' && (
        <span role="alert" className="block break-words text-[12px] text-vermilion">
          “{refused.slice(0, 60)}” was not kept: {kind?.why}
        </span>
      )}
    </>
  );
}
