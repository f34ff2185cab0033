import { MOST_PAGE_MM, PAPER_NAMES, type PaperName, tilePages } from '@miradero/core/formats';
import { BAY_SHAPES, isBay } from '@miradero/core/items';
import { flatSize, MOST_FLAT_SIDE } from '@miradero/core/raster';
import type { CreateExport } from '@miradero/core/schema';
import { type ReactNode, useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { Choices, NumberField } from '../shell/index.ts';
import { ExportSheet, SideWord } from './export-sheet.tsx';
import type { Chosen } from './taking-out.ts';

type Form = 'drawing' | 'layers' | 'pages' | 'annotations';
const FORMS: Readonly<Record<Form, string>> = {
  ...{ drawing: 'drawing', layers: 'layers', pages: 'pages', annotations: 'annotations' },
};
const ABOUT: Readonly<Record<Form, string>> = {
  drawing: 'SVG: pictures, words as outlines and strokes, each by itself. Pictures have up to 2,048\u2009px.',
  layers: 'OpenRaster: everything that stands is a layer of its own, with its name, as faded as it is.',
  pages:
    'PDF at true size: one page as large as it is, or sheets of paper that overlap, with marks to join them.',
  annotations: 'JSON-LD: what was said of the pictures and their parts, as Web Annotations.',
};
const SIDES = [1_024, 2_048, 4_096, 8_192];
const BESIDE = { in: 'in it', beside: 'beside it, in a ZIP' } as const;
const OFFERED: readonly (PaperName | null)[] = [null, ...PAPER_NAMES];

const figure = (number: number) => number.toLocaleString('en');
const MM_PER_UNIT = 25.4 / 96;

/** How wide something is on paper where nobody chose: a bay of a paper's shape as that paper, else as on a screen. */
function widthOnPaper({ ids, region }: Chosen, desk: Desk): number {
  const only = ids?.length === 1 ? desk.session.items.get(ids[0]!) : undefined;
  const shape = only && isBay(only) ? only.shape : null;
  const longer = { A5: 210, A4: 297, A3: 420, A2: 594 }[shape as string];
  const isWide = region.width >= region.height;
  if (shape && longer) return isWide ? longer : longer / BAY_SHAPES[shape];
  return Math.min(MOST_PAGE_MM, Math.round(region.width * MM_PER_UNIT));
}

function Field({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="mt-4">
      <h3 className="text-[13px] text-muted">{title}</h3>
      {children}
    </div>
  );
}

interface PagesChosen {
  readonly widthMm: number;
  readonly paper: PaperName | null;
  readonly overlapMm: number;
  readonly ppi: number;
}

function PagesFields({
  chosen,
  value,
  onChange,
  refuse,
}: {
  chosen: Chosen;
  value: PagesChosen;
  onChange: (value: PagesChosen) => void;
  refuse: (words: string) => void;
}) {
  const { region } = chosen;
  const { widthMm, paper, overlapMm, ppi } = value;
  const size = { width: widthMm, height: (widthMm * region.height) / region.width };
  const sheets = paper === null ? 1 : tilePages(size, paper, overlapMm).tiles.length;
  const wanted = (Math.max(size.width, size.height) / 25.4) * ppi;
  const real = Math.round(Math.min(ppi, (ppi * MOST_FLAT_SIDE) / wanted));
  const number = (
    label: string,
    unit: string,
    name: 'widthMm' | 'overlapMm' | 'ppi',
    least: number,
    most: number,
  ) => (
    <span className="figures inline-flex items-baseline gap-1">
      <NumberField
        {...{ label, unit: `\u2009${unit}`, least, most }}
        value={Math.round(value[name])}
        onChange={(next) => onChange({ ...value, [name]: Math.round(next) })}
        onRefuse={refuse}
      />
    </span>
  );
  return (
    <>
      <p className="figures mt-4 text-[28px]! leading-none" data-testid="pages-size">
        {figure(Math.round(size.width))} × {figure(Math.round(size.height))}
        <span className="text-[14px] text-muted">
          &thinsp;mm, {sheets === 1 ? 'one page' : `${figure(sheets)} sheets`}
        </span>
      </p>
      <Field title="Paper">
        <div className="flex flex-wrap gap-x-3 gap-y-1 text-[13px]">
          {OFFERED.map((one) => (
            <button
              key={one ?? 'own'}
              type="button"
              aria-pressed={one === paper}
              className="border border-line px-1.5 py-0.5 aria-pressed:bg-ink aria-pressed:text-paper"
              onClick={() => onChange({ ...value, paper: one })}
            >
              {one ?? 'as large as it is'}
            </button>
          ))}
        </div>
      </Field>
      <div className="mt-4 flex flex-wrap gap-x-6 gap-y-2 text-[13px]">
        <span>Width {number('Width on paper', 'mm', 'widthMm', 5, MOST_PAGE_MM)}</span>
        <span>Fineness {number('Pixels an inch', 'ppi', 'ppi', 36, 600)}</span>
        {paper !== null && <span>Overlap {number('Overlap', 'mm', 'overlapMm', 0, 60)}</span>}
      </div>
      {real < ppi && (
        <p className="mt-1 text-[13px] text-muted">So large it has {real} ppi: at most 16,000 px are made.</p>
      )}
    </>
  );
}

/** How something is saved for other programs: as a drawing, in layers, on pages, or what was said of its pictures. */
export function FormatsSheet({ desk, chosen, onClose }: { desk: Desk; chosen: Chosen; onClose: () => void }) {
  const [form, setForm] = useState<Form>('drawing');
  const [beside, setBeside] = useState<keyof typeof BESIDE>('in');
  const [side, setSide] = useState(4_096);
  const [pages, setPages] = useState<PagesChosen>({
    ...{ widthMm: widthOnPaper(chosen, desk), paper: null, overlapMm: 10, ppi: 200 },
  });
  const { region, ids, items } = chosen;
  const layers = flatSize(region, side);
  const request = (): Omit<CreateExport, 'id'> => ({
    ...{ items: ids && [...ids], as: form, type: 'image/png' as const },
    side: form === 'layers' ? side : null,
    ground: form === 'pages' ? 'white' : ids === null ? 'surround' : 'clear',
    ...(form === 'drawing' && beside === 'beside' && { isLinked: true }),
    ...(form === 'pages' && { print: pages }),
  });
  const of =
    ids === null ? 'The whole board' : `${figure(items.length)} ${items.length === 1 ? 'thing' : 'things'}`;
  return (
    <ExportSheet
      {...{ desk, request, onClose }}
      title="Save for other programs"
      about={`${of}, in open formats.`}
    >
      <Choices label="As what" className="mt-3 flex-wrap" words={FORMS} value={form} onChange={setForm} />
      <p className="text-[13px] text-muted">{ABOUT[form]}</p>
      {form === 'drawing' && (
        <Field title="Its pictures">
          <Choices label="Where its pictures are" words={BESIDE} value={beside} onChange={setBeside} />
        </Field>
      )}
      {form === 'layers' && (
        <>
          <p className="figures mt-4 text-[28px]! leading-none">
            {figure(layers.width)} × {figure(layers.height)}
            <span className="text-[14px] text-muted">&thinsp;px, {figure(items.length)} layers</span>
          </p>
          <Field title="Longest side">
            <div className="flex flex-wrap gap-3">
              {SIDES.map((one) => (
                <SideWord key={one} isChosen={one === side} onChoose={() => setSide(one)}>
                  {figure(one)}
                </SideWord>
              ))}
            </div>
          </Field>
        </>
      )}
      {form === 'pages' && (
        <PagesFields {...{ chosen, value: pages, onChange: setPages, refuse: (words) => desk.say(words) }} />
      )}
    </ExportSheet>
  );
}
