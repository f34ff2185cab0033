import { GENTLE_LIMIT } from '@miradero/core/items';
import { createElement } from 'react';
import type { Desk, Tool } from '../desk/index.ts';
import { Thumb } from '../shell/index.ts';
import { createStore, type StoreApi, useStore } from '../state/index.ts';
import { SELECT } from '../tools/index.ts';

const THUMB = { width: 72, height: 54 };

/** Asks which picture leaves a working set that would hold more than a few; nothing alters until that is said. */
export class LeavingOne implements Tool {
  readonly id = 'leaving-one';
  readonly title: string;
  readonly store: StoreApi<{ readonly members: readonly string[] }>;
  readonly #keep: (members: readonly string[]) => void;

  /** @param keep - what is done with those that stay */
  constructor(title: string, members: readonly string[], keep: (members: readonly string[]) => void) {
    this.title = title;
    this.store = createStore(() => ({ members }));
    this.#keep = keep;
  }

  press: Tool['press'] = SELECT.press;
  overlay: NonNullable<Tool['overlay']> = (seat, context) => SELECT.overlay!(seat, context);
  offer = () => ({ title: this.title, ids: ['escape'], hint: 'Which picture leaves? Enter keeps all.' });
  confirm = (desk: Desk): void => {
    const { members } = this.store.getState();
    desk.leaveTool();
    this.#keep(members);
  };
  Surface: NonNullable<Tool['Surface']> = ({ desk }) => createElement(LeavingCard, { desk, asking: this });

  letLeave(desk: Desk, id: string): void {
    const members = this.store.getState().members.filter((one) => one !== id);
    this.store.setState({ members });
    if (members.length <= GENTLE_LIMIT) this.confirm(desk);
  }
}

function LeavingCard({ desk, asking }: { desk: Desk; asking: LeavingOne }) {
  const { members } = useStore(asking.store);
  const { items } = desk.session;
  return (
    <section
      data-on-board
      aria-label="Which picture leaves the working set?"
      className="absolute top-3 left-3 z-20 max-h-[calc(100%-24px)] max-w-[calc(100%-24px)] overflow-auto border border-line bg-raised px-3 py-2.5 text-[13px] text-ink"
    >
      <h2 className="font-serif text-[16px] italic">Few on purpose. Which one leaves?</h2>
      <ul className="mt-2 flex flex-wrap gap-2">
        {members.map((id) => {
          const item = items.get(id);
          const known = item?.kind === 'placement' ? desk.sync.shelf.get(item.picture) : undefined;
          const name = known?.name ?? 'a picture';
          return (
            <li key={id}>
              <button
                type="button"
                aria-label={`${name} leaves`}
                title={name}
                className="flex w-[76px] flex-col items-center gap-1 p-0.5 hover:bg-paper"
                onClick={() => asking.letLeave(desk, id)}
              >
                <span className="grid h-[54px] w-[72px] place-items-center bg-[#797979]">
                  {known?.picture && <Thumb picture={known.picture} {...THUMB} />}
                </span>
                <span className="w-full truncate text-[12px]">
                  <bdi>{name}</bdi>
                </span>
              </button>
            </li>
          );
        })}
      </ul>
      <p className="mt-2 flex gap-3">
        <button type="button" className="underline" onClick={() => asking.confirm(desk)}>
          keep all {members.length}
        </button>
        <button type="button" className="underline" onClick={() => desk.leaveTool()}>
          leave it as it was
        </button>
      </p>
    </section>
  );
}
