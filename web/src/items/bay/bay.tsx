import { boundsOf } from '@miradero/core/board';
import { BAY_SHAPE_NAMES, type Bay, isBay, shapeBay } from '@miradero/core/items';
import { type Desk, inGroup } from '../../desk/index.ts';
import type { KindInInterface } from '../kind.ts';
import { PlainLabel } from '../plain-label.tsx';
import { startTitling } from '../titling.tsx';
import { drawBay, showAlone } from './tools.ts';

function BayLabel({ desk, item }: { desk: Desk; item: Bay }) {
  return (
    <PlainLabel desk={desk} item={item} title={item.title || 'Bay'}>
      <div className="border-line border-t py-[6px]">
        <dt className="text-muted">Shape</dt>
        <dd className="mt-1 flex flex-wrap gap-1">
          {BAY_SHAPE_NAMES.map((shape) => (
            <button
              key={shape}
              type="button"
              aria-pressed={item.shape === shape}
              className="figures border border-line px-1.5 py-0.5 text-[12px] aria-pressed:bg-ink aria-pressed:text-paper"
              onClick={() => desk.session.commit([{ item: item.id, set: shapeBay(item, shape) }])}
            >
              {shape}
            </button>
          ))}
        </dd>
      </div>
    </PlainLabel>
  );
}

/** What is done to a bay says so where none is selected. */
const onBay = (run: (desk: Desk, bay: Bay) => void) => (desk: Desk) => {
  const bay = desk.targets.find(isBay);
  if (bay) run(desk, bay);
  else desk.say('No bay is selected.', ['Press its title to select one.']);
};

export const bayInInterface: KindInInterface<Bay> = {
  nameOf: (_, { title }) => title.trim() || undefined,
  offers: [
    ...['name-bay', 'go-to-bay', 'show-alone', 'label', 'duplicate', 'remove', 'fix', 'raise', 'lower'],
  ],
  Label: BayLabel,
  making: ['bay'],
  open: (desk, { id }) => startTitling(desk, id),
  actions: inGroup('Bay', [
    ['bay', 'bay', 'Shift+B', drawBay],
    ['name-bay', 'title', [], onBay((desk, { id }) => startTitling(desk, id))],
    ['go-to-bay', 'go to it', [], onBay((desk, bay) => desk.view?.showPart(boundsOf(bay)))],
    ['show-alone', 'show it alone', 'Alt+b', onBay(showAlone)],
  ]),
};
