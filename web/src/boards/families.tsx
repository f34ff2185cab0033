import { EVEN_MEASURES, SHELVES_BY } from '@miradero/core/board';
import { CHOSEN_LENSES } from '@miradero/core/lens';
import type { ComponentType } from 'react';
import type { Desk } from '../desk/index.ts';
import { DragOut } from '../exporting/index.ts';
import { InkAndPaper, NOTE_LETTERS_OFFERED, NOTE_LISTS_OFFERED, NOTE_ROLES_OFFERED } from '../items/index.ts';
import { LensAmounts, lensCommand, PlacesList, SmallestList, StagesList } from '../looking/index.ts';
import { NumberField } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { TRIM_ASPECTS } from '../tools/index.ts';

/** Commands that belong together, behind one word of the sill. */
export interface Family {
  readonly id: string;
  readonly label: string;
  readonly chapters: readonly { readonly title: string; readonly ids: readonly string[] }[];
  /** What is set or chosen beside them. */
  readonly Settings?: readonly ComponentType<{ readonly desk: Desk; readonly onDone: () => void }>[];
}

/** Space that layouts leave, to be chosen. */
function GapField({ desk }: { desk: Desk }) {
  useStore(desk.sync.settings.store);
  return (
    <div className="flex items-baseline gap-2 whitespace-nowrap px-1.5 text-[13px]">
      <span className="text-muted">gap</span>
      <span className="figures">
        <NumberField
          label="Gap between items"
          value={desk.gap}
          least={0}
          most={1_000}
          onRefuse={(words) => desk.say(words)}
          onChange={(gap) => void desk.sync.settings.set({ gap })}
        />
      </span>
    </div>
  );
}

const BRING_IN: Family = {
  id: 'bring-in',
  label: 'bring in',
  chapters: [
    { title: 'From this computer', ids: ['choose-files', 'look-into-folder', 'paste'] },
    { title: 'From elsewhere', ids: ['by-address', 'grab', 'camera'] },
  ],
};

const LAY_OUT: Family = {
  id: 'lay-out',
  label: 'lay out',
  Settings: [GapField],
  chapters: [
    { title: 'Settle', ids: ['settle', 'settle-in-order', 'settle-without-holes', 'settle-box'] },
    { title: 'Even out', ids: EVEN_MEASURES.map((measure) => `even-${measure}`) },
    {
      title: 'Line up',
      ids: [
        ...['line-up', 'equal-gaps', 'line-up-left', 'line-up-middle-x', 'line-up-right'],
        ...['line-up-top', 'line-up-middle-y', 'line-up-bottom'],
      ],
    },
    { title: 'Shelves', ids: SHELVES_BY.map((by) => `shelves-${by}`) },
    {
      title: 'Together',
      ids: ['cluster', 'uncluster', 'fold', 'fit-cluster', 'cover', 'strip', 'fix', 'spare'],
    },
  ],
};

const LOOK: Family = {
  id: 'look',
  label: 'look',
  chapters: [
    { title: 'Through a lens', ids: [...CHOSEN_LENSES.map(lensCommand), 'no-lens'] },
    {
      title: 'Look',
      ids: [
        'whole-board',
        'come-close',
        'find-here',
        'overview',
        'show-labels',
        'keep-view',
        'brief',
        'history',
      ],
    },
  ],
  Settings: [LensAmounts, StagesList, PlacesList, SmallestList],
};

const READ: Family = {
  id: 'read',
  label: 'read',
  chapters: [
    { title: 'Colour', ids: ['read-colour', 'read-screen'] },
    { title: 'Values', ids: ['value-study', 'compare-values'] },
    { title: 'Form and light', ids: ['form-study', 'light-and-shadow', 'outline-strokes'] },
    {
      title: 'Palettes',
      ids: ['make-palette', 'palette-shelf', 'compare-palettes', 'merge-palettes', 'bring-palette'],
    },
  ],
};

const TAKE_OUT: Family = {
  id: 'take-out',
  label: 'take out',
  chapters: [
    {
      title: 'To other programs',
      ids: ['copy-as-picture', 'save-as-picture', 'save-files', 'save-for-others'],
    },
    { title: 'To other people', ids: ['save-board-file', 'links'] },
  ],
  Settings: [DragOut],
};

const ASPECT: Family = {
  id: 'aspect',
  label: 'aspect',
  chapters: [{ title: 'Keep to', ids: TRIM_ASPECTS.map(([name]) => `aspect-${name}`) }],
};

const WRITTEN_AS: Family = {
  id: 'written-as',
  label: 'written as',
  chapters: [
    { title: 'For', ids: NOTE_ROLES_OFFERED },
    { title: 'Letters', ids: NOTE_LETTERS_OFFERED },
    { title: 'Lists', ids: NOTE_LISTS_OFFERED },
  ],
  Settings: [InkAndPaper],
};

export const FAMILIES: ReadonlyMap<string, Family> = new Map(
  [BRING_IN, LAY_OUT, LOOK, READ, TAKE_OUT, ASPECT, WRITTEN_AS].map((family) => [family.id, family]),
);
