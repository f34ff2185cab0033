import {
  colourWords,
  harmonyOf,
  hexToOklab,
  munsellValueOf,
  NO_SHIFT,
  oklabToHex,
  PALETTE_ORDERS,
  PALETTE_SIZES,
  type PaletteHarmony,
  type PaletteOrder,
  type PaletteShift,
  rgbOfHex,
  shiftedPalette,
  sortedPalette,
} from '@miradero/core/colour';
import { PALETTE_FILES, type PaletteFile } from '@miradero/core/formats';
import type { KeptSwatch, PaletteItem } from '@miradero/core/items';
import { colourAsAmount } from '@miradero/core/lens';
import { useEffect, useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { EditableName, later, NumberField } from '../shell/index.ts';
import { type Gesture, newGesture } from '../sync/index.ts';
import { copyHex, copyPicture } from './copying.ts';
import { keepPalette } from './kept-palettes.ts';
import { paletteText, savePalette, sheetOf } from './palette-files.ts';
import { Mixture } from './palette-mixture.tsx';
import { remake } from './palette-tool.ts';
import { copyText } from './readings.ts';

const HuePlot = later(() => import('./hue-plot.tsx').then((plot) => plot.HuePlot));

const WORD = 'underline underline-offset-3';

/** A palette in words and figures, to be altered: its patches, what they are called, their value and share, how they lie to each other. */
export function PaletteLabel({ desk, item }: { desk: Desk; item: PaletteItem }) {
  const [mixed, setMixed] = useState<readonly number[]>([]);
  useEffect(() => () => desk.holdLens(undefined), [desk]);
  const set = (next: Partial<PaletteItem>) => desk.session.commit([{ item: item.id, set: next }]);
  const wish = (next: Parameters<typeof remake>[2]) =>
    void remake(desk, item, next).then((isMade) => {
      if (!isMade) desk.say('What it was made of is not here any more: its colours stay as they are.');
    });
  return (
    <section aria-label="Palette" className="text-[13px]">
      <EditableName
        label="Title of the palette"
        className="mx-0 text-[19px]"
        name={item.title || 'Palette'}
        onRename={(title) => set({ title })}
      />
      <p className="figures mb-2 text-[12px] text-muted">
        {item.swatches.length} {item.swatches.length === 1 ? 'colour' : 'colours'}
      </p>
      <Strip item={item} />
      <ul>
        {item.swatches.map((swatch, index) => (
          <SwatchRow
            key={`${index} ${swatch.hex}`}
            {...{ desk, item, swatch }}
            isChosen={mixed.includes(index)}
            onChoose={() =>
              setMixed((now) =>
                now.includes(index) ? now.filter((one) => one !== index) : [...now, index].slice(-2),
              )
            }
            onChange={(next) =>
              set({ swatches: item.swatches.map((one, at) => (at === index ? { ...one, ...next } : one)) })
            }
          />
        ))}
      </ul>
      <Mixture desk={desk} between={mixed.flatMap((index) => item.swatches[index]?.hex ?? [])} />
      {item.madeOf && (
        <div className="border-line border-t py-1.5">
          <p className="flex items-baseline justify-between">
            <span className="text-muted">colours at most</span>
            <span className="figures">
              <NumberField
                label="Colours of the palette"
                value={item.count}
                {...{ least: PALETTE_SIZES.least, most: PALETTE_SIZES.most }}
                onRefuse={(words) => desk.say(words)}
                onChange={(count) => wish({ count })}
              />
            </span>
          </p>
          <label className="mt-1 flex items-center gap-2">
            <span className="text-muted">share</span>
            <input
              type="range"
              aria-label="From what covers most to small accents"
              className="min-w-0 flex-1 accent-verdigris"
              min={0}
              max={1}
              step={0.05}
              defaultValue={item.accent}
              onChange={(event) => wish({ accent: Number(event.target.value) })}
            />
            <span className="text-muted">accent</span>
          </label>
        </div>
      )}
      <Shift desk={desk} item={item} />
      <Harmony item={item} />
      <HuePlot swatches={item.swatches} />
      <p className="mt-1 flex flex-wrap gap-x-2.5 border-line border-t pt-1.5">
        <span className="text-muted">by</span>
        {PALETTE_ORDERS.map((order) => (
          <button
            key={order}
            type="button"
            className={WORD}
            onClick={() => set({ swatches: inOrder(item, order) })}
          >
            {order}
          </button>
        ))}
        <button
          type="button"
          aria-pressed={item.isByShare}
          className={`${WORD} ml-auto aria-pressed:text-verdigris`}
          onClick={() => set({ isByShare: !item.isByShare })}
        >
          as wide as shares
        </button>
      </p>
      <TakeOut desk={desk} item={item} />
    </section>
  );
}

const SHIFTS = [
  ['lightness', 'darker', 'lighter', 0.25],
  ['chroma', 'duller', 'stronger', 0.9],
  ['warmth', 'cooler', 'warmer', 0.6],
] as const satisfies readonly (readonly [keyof PaletteShift, string, string, number])[];

/** What is shifted, and what was made of it last. */
interface ShiftedFrom {
  readonly swatches: readonly KeptSwatch[];
  readonly made: readonly KeptSwatch[];
  readonly gesture: Gesture;
}
const areAlike = (one: readonly KeptSwatch[], other: readonly KeptSwatch[]): boolean =>
  one.length === other.length && one.every(({ hex }, index) => hex === other[index]!.hex);

/** The whole palette moved: a little brighter than the photograph. All of one opening is one step of undo. */
function Shift({ desk, item }: { desk: Desk; item: PaletteItem }) {
  const [from, setFrom] = useState<ShiftedFrom>();
  const [shift, setShift] = useState(NO_SHIFT);
  if (!from)
    return (
      <p className="border-line border-t py-1.5">
        <button
          type="button"
          className={WORD}
          onClick={() => {
            setShift(NO_SHIFT);
            setFrom({ swatches: item.swatches, made: item.swatches, gesture: newGesture() });
          }}
        >
          shift all
        </button>
      </p>
    );
  const move = (part: Partial<PaletteShift>) => {
    // What was altered elsewhere meanwhile is what is shifted from now on, by this alone.
    const isOwn = areAlike(item.swatches, from.made);
    const base = isOwn ? from.swatches : item.swatches;
    const next = { ...(isOwn ? shift : NO_SHIFT), ...part };
    setShift(next);
    const before = base.map(({ hex, share }) => ({ ...hexToOklab(hex), share }));
    const swatches = shiftedPalette(before, next).map((swatch, index): KeptSwatch => {
      const was = base[index]!;
      const hex = oklabToHex(swatch);
      return hex === was.hex ? was : { ...was, hex, name: colourWords(swatch) };
    });
    const gesture = isOwn ? from.gesture : newGesture();
    setFrom({ swatches: base, made: swatches, gesture });
    desk.session.commit([{ item: item.id, set: { swatches } }], gesture);
  };
  return (
    <div className="border-line border-t py-1.5">
      {SHIFTS.map(([part, less, more, most]) => (
        <label key={part} className="grid grid-cols-[48px_minmax(0,1fr)_56px] items-center gap-2 text-muted">
          <span className="text-right">{less}</span>
          <input
            type="range"
            aria-label={`From ${less} to ${more}`}
            className="min-w-0 accent-verdigris"
            {...{ min: -most, max: most, step: most / 50, value: shift[part] }}
            onChange={(event) => move({ [part]: Number(event.target.value) })}
          />
          <span>{more}</span>
        </label>
      ))}
      <p className="mt-1 flex gap-x-3">
        <button type="button" className={WORD} onClick={() => setFrom(undefined)}>
          keep
        </button>
        <button
          type="button"
          className={WORD}
          onClick={() => {
            move(NO_SHIFT);
            setFrom(undefined);
          }}
        >
          as it was
        </button>
      </p>
    </div>
  );
}

/** The same colours in another order. */
function inOrder({ swatches }: PaletteItem, order: PaletteOrder): KeptSwatch[] {
  const placed = swatches.map((swatch) => ({ ...hexToOklab(swatch.hex), share: swatch.share, swatch }));
  return sortedPalette(placed, order).map(({ swatch }) => swatch);
}

function Strip({ item }: { item: PaletteItem }) {
  return (
    <div aria-hidden className="mb-1 flex h-11">
      {item.swatches.map(({ hex, share }, index) => (
        <span
          key={`${index} ${hex}`}
          style={{ background: hex, flexGrow: Math.max(0.015, share), flexBasis: 0 }}
        />
      ))}
    </div>
  );
}

/** Lights where a colour lives in what the palette was made of, while it is pointed at. */
function light(desk: Desk, item: PaletteItem, hex: string | undefined): void {
  const of = item.madeOf?.items ?? [];
  const on = of.length > 0 ? of.filter((id) => desk.session.items.get(id)?.kind === 'placement') : [];
  desk.holdLens(
    hex === undefined
      ? undefined
      : [{ lens: 'where', amount: colourAsAmount(hex), on: on.length > 0 ? on : null }],
  );
}

function SwatchRow({
  desk,
  item,
  swatch,
  isChosen,
  onChoose,
  onChange,
}: {
  desk: Desk;
  item: PaletteItem;
  swatch: KeptSwatch;
  /** One of two between which is mixed. */
  isChosen: boolean;
  onChoose: () => void;
  onChange: (next: Partial<KeptSwatch>) => void;
}) {
  const { hex, share, name, isLocked } = swatch;
  return (
    <li
      className="grid grid-cols-[20px_minmax(0,1fr)_auto_auto] items-center gap-x-2 border-line border-t py-[3px]"
      onPointerEnter={() => light(desk, item, hex)}
      onPointerLeave={() => light(desk, item, undefined)}
    >
      <button
        type="button"
        aria-pressed={isChosen}
        aria-label={`Mix with ${name} ${hex}`}
        className="row-span-2 h-8 w-5 aria-pressed:outline-2 aria-pressed:outline-verdigris aria-pressed:outline-offset-1"
        style={{ background: hex }}
        onClick={onChoose}
      />
      <span className="break-words leading-tight">
        <bdi>{name}</bdi>
      </span>
      <button
        type="button"
        className="figures row-span-2 text-[12px] hover:underline"
        onClick={() => void copyHex(desk, hex)}
      >
        {hex}
      </button>
      <span className="figures col-start-2 text-[12px] text-muted">
        V {munsellValueOf(rgbOfHex(hex)).toFixed(1)} · {(share * 100).toFixed(share < 0.01 ? 1 : 0)} %
      </span>
      <button
        type="button"
        aria-pressed={isLocked}
        aria-label={`Keep ${name} ${hex} when it is made anew`}
        className="row-span-2 row-start-1 text-[12px] text-muted underline underline-offset-3 [grid-column:4] aria-pressed:text-verdigris"
        onClick={() => onChange({ isLocked: !isLocked })}
      >
        {isLocked ? 'locked' : 'lock'}
      </button>
    </li>
  );
}

const percent = (part: number) => `${Math.round(part * 100)} %`;

type Row = readonly [term: string, figure: string];

function harmonyRows(harmony: PaletteHarmony): readonly Row[] {
  const { spreadDeg, fits, warm, cool, value, contrast, key, accent } = harmony;
  const [fit] = fits;
  return [
    ['hues spread over', `${spreadDeg.toFixed(0)}°`],
    ...(fit ? [[fit.harmony, `${fit.offDeg.toFixed(0)}° off`] as const] : []),
    ['warm, cool', `${percent(warm)}, ${percent(cool)}`],
    [`${key} key, mean value`, value.toFixed(1)],
    ['contrast, value steps', contrast.toFixed(1)],
    ...(accent ? [['accent', percent(accent.share)] as const] : []),
  ];
}

function Harmony({ item }: { item: PaletteItem }) {
  const harmony = harmonyOf(item.swatches.map(({ hex, share }) => ({ ...hexToOklab(hex), share })));
  return (
    <dl className="border-line border-t py-1.5">
      {harmonyRows(harmony).map(([term, figure]) => (
        <div key={term} className="flex justify-between gap-2">
          <dt className="text-muted">{term}</dt>
          <dd className="figures text-[12px]">{figure}</dd>
        </div>
      ))}
    </dl>
  );
}

const FILES = Object.entries(PALETTE_FILES).map(([kind, { words }]) => [kind as PaletteFile, words] as const);

function TakeOut({ desk, item }: { desk: Desk; item: PaletteItem }) {
  const [isOpen, setOpen] = useState(false);
  const keep = async () => {
    const { title, swatches } = item;
    try {
      const shelved = { title, swatches, subject: null, viewpoint: null, isPutAway: false };
      await keepPalette(crypto.randomUUID(), shelved);
      desk.say('The palette is on the shelf, for every board.', [
        'The shelf is opened by name, and from “read”; there it can be given to a subject.',
      ]);
    } catch {
      desk.say('The palette did not get onto the shelf: the server is away.');
    }
  };
  const copyWords = async () => {
    if (await copyText(window, paletteText(item))) desk.say('The palette is on the clipboard, as text.');
    else desk.say('The clipboard could not be written.');
  };
  return (
    <div className="mt-1 border-line border-t pt-1.5">
      <p className="flex flex-wrap gap-x-3">
        <button type="button" className={WORD} onClick={() => void keep()}>
          keep on the shelf
        </button>
        <button
          type="button"
          className={WORD}
          onClick={() => void copyPicture(desk, sheetOf(item), 'The palette')}
        >
          copy as picture
        </button>
        <button type="button" className={WORD} onClick={() => void copyWords()}>
          as text
        </button>
        <button type="button" className={WORD} aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          save
        </button>
      </p>
      {isOpen && (
        <p className="mt-1 flex flex-wrap gap-x-3">
          {FILES.map(([kind, words]) => (
            <button key={kind} type="button" className={WORD} onClick={() => void savePalette(item, kind)}>
              {words}
            </button>
          ))}
          <button type="button" className={WORD} onClick={() => void savePalette(item, 'png')}>
            PNG sheet
          </button>
        </p>
      )}
    </div>
  );
}
