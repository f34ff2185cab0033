import { wordsOfGist } from '@miradero/core/history';
import { useState } from 'react';
import {
  forgetName,
  type KnownHistory,
  momentWords,
  nameState,
  type PastBoard,
  PastLine,
  renameState,
} from '../../history/index.ts';
import { EditableName } from '../../shell/index.ts';
import { useStore } from '../../state/index.ts';
import { ActionWord } from '../action-word.tsx';
import type { OpenedPast } from './use-past.ts';
import { usePastActions } from './use-past-actions.ts';

/** What there is to a state, in words: when it came about, what led to it, what else was done then. */
function wordsAt({ line }: KnownHistory, past: PastBoard, at: number): { when: string; what: string } {
  const stretch = line.stretchOf(at);
  if (!stretch) return { when: 'Before anything was done', what: '' };
  const { lastChange } = past;
  const when = momentWords(new Date(lastChange?.revision === at ? lastChange.at : stretch.begunAt));
  const who = stretch.by === null ? '' : `by “${stretch.by}”`;
  return { when, what: [wordsOfGist(stretch.gist), who].filter(Boolean).join(', ') };
}

/** The field in which a state is named. */
function NameField({ onName }: { onName: (name: string) => void }) {
  const [text, setText] = useState('');
  return (
    <form
      className="flex items-center gap-2 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        onName(text.trim());
      }}
    >
      <input
        aria-label="Name of this state"
        placeholder="Before the fog"
        maxLength={200}
        // biome-ignore lint/a11y/noAutofocus: it is what the card was opened for
        autoFocus
        className="w-56 border border-line bg-paper px-2 py-1 font-serif text-[16px]"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <button type="submit" className="border border-ink bg-ink px-3 py-1 text-paper">
        Keep
      </button>
    </form>
  );
}

/** The line, what is there, and what can be done with it; where the sill is on a board. */
export function PastFooter({
  history,
  desk,
  past,
  at,
  show,
  trouble,
}: OpenedPast & {
  history: KnownHistory;
  at: number;
  show: (revision: number) => void;
  trouble: string;
}) {
  const { sync } = desk;
  const [isNaming, setNaming] = useState(false);
  usePastActions(desk, past, () => setNaming(true));
  useStore(past.store, ({ version }) => version);
  const latest = history.line.end;
  const { when, what } = wordsAt(history, past, at);
  const name = history.named.find(({ revision }) => revision === at);
  const selected = useStore(desk.store, ({ selection }) => selection.size);
  return (
    <footer className="shrink-0 border-line border-t bg-paper px-3.5 pt-1 max-md:px-3">
      <div className="flex">
        <PastLine
          line={history.line}
          named={history.named}
          at={at}
          words={[when, name?.name, what].filter(Boolean).join(': ')}
          onShow={show}
        />
      </div>
      <div className="flex min-h-9 items-center gap-x-3 gap-y-0.5 pb-1 max-lg:flex-wrap">
        <p className="flex min-w-0 flex-1 basis-64 items-baseline gap-2" aria-live="polite">
          <span className="figures whitespace-nowrap" data-testid="past-when">
            {at === latest && latest > 0 ? `Now: ${when}` : when}
          </span>
          <span className="min-w-0 truncate text-[13px] text-muted" title={what}>
            {trouble || what}
          </span>
        </p>
        {name && (
          <>
            <EditableName
              label="Name of this state"
              className="max-w-56 text-[16px] italic"
              name={name.name}
              onRename={(to) => renameState(sync, past.id, name, to)}
            />
            <button
              type="button"
              className="word px-1.5 py-1 text-muted underline underline-offset-3"
              onClick={() => forgetName(sync, past.id, name)}
            >
              take the name away
            </button>
          </>
        )}
        {!name && isNaming && (
          <NameField
            key={at}
            onName={(given) => {
              setNaming(false);
              nameState(sync, past.id, given, at);
            }}
          />
        )}
        {!name && !isNaming && <ActionWord id="name-past" />}
        {selected > 0 && <ActionWord id="bring-back-selected" />}
        {at < latest && <ActionWord id="bring-back-all" />}
        <ActionWord id="leave-past" />
      </div>
    </footer>
  );
}
