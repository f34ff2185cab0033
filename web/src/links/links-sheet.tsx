import type { BoardLink, LinkListenerSettings, LinkListening } from '@miradero/core/schema';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import { type FormEvent, useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { momentWords } from '../history/index.ts';
import { Sheet } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { ask } from '../sync/index.ts';

const WORD = 'word px-1.5 py-0.5 underline decoration-line underline-offset-3 hover:decoration-ink';
const FIELD = 'border border-line bg-paper px-2 py-1 text-ink';
/** Whoever looks may say something at any moment, ms. */
const ASK_AGAIN_MS = 4_000;
const LISTENING_MS = 1_000;
const USUAL: LinkListenerSettings = { isOn: false, host: '0.0.0.0', port: 4_890 };
const LISTENING = ['links', 'listening'] as const;

/** A path on the server's computer; empty: none. */
function PathField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (path: string) => void;
}) {
  const [text, setText] = useState(value);
  return (
    <label className="flex min-w-0 flex-1 basis-48 items-baseline gap-2 whitespace-nowrap">
      {label}
      <input
        className={`${FIELD} figures min-w-0 flex-1`}
        maxLength={1_000}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => text.trim() !== value && onChange(text.trim())}
      />
    </label>
  );
}

/** Where links are served: off until it is wanted. */
function Listening({ desk, listening }: { desk: Desk; listening: LinkListening }) {
  const { settings } = desk.sync;
  useStore(settings.store);
  const kept = settings.settings.links ?? USUAL;
  const [port, setPort] = useState(String(kept.port));
  const set = (more: Partial<LinkListenerSettings>) => settings.set({ links: { ...kept, ...more } });
  const isForAll = kept.host !== '127.0.0.1';
  return (
    <section className="mt-3 border-line border-y py-3 text-[13px]">
      <p>
        {listening.isOn ? (
          <>
            Links are served at <span className="figures select-text">{listening.address}</span>.
          </>
        ) : (
          'Links lead nowhere while nothing is served: it is off.'
        )}{' '}
        <button type="button" className={WORD} onClick={() => void set({ isOn: !kept.isOn })}>
          {kept.isOn ? 'switch it off' : 'switch it on'}
        </button>
      </p>
      {listening.why && (
        <p role="alert" className="mt-1 text-vermilion">
          {listening.why}
        </p>
      )}
      <div className="mt-2 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <label className="flex items-baseline gap-2">
          <input
            type="checkbox"
            checked={isForAll}
            onChange={() => void set({ host: isForAll ? '127.0.0.1' : '0.0.0.0' })}
          />
          for everybody who reaches this computer
        </label>
        <label className="flex items-baseline gap-2 text-muted">
          port
          <input
            className={`${FIELD} figures w-20`}
            inputMode="numeric"
            value={port}
            onChange={(event) => setPort(event.target.value)}
            onBlur={() => {
              const number = Number(port);
              if (Number.isInteger(number) && number >= 1_024 && number <= 65_535) void set({ port: number });
              else setPort(String(kept.port));
            }}
          />
        </label>
      </div>
      <div className="mt-1 flex flex-wrap gap-x-4 gap-y-1 text-muted">
        <PathField
          label="Certificate, its path"
          value={kept.certificate ?? ''}
          onChange={(certificate) => void set({ certificate })}
        />
        <PathField label="Key, its path" value={kept.key ?? ''} onChange={(key) => void set({ key })} />
      </div>
      <p className="mt-1 text-muted">
        It shows what links name and nothing else of yours. Without a certificate it is plain HTTP: whoever is
        on the way can read along.
      </p>
    </section>
  );
}

function GuestLine({ guest }: { guest: BoardLink['guests'][number] }) {
  const { name, yes, no, remarks, sentAt } = guest;
  return (
    <li className="flex flex-wrap gap-x-3 py-0.5">
      <bdi className="min-w-0 break-words">{name}</bdi>
      <span className="text-muted">
        {yes} yes, {no} no, {remarks} {remarks === 1 ? 'remark' : 'remarks'}
        {sentAt ? `; handed in ${momentWords(new Date(sentAt))}` : '; looking'}
      </span>
    </li>
  );
}

