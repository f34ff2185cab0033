import { marksByPicture } from '@miradero/core/board';
import { isBay, isMark } from '@miradero/core/items';
import { finestSide, flatSize, MOST_FLAT_SIDE, mostSide } from '@miradero/core/raster';
import type { ExportType } from '@miradero/core/schema';
import { useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { Choices, NumberField } from '../shell/index.ts';
import { ExportSheet, SideWord } from './export-sheet.tsx';
import type { Chosen } from './taking-out.ts';

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
  const drawnOn = marksByPicture(desk.session.items);
  const hasMarks = items.some((item) => isMark(item) || drawnOn.has(item.id));
  const [marks, setMarks] = useState<'with' | 'without'>(desk.feed.areMarksHidden ? 'without' : 'with');
  const [asked, setSide] = useState(Math.min(own, 4_096));
  const most = mostSide(region, type);
  const side = Math.min(asked, most);
  const { width, height } = flatSize(region, side);
  const sides = [...new Set([own, ...SIDES])].filter((one) => one <= most).sort((a, b) => a - b);
  const shownGround = type === 'image/jpeg' && ground === 'clear' ? 'white' : ground;
  const { clear: _, ...opaque } = GROUNDS;
  return (
    <ExportSheet
      desk={desk}
      title="Save as a picture"
      about={`${titleOf(chosen, desk)}, as it stands, in sRGB.`}
      request={() => ({
        ...{ items: ids && [...ids], as: 'flat', type, side, ground: shownGround },
        ...(hasMarks && marks === 'without' && { withoutMarks: true }),
      })}
      onClose={onClose}
    >
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
          <SideWord key={one} isChosen={one === side} onChoose={() => setSide(one)}>
            {figure(one)}
            {one === own && own < MOST_FLAT_SIDE ? ' own' : ''}
          </SideWord>
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
      {hasMarks && (
        <div className="mt-4">
          <h3 className="text-[13px] text-muted">What is drawn on it</h3>
          <Choices
            label="What is drawn on it"
            words={{ with: 'with its marks', without: 'without them' }}
            value={marks}
            onChange={setMarks}
          />
        </div>
      )}
    </ExportSheet>
  );
}
