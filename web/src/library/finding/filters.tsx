import type { Subject } from '@miradero/core/schema';
import { PILES, PURPOSES } from '@miradero/core/schema';
import type { ReactNode } from 'react';
import { useSubjects } from '../../shell/index.ts';
import { type Asked, LIGHTNESS, without } from './library-query.ts';
import { useLibraryWords } from './use-library.ts';

function Choice({ isOn, onClick, children }: { isOn?: boolean; onClick: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      aria-pressed={isOn ?? false}
      className="choice line-clamp-2 wrap-anywhere py-0.5 text-left text-[13px]"
      onClick={onClick}
    >
      {children}
    </button>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mb-3 break-inside-avoid">
      <h2 className="mb-0.5 font-serif text-[14px] text-muted italic">{title}</h2>
      <div className="flex flex-wrap gap-x-3">{children}</div>
    </section>
  );
}

function PartChoices({
  subjects,
  asked,
  set,
}: {
  subjects: readonly Subject[];
  asked: Asked;
  set: (part: Asked) => void;
}) {
  return (
    <>
      {subjects.map(({ id, name, parts }) => (
        <Group key={id} title={name}>
          <Choice isOn={asked.subject === id} onClick={() => set({ subject: id })}>
            all of it
          </Choice>
          {parts.flatMap((part) =>
            [part, ...part.parts].map((one) => (
              <Choice key={one.id} isOn={asked.part === one.id} onClick={() => set({ part: one.id })}>
                {one.name}
              </Choice>
            )),
          )}
        </Group>
      ))}
    </>
  );
}

/** Everything that can be asked for beside words; a press adds it, and the search says it in its line. */
export function Filters({ asked, onAsk }: { asked: Asked; onAsk: (asked: Asked) => void }) {
  const { data: subjects = [] } = useSubjects();
  const { tags, licences, creators } = useLibraryWords();
  const set = (part: Asked) => onAsk({ ...asked, ...part });
  const setLightness = (part: Asked) => onAsk({ ...without(asked, ['darkest', 'lightest']), ...part });
  return (
    <div className="columns-3 gap-6 max-md:columns-1">
      <Group title="for">
        {PURPOSES.map((purpose) => (
          <Choice key={purpose} isOn={asked.purpose === purpose} onClick={() => set({ purpose })}>
            {purpose}
          </Choice>
        ))}
      </Group>
      <Group title="on the pile">
        {[...PILES, 'none' as const].map((pile) => (
          <Choice key={pile} isOn={asked.pile === pile} onClick={() => set({ pile })}>
            {pile}
          </Choice>
        ))}
      </Group>
      <Group title="of kind">
        {(['still', 'animated', 'clip', 'model'] as const).map((kind) => (
          <Choice key={kind} isOn={asked.kind === kind} onClick={() => set({ kind })}>
            {kind}
          </Choice>
        ))}
      </Group>
      <Group title="in colour">
        <label className="flex items-center gap-2 text-[13px]">
          <input
            type="color"
            aria-label="Colour to look for"
            className="h-6 w-10 border border-line"
            value={`#${asked.colour ?? '7a5a3a'}`}
            onChange={(event) => set({ colour: event.target.value.slice(1) })}
          />
          near this one
        </label>
      </Group>
      <Group title="in lightness">
        {(['dark', 'middle', 'light'] as const).map((step) => (
          <Choice key={step} onClick={() => setLightness(LIGHTNESS[step])}>
            {step}
          </Choice>
        ))}
      </Group>
      <Group title="in size">
        {[1000, 2000, 4000].map((px) => (
          <Choice key={px} isOn={asked.leastPx === px} onClick={() => set({ leastPx: px })}>
            at least {px.toLocaleString('en')} px
          </Choice>
        ))}
      </Group>
      <Group title="added">
        <label className="text-[13px]">
          since{' '}
          <input
            type="date"
            className="border-line border-b bg-transparent"
            value={asked.from ?? ''}
            onChange={(event) => set({ from: event.target.value })}
          />
        </label>
        <label className="text-[13px]">
          until{' '}
          <input
            type="date"
            className="border-line border-b bg-transparent"
            value={asked.to ?? ''}
            onChange={(event) => set({ to: event.target.value })}
          />
        </label>
      </Group>
      <Group title="to be used">
        <Choice isOn={asked.useMark === 'work'} onClick={() => set({ useMark: 'work' })}>
          may go into the work
        </Choice>
        <Choice isOn={asked.useMark === 'look'} onClick={() => set({ useMark: 'look' })}>
          only to look at
        </Choice>
        <Choice isOn={asked.useMark === 'unsaid'} onClick={() => set({ useMark: 'unsaid' })}>
          not said
        </Choice>
      </Group>
      <Group title="that">
        <Choice isOn={asked.onNoBoard ?? false} onClick={() => set({ onNoBoard: true })}>
          stands on no board
        </Choice>
        <Choice isOn={asked.noSource ?? false} onClick={() => set({ noSource: true })}>
          has no source
        </Choice>
        <Choice isOn={asked.hasCopies ?? false} onClick={() => set({ hasCopies: true })}>
          has near copies
        </Choice>
        <Choice isOn={asked.toScale ?? false} onClick={() => set({ toScale: true })}>
          is to scale
        </Choice>
        <Choice isOn={asked.isPutAway ?? false} onClick={() => set({ isPutAway: true })}>
          is put away
        </Choice>
      </Group>
      {tags.length > 0 && (
        <Group title="tagged">
          {tags.slice(0, 30).map(({ name, count, colour }) => (
            <Choice key={name} isOn={asked.tag === name} onClick={() => set({ tag: name })}>
              {colour && (
                <span aria-hidden className="mr-1 inline-block size-2" style={{ background: colour }} />
              )}
              {name} <span className="figures text-muted">{count}</span>
            </Choice>
          ))}
        </Group>
      )}
      <PartChoices
        subjects={subjects}
        asked={asked}
        set={(part) => onAsk({ ...without(asked, ['part', 'subject']), ...part })}
      />
      {creators.length > 0 && (
        <Group title="by">
          {creators.slice(0, 12).map(({ name }) => (
            <Choice key={name} isOn={asked.creator === name} onClick={() => set({ creator: name })}>
              {name}
            </Choice>
          ))}
        </Group>
      )}
      {licences.length > 0 && (
        <Group title="under">
          {licences.slice(0, 12).map(({ name }) => (
            <Choice key={name} isOn={asked.licence === name} onClick={() => set({ licence: name })}>
              {name}
            </Choice>
          ))}
        </Group>
      )}
    </div>
  );
}
