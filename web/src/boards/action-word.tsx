import { actionOf, runCommand, useKeyWords } from '../commands/index.ts';
import { alter, type Desk } from '../desk/index.ts';

/** Actions that a held key does, as one click does them instead. */
const INSTEAD_OF_HELD: Readonly<Record<string, { label: string; run: (desk: Desk) => void }>> = {
  turn: { label: 'turn', run: (desk) => alter.turn(desk, 90) },
  fade: { label: 'fade', run: (desk) => alter.fade(desk, -0.25) },
};
const ELSEWHERE: Readonly<Record<string, string>> = { palette: 'anything', keys: 'keys' };

/** One action as a word with its key. */
export function ActionWord({ id, desk, onDone }: { id: string; desk: Desk; onDone?: () => void }) {
  const keyOf = useKeyWords();
  const elsewhere = ELSEWHERE[id];
  const action = elsewhere
    ? { label: elsewhere, run: () => runCommand(id) }
    : { ...actionOf(id), ...INSTEAD_OF_HELD[id] };
  const key = keyOf(id);
  return (
    <button
      type="button"
      data-action={id}
      className="word flex items-center gap-1.5 whitespace-nowrap px-1.5 py-1 hover:bg-raised"
      // The stage keeps the focus, so that the next key is its.
      onPointerDown={(event) => event.preventDefault()}
      onClick={() => {
        onDone?.();
        action.run(desk);
      }}
    >
      {key && <kbd className="key">{key}</kbd>}
      {action.label}
    </button>
  );
}
