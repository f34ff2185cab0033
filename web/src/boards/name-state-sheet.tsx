import { useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { nameState } from '../history/index.ts';
import { Sheet, SheetFooter } from '../shell/index.ts';

/** Gives the state in which a board is a name, under which it is found again in its past. */
export function NameStateSheet({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const [text, setText] = useState('');
  const keep = () => {
    // Without a revision: it is that of the moment at which this arrives, after all that was done until now.
    const name = nameState(desk.sync, desk.session.id, text);
    if (name !== '')
      desk.say(`This state is named “${name}”.`, ['What happened here (Alt+Z) shows it again.']);
    onClose();
  };
  return (
    <Sheet title="Name this state" onClose={onClose} className="w-[min(420px,94vw)] px-5 py-4">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <input
          aria-label="Name of this state"
          placeholder="Before the fog"
          maxLength={200}
          className="mt-3 block w-full border border-line bg-paper px-2 py-1.5 font-serif text-[16px]"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <SheetFooter word="Keep" />
      </form>
    </Sheet>
  );
}
