import { boundsOf } from '@miradero/core/board';
import { wordsOf } from '@miradero/core/items';
import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useNavigate } from 'react-router';
import type { Desk } from '../desk/index.ts';
import { useBoards } from '../shell/index.ts';
import { ACTIONS } from './actions.ts';
import { pressWords } from './key-press.ts';
import { EVERYWHERE, type Keyed, type Keymap } from './keymap.ts';
import type { EverywhereId } from './use-keys.ts';

interface Named {
  readonly id: string;
  readonly label: string;
  readonly keys: string;
  readonly run: () => void;
}

/** How well a name fits what is typed, 0..1: every word must occur; at the beginning of the name or of a word is better. */
function scoreOf(_id: string, typed: string, [label = '', heading = '']: string[] = []): number {
  const name = label.toLowerCase();
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  if (!words.every((word) => `${name} ${heading.toLowerCase()}`.includes(word))) return 0;
  const best = words.map((word) => (name.startsWith(word) ? 1 : name.includes(` ${word}`) ? 0.8 : 0.4));
  return best.reduce((sum, one) => sum + one, 0.01) / (words.length + 0.01);
}

/** As much of what stands there is shown as a name. */
const NAME_MOST = 120;

/** Everything on a board that says something: pictures by their names, notes by how they begin. */
function namedOn(desk: Desk): Named[] {
  return desk.session.standing.flatMap((item) => {
    const text = wordsOf(item, (picture) => desk.sync.shelf.get(picture)?.name).slice(0, NAME_MOST);
    if (!text) return [];
    const run = () => {
      desk.select([item.id]);
      desk.view?.showPart(boundsOf(item));
    };
    return [{ id: item.id, label: text, keys: '', run }];
  });
}

function Group({
  heading,
  entries,
  onRun,
}: {
  heading: string;
  entries: readonly Named[];
  onRun: (entry: Named) => void;
}) {
  if (entries.length === 0) return null;
  return (
    <Command.Group heading={heading} className="palette-group">
      {entries.map((entry) => (
        <Command.Item
          key={entry.id}
          value={entry.id}
          keywords={[entry.label, heading]}
          onSelect={() => onRun(entry)}
          className="flex cursor-default items-center gap-3 px-5 py-1.5 data-[selected=true]:bg-paper"
        >
          <span className="min-w-0 flex-1 truncate">{entry.label}</span>
          {entry.keys && <kbd className="key">{entry.keys}</kbd>}
        </Command.Item>
      ))}
    </Command.Group>
  );
}

/** Every action, board and thing on this board, by its name. */
export function Palette({
  keymap,
  desk,
  onEverywhere,
  onClose,
}: {
  keymap: Keymap;
  desk: Desk | undefined;
  onEverywhere: (id: EverywhereId) => void;
  onClose: () => void;
}) {
  const navigate = useNavigate();
  const { data: boards = [] } = useBoards();
  const named = (keyed: Keyed, run: () => void): Named => {
    const [press] = keymap.keysOf(keyed);
    return { id: keyed.id, label: keyed.label, keys: press === undefined ? '' : pressWords(press), run };
  };
  const actions = desk ? ACTIONS : [];
  const everywhere = EVERYWHERE.filter(({ id }) => {
    if (id === 'close-board' || id === 'put-away') return desk !== undefined;
    return id !== 'palette' && id !== 'find';
  });
  const run = (entry: Named) => {
    onClose();
    // After the dialog has given the focus back to where it came from.
    setTimeout(entry.run);
  };
  return (
    <Dialog.Root open onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content className="sheet sheet-high w-[min(560px,94vw)]" aria-describedby={undefined}>
          <Dialog.Title className="sr-only">Anything by name</Dialog.Title>
          <Command label="Anything by name" loop filter={scoreOf}>
            <Command.Input
              placeholder="What do you want to do, or find?"
              className="w-full border-line border-b bg-transparent px-5 py-3.5 font-serif text-[18px] outline-none placeholder:text-muted placeholder:italic"
            />
            <Command.List className="max-h-[min(420px,60vh)] overflow-y-auto pb-2">
              <Command.Empty className="px-5 py-6 text-muted italic">Nothing is called that.</Command.Empty>
              <Group
                heading="On this board"
                entries={actions.map((action) => named(action, () => action.run(desk!)))}
                onRun={run}
              />
              <Group
                heading="Everywhere"
                entries={everywhere.map((keyed) => named(keyed, () => onEverywhere(keyed.id)))}
                onRun={run}
              />
              <Group
                heading="Boards"
                entries={boards
                  .filter((board) => !board.putAway)
                  .map(({ id, name }) => ({
                    id,
                    label: name,
                    keys: '',
                    run: () => void navigate(`/boards/${id}`),
                  }))}
                onRun={run}
              />
              <Group heading="Standing here" entries={desk ? namedOn(desk) : []} onRun={run} />
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
