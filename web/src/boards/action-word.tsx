import { useCommands, useKeyWords } from '../commands/index.ts';

/** Shorter than their names. */
const IN_SHORT: Readonly<Record<string, string>> = {
  ...{ palette: 'anything', keys: 'keys' },
  ...{ 'trim-frame': 'rectangle', 'trim-ellipse': 'ellipse', 'trim-lasso': 'lasso', 'trim-slide': 'slide' },
};

/** One command as a word with its key. */
export function ActionWord({ id, isOn, onDone }: { id: string; isOn?: boolean; onDone?: () => void }) {
  const keyOf = useKeyWords();
  const { registry, places } = useCommands();
  const key = keyOf(id);
  return (
    <button
      type="button"
      data-action={id}
      {...(isOn !== undefined && { 'aria-pressed': isOn })}
      className="word flex shrink-0 items-center gap-1.5 whitespace-nowrap px-1.5 py-1 hover:bg-raised aria-pressed:bg-ink aria-pressed:text-paper"
      // The stage keeps the focus, so that the next key is its.
      onPointerDown={(event) => event.preventDefault()}
      onClick={() => {
        onDone?.();
        registry.of(id).run(places);
      }}
    >
      {key && <kbd className="key">{key}</kbd>}
      {IN_SHORT[id] ?? registry.of(id).label}
    </button>
  );
}
