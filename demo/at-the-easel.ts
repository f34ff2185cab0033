import { type PrintNeed, pixelsOfSheet, type SheetSetup } from '@miradero/core/easel';
import type { Trim } from '@miradero/core/items';
import type { AboutDrawing } from '@miradero/core/schema';

/** A sheet of the demo, with a drawing that was saved again and again in another program, and what it is drawn from. */
export interface DemoSheet {
  readonly id: string;
  readonly name: string;
  readonly setup: SheetSetup;
  readonly need: PrintNeed;
  readonly guides: { readonly x: readonly number[]; readonly y: readonly number[] };
  readonly drawing: Pick<AboutDrawing, 'id' | 'name'>;
  /** Its saves, the first one first, and so many minutes before now. */
  readonly saves: readonly { readonly file: string; readonly minutesAgo: number }[];
  /** Beside it on the desk: where, the sheet's pixels, and how wide. */
  readonly references: readonly {
    readonly file: string;
    readonly x: number;
    readonly y: number;
    readonly width: number;
    readonly trim?: Trim;
  }[];
}

export const PAGE_AT_THE_EASEL: DemoSheet = {
  id: '5ea00001-0000-4000-8000-000000000005',
  name: 'Page 7, panel 2',
  // The pixels of its drawing: 1,600 × 1,040.
  setup: { width: 8, height: 5.2, unit: 'in', ppi: 200, bleed: 0.125 },
  need: { width: 5, height: 7, unit: 'in', ppi: 300 },
  guides: { x: [800], y: [346, 693] },
  drawing: { id: '5ea00005-0000-4000-8000-000000000001', name: 'page-7-panel-2.png' },
  saves: [
    { file: 'page-7-too-wide.png', minutesAgo: 96 },
    { file: 'page-7-leaning.png', minutesAgo: 64 },
    { file: 'page-7-too-dark.png', minutesAgo: 31 },
    { file: 'page-7-right.png', minutesAgo: 4 },
  ],
  references: [
    { file: 'ferry-045-soft.jpg', x: 1_720, y: 0, width: 900 },
    // Her wheel, larger.
    {
      file: 'ferry-045-soft.jpg',
      x: 1_720,
      y: 625,
      width: 520,
      trim: { x: 0.3, y: 0.4, width: 0.3, height: 0.3 },
    },
  ],
};

/** A study that is drawn here, on a sheet of its own beside its picture. */
export const STUDY_OF_LANTERN = {
  id: '5ea00001-0000-4000-8000-000000000006',
  name: 'Lantern, a study',
  drawing: { id: '5ea00005-0000-4000-8000-000000000002', name: 'Drawn here' },
  file: 'storm-lantern-dusk.jpg',
  ppi: 150,
  minutesAgo: 12,
} as const;

/** Where a drawing that fills its sheet stands. */
export function fillingSheet({ setup }: DemoSheet): {
  readonly centre: { readonly x: number; readonly y: number };
  readonly width: number;
} {
  const { width, height } = pixelsOfSheet(setup).trimmed;
  return { centre: { x: width / 2, y: height / 2 }, width };
}