function LinkLine({
  link,
  address,
  onCopy,
  onEnd,
}: {
  link: BoardLink;
  address: string | null;
  onCopy: (text: string) => void;
  onEnd: () => void;
}) {
  const whole = `${address ?? ''}${link.path}`;
  return (
    <li className="border-line border-t py-2.5 text-[13px]">
      <p className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <span className="figures min-w-0 flex-1 basis-56 select-text break-all">{whole}</span>
        {link.endedAt === null ? (
          <>
            <button type="button" className={WORD} onClick={() => onCopy(whole)}>
              copy
            </button>
            <button type="button" className={WORD} onClick={onEnd}>
              end it
            </button>
          </>
        ) : (
          <span className="text-muted">ended {momentWords(new Date(link.endedAt))}</span>
        )}
      </p>
      <p className="text-muted">
        made {momentWords(new Date(link.createdAt))}
        {link.withOriginals ? ', with originals' : ''}
        {link.tasks ? ', with tasks' : ''}
      </p>
      {link.guests.length > 0 && (
        <ul className="mt-1">
          {link.guests.map((guest, index) => (
            <GuestLine key={index} guest={guest} />
          ))}
        </ul>
      )}
    </li>
  );
}

/** Links to look at a board: for a partner, or for a class with tasks. */
export function LinksSheet({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const { id: board, name } = desk.session.board;
  const queries = useQueryClient();
  const ofBoard = ['links', board] as const;
  const { data: links } = useQuery({
    queryKey: ofBoard,
    queryFn: async () => (await ask('GET /api/boards/:id/links', { parameters: { id: board } })).links,
    refetchInterval: ASK_AGAIN_MS,
  });
  const { data: listening } = useQuery({
    queryKey: LISTENING,
    queryFn: async () => (await ask('GET /api/links')).listening,
    // What is set is on its way for a moment.
    refetchInterval: LISTENING_MS,
  });
  const [withOriginals, setWithOriginals] = useState(false);
  const [tasks, setTasks] = useState('');
  const [trouble, setTrouble] = useState('');
  const settled = {
    onError: (error: Error) => setTrouble(error.message),
    onSuccess: () => setTrouble(''),
    onSettled: () => void queries.invalidateQueries({ queryKey: ofBoard }),
  };
  const make = useMutation({
    mutationFn: () =>
      ask('POST /api/links', {
        body: { id: crypto.randomUUID(), board, title: name, withOriginals, tasks: tasks.trim() },
      }),
    ...settled,
  });
  const end = useMutation({
    mutationFn: (id: string) => ask('PATCH /api/links/:id', { parameters: { id }, body: { isEnded: true } }),
    ...settled,
  });
  const copy = (text: string) =>
    navigator.clipboard.writeText(text).then(
      () => setTrouble(''),
      () => setTrouble('The browser does not let it be copied; mark the address instead.'),
    );
  return (
    <Sheet
      title="Links to look"
      about="Whoever has a link looks at this board in a browser, lays pictures on yes or no and leaves remarks under a name. Handed in, they stand on the board as a cluster of theirs."
      onClose={onClose}
      className="max-h-[90vh] w-[min(560px,94vw)] overflow-auto px-5 py-4"
    >
      {listening && <Listening desk={desk} listening={listening} />}
      <form
        className="mt-3"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          make.mutate();
        }}
      >
        <label className="block text-[13px] text-muted">
          Tasks, for a class (may stay empty)
          <textarea
            className={`${FIELD} mt-1 block h-16 w-full resize-y font-serif text-[16px]`}
            maxLength={10_000}
            value={tasks}
            onChange={(event) => setTasks(event.target.value)}
          />
        </label>
        <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
          <label className="flex flex-1 items-baseline gap-2 text-[13px]">
            <input
              type="checkbox"
              checked={withOriginals}
              onChange={() => setWithOriginals(!withOriginals)}
            />
            originals may be fetched
          </label>
          <button type="submit" className="border border-ink bg-ink px-3 py-1 text-paper">
            Make a link
          </button>
        </div>
      </form>
      {trouble && (
        <p role="alert" className="mt-2 text-vermilion">
          {trouble}
        </p>
      )}
      <ul className="mt-3">
        {links?.map((link) => (
          <LinkLine
            key={link.id}
            link={link}
            address={listening?.address ?? null}
            onCopy={(text) => void copy(text)}
            onEnd={() => end.mutate(link.id)}
          />
        ))}
      </ul>
      <footer className="mt-3 flex justify-end">
        <Dialog.Close className="px-2 py-1 text-muted underline underline-offset-3">Close</Dialog.Close>
      </footer>
    </Sheet>
  );
}
