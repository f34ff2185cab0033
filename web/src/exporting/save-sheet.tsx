import { isBay } from '@miradero/core/items';
import { finestSide, flatSize, MOST_FLAT_SIDE, mostSide } from '@miradero/core/raster';
import type { ExportType } from '@miradero/core/schema';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { Choices, NumberField, SheetContent } from '../shell/index.ts';
import { type Chosen, saveAs } from './taking-out.ts';

const KINDS: Readonly<Record<ExportType, string>> = {
  'image/png': 'PNG',
  'image/webp': 'WebP',
  'image/jpeg': 'JPEG',
};
const KIND_WORDS: Readonly<Record<ExportType, string>> = {
  'image/png': 'Every pixel as it is.',
  'image/webp': 'Small, with losses that are hardly seen.',
  'image/jpeg': 'Read by everything; with losses, and nothing see-through.',
};
type Ground = 'clear' | 'surround' | 'white';
const GROUNDS: Readonly<Record<Ground, string>> = {
  clear: 'nothing',
  surround: 'the grey of the board',
  white: 'white',
};
const SIDES = [1_024, 2_048, 4_096, 8_192, 16_000];

const figure = (n: number) => n.toLocaleString('en');

/** What is taken out, in words. */
function titleOf({ items, ids }: Chosen, desk: Desk): string {
  if (ids === null) return 'The whole board';
  const only = ids.length === 1 ? desk.session.items.get(ids[0]!) : undefined;
  if (only && isBay(only)) return `The bay “${only.title || 'Bay'}”`;
  return items.length === 1 ? 'What is selected' : `${figure(items.length)} things that are selected`;
}

/** How something is saved as one picture: its kind, its size, what lies behind it. */
export function SaveSheet({ desk, chosen, onClose }: { desk: Desk; chosen: Chosen; onClose: () => void }) {
  const { region, items, ids } = chosen;
  const [type, setType] = useState<ExportType>('image/png');
  const [ground, setGround] = useState<Ground>(ids === null ? 'surround' : 'clear');
  const own = finestSide(region, items);
  const [asked, setSide] = useState(Math.min(own, 4_096));
  const most = mostSide(region, type);
  const side = Math.min(asked, most);
  const { width, height } = flatSize(region, side);
  const sides = [...new Set([own, ...SIDES])].filter((one) => one <= most).sort((a, b) => a - b);
  const shownGround = type === 'image/jpeg' && ground === 'clear' ? 'white' : ground;
  const { clear: _, ...opaque } = GROUNDS;
  return (
    <Dialog.Root open onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <SheetContent className="sheet w-[min(520px,94vw)] px-5 py-4">
          <form
            onSubmit={(event) => {
              event.preventDefault();
              onClose();
              void saveAs(desk, {
                ...{ items: ids && [...ids], as: 'flat', type, side, ground: shownGround },
              });
            }}
          >
            <Dialog.Title className="font-serif text-[22px]">Save as a picture</Dialog.Title>
            <Dialog.Description className="mt-1 text-muted">
              {titleOf(chosen, desk)}, as it stands, in sRGB.
            </Dialog.Description>
            <p className="figures mt-4 text-[28px]! leading-none" data-testid="export-size">
              {figure(width)} × {figure(height)}
              <span className="text-[14px] text-muted">&thinsp;px</span>
            </p>
            <p className="mt-1 text-[13px] text-muted">
              {side >= own
                ? 'Every pixel of its finest picture is in it.'
                : `Its finest picture has pixels for ${figure(own)}\u2009px${own < MOST_FLAT_SIDE ? '' : ' and more'}.`}
            </p>
            <fieldset className="mt-4 flex flex-wrap items-baseline gap-x-3 gap-y-1 text-[13px]">
              <legend className="text-muted">Longest side</legend>
              {sides.map((one) => (
                <button
                  key={one}
                  type="button"
                  aria-pressed={one === side}
                  className="figures border border-line px-1.5 py-0.5 text-[12px] aria-pressed:bg-ink aria-pressed:text-paper"
                  onClick={() => setSide(one)}
                >
                  {figure(one)}
                  {one === own && own < MOST_FLAT_SIDE ? ' own' : ''}
                </button>
              ))}
              <span className="figures">
                <NumberField
                  label="Longest side"
                  value={side}
                  least={1}
                  most={most}
                  unit={'\u2009px'}
                  step={10}
                  onChange={(next) => setSide(Math.round(next))}
                  onRefuse={(words) => desk.say(words)}
                />
              </span>
            </fieldset>
            <div className="mt-4">
              <h3 className="text-[13px] text-muted">Kind</h3>
              <Choices label="Kind of file" words={KINDS} value={type} onChange={setType} />
              <p className="text-[13px] text-muted">
                {KIND_WORDS[type]}
                {asked > most && ` At most ${figure(most)}\u2009px: its encoder holds the whole picture.`}
              </p>
            </div>
            <div className="mt-4">
              <h3 className="text-[13px] text-muted">Behind it</h3>
              <Choices
                label="What lies behind it"
                className="flex-wrap"
                words={type === 'image/jpeg' ? (opaque as typeof GROUNDS) : GROUNDS}
                value={shownGround}
                onChange={setGround}
              />
            </div>
            <footer className="mt-4 flex items-center justify-end gap-4">
              <Dialog.Close className="px-2 py-1 text-muted underline underline-offset-3">Leave</Dialog.Close>
              <button type="submit" className="border border-ink bg-ink px-3 py-1 text-paper">
                Save
              </button>
            </footer>
          </form>
        </SheetContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
