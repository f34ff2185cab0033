import { type ReactNode, useSyncExternalStore } from 'react';
import { actionOf, type Desk } from '../desk/index.ts';

const FOR_PICTURES = ['come-close', 'trim', 'flip', 'raise', 'lower', 'duplicate', 'remove', 'label'];
const FOR_MANY = ['come-close', 'flip', 'raise', 'lower', 'duplicate', 'remove'];
const FOR_NOTE = ['edit-note', 'come-close', 'raise', 'duplicate', 'remove'];
const FOR_TRIM = ['untrim', 'escape'];
const FOR_NOTHING = ['choose-files', 'write', 'whole-board'];

function Word({ id, desk }: { id: string; desk: Desk }) {
  const action = actionOf(id);
  return (
    <button
      type="button"
      data-action={id}
      className="flex items-center gap-1.5 whitespace-nowrap px-2 py-1 hover:bg-raised"
      // The stage keeps the focus, so that the next key is its.
      onPointerDown={(event) => event.preventDefault()}
      onClick={() => action.run(desk)}
    >
      <kbd className="key">{action.keyLabel}</kbd>
      {action.label}
    </button>
  );
}

function offer(desk: Desk): { title: string; ids: readonly string[]; hint?: string } {
  const { mode, selected } = desk;
  if (mode.kind === 'trim')
    return { title: 'Trim', ids: FOR_TRIM, hint: 'Drag across the picture, or move an edge.' };
  if (mode.kind === 'write')
    return { title: 'Note', ids: [], hint: 'Esc or a click elsewhere ends writing.' };
  const [only] = selected;
  if (selected.length > 1) return { title: `${selected.length} selected`, ids: FOR_MANY };
  if (only?.kind === 'note') return { title: 'Note', ids: FOR_NOTE };
  if (only?.kind === 'placement') {
    return { title: desk.sync.shelf.get(only.picture)?.name ?? 'Picture', ids: FOR_PICTURES };
  }
  return { title: '', ids: FOR_NOTHING, hint: 'Paste a picture, or drop files anywhere.' };
}

/** The strip along the bottom: what can be done with what is selected right now, as words with their key. */
export function Sill({ desk, zoom, perch }: { desk: Desk; zoom: ReactNode; perch: ReactNode }) {
  useSyncExternalStore(desk.subscribe, desk.version);
  const { title, ids, hint } = offer(desk);
  return (
    <footer className="flex h-11 shrink-0 items-center gap-1 border-line border-t bg-paper px-3.5">
      {title && (
        <>
          <span className="max-w-56 truncate font-serif text-[15px] italic">{title}</span>
          <span className="mx-2 h-4 w-px bg-line" aria-hidden />
        </>
      )}
      <div className="flex min-w-0 flex-1 items-center gap-0.5 overflow-x-auto">
        {hint && <span className="whitespace-nowrap pr-2 text-muted max-md:hidden">{hint}</span>}
        {ids.map((id) => (
          <Word key={id} id={id} desk={desk} />
        ))}
      </div>
      {zoom}
      {perch}
    </footer>
  );
}
