import { cleanName } from '@miradero/core/picture';
import { useEffect, useRef, useState } from 'react';

/** A name that is typed over in place: Enter or leaving keeps it, Escape takes it back. */
export function EditableName({
  label,
  name,
  onRename,
  className = 'text-[16px]',
}: {
  label: string;
  name: string;
  onRename: (name: string) => void;
  className?: string;
}) {
  const [text, setText] = useState(name);
  const isLeft = useRef(false);
  useEffect(() => setText(name), [name]);
  const finish = () => {
    const clean = cleanName(text);
    if (!isLeft.current && clean !== '' && clean !== name) onRename(clean);
    else setText(name);
    isLeft.current = false;
  };
  return (
    <input
      className={`-mx-1 field-sizing-content min-w-8 max-w-full truncate bg-transparent px-1 font-serif hover:bg-raised focus:bg-raised ${className}`}
      aria-label={label}
      value={text}
      maxLength={200}
      onChange={(event) => setText(event.target.value)}
      onBlur={finish}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key === 'Escape') {
          isLeft.current = true;
          event.currentTarget.blur();
        }
      }}
    />
  );
}
