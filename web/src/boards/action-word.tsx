import { useCommands, useKeyWords } from '../commands/index.ts';
import { alter, type Desk } from '../desk/index.ts';

/** Commands that a held key does, as one click does them instead. */
const INSTEAD_OF_HELD: Readonly<Record<string, { label: string; run: (desk: Desk) => void }>> = {
  turn: { label: 'turn', run: (desk) => alter.turn(desk, 90) },
};
/** Shorter than their names. */
const IN_SHORT: Readonly<Record<string, string>> = { palette: 'anything', keys: 'keys' };

/** One command as a word with its key. */
export function ActionWord({ id, desk, onDone }: { id: string; desk: Desk; onDone?: () => void }) {
  const keyOf = useKeyWords();
  const { registry, places } = useCommands();
  const instead = INSTEAD_OF_HELD[id];
  const key = keyOf(id);
  return (
    <button
      type="button"
      data-action={id}
      className="word flex shrink-0 items-center gap-1.5 whitespace-nowrap px-1.5 py-1 hover:bg-raised"
      // The stage keeps the focus, so that the next key is its.
      onPointerDown={(event) => event.preventDefault()}
      onClick={() => {
        onDone?.();
        if (instead) instead.run(desk);
        else registry.of(id).run(places);
      }}
    >
      {key && <kbd className="key">{key}</kbd>}
      {instead?.label ?? IN_SHORT[id] ?? registry.of(id).label}
    </button>
  );
}
