import { cleanName } from '@miradero/core/picture';
import { type FocusEvent, type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { useWayBack } from './use-way-back.ts';

/** A name that is typed over in place: Enter or leaving keeps it, Escape takes it back. */
export function EditableName({
  label,
  name,
  onRename,
  className = 'text-[16px]',
  isWrapping = false,
}: {
  label: string;
  name: string;
  onRename: (name: string) => void;
  className?: string;
  /** Long names take several lines instead of being cut off. */
  isWrapping?: boolean;
}) {
  const [text, setText] = useState(name);
  const isLeft = useRef(false);
  const isHere = useRef(false);
  const wayBack = useWayBack();
  useEffect(() => {
    // Somebody else's name must not come under the typing hand.
    if (!isHere.current) setText(name);
  }, [name]);
  const finish = () => {
    isHere.current = false;
    const clean = cleanName(text);
    if (!isLeft.current && clean !== '' && clean !== name) onRename(clean);
    else setText(name);
    isLeft.current = false;
  };
  const common = {
    'aria-label': label,
    value: text,
    maxLength: 200,
    onChange: (event: { target: { value: string } }) => setText(event.target.value),
    onFocus: (event: FocusEvent<HTMLElement>) => {
      wayBack.onFocus(event);
      isHere.current = true;
    },
    onBlur: finish,
    onKeyDown: (event: KeyboardEvent<HTMLElement>) => {
      if (event.key === 'Escape') isLeft.current = true;
      if (event.key === 'Enter' || event.key === 'Escape') {
        event.preventDefault();
        wayBack.leave(event);
      }
    },
  };
  const look =
    'field-sizing-content -mx-1 min-w-8 max-w-full bg-transparent px-1 font-serif hover:bg-raised focus:bg-raised';
  return isWrapping ? (
    <textarea {...common} rows={1} className={`${look} block w-full resize-none ${className}`} />
  ) : (
    <input {...common} className={`${look} truncate ${className}`} />
  );
}
