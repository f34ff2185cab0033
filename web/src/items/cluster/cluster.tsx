import { type Cluster, isCluster, TINT_NAMES, TINTS } from '@miradero/core/items';
import { type Desk, inGroup } from '../../desk/index.ts';
import type { KindInInterface } from '../kind.ts';
import { Row } from '../label-row.tsx';
import { PlainLabel } from '../plain-label.tsx';
import { startTitling } from '../titling.tsx';
import {
  cluster,
  countWithin,
  fit,
  fixInPlace,
  fold,
  makeCover,
  openCluster,
  putAway,
  unclusterAll,
} from './clustering.ts';

/** What it is called where nobody gave it a title. */
const nameOfForm = ({ form }: Cluster): string | undefined => (form === 'spares' ? 'Spares' : undefined);

function ClusterLabel({ desk, item }: { desk: Desk; item: Cluster }) {
  const count = countWithin(desk, item);
  return (
    <PlainLabel desk={desk} item={item} title={item.title || nameOfForm(item) || 'Cluster'}>
      <Row name="Holds">{count}</Row>
      <div className="flex items-center justify-between border-line border-t py-[6px]">
        <dt className="text-muted">Tint</dt>
        <dd className="flex flex-wrap justify-end gap-1">
          {TINT_NAMES.map((tint) => (
            <button
              key={tint}
              type="button"
              aria-label={tint}
              aria-pressed={item.tint === tint}
              title={tint}
              className="swatch h-5 w-5 border border-line aria-pressed:outline-2 aria-pressed:outline-ink"
              style={{ background: TINTS[tint] }}
              onClick={() => desk.session.commit([{ item: item.id, set: { tint } }])}
            />
          ))}
        </dd>
      </div>
    </PlainLabel>
  );
}

/** Names the first cluster that is selected. */
function nameIt(desk: Desk): void {
  const item = desk.targets.find(isCluster);
  if (item) startTitling(desk, item.id);
  else desk.say('No cluster is selected.', ['Press its title to select one.']);
}

export const clusterInInterface: KindInInterface<Cluster> = {
  nameOf: (_, item) => item.title.trim() || nameOfForm(item),
  offers: [
    ...[
      'name-cluster',
      'fold',
      'settle',
      'fit-cluster',
      'uncluster',
      'come-close',
      'lay-out',
      'fix',
      'spare',
    ],
    ...['label', 'duplicate', 'remove', 'raise', 'lower'],
  ],
  Label: ClusterLabel,
  open: openCluster,
  actions: [
    ...inGroup('Lay out', [
      ['cluster', 'cluster', '$mod+g', cluster],
      ['uncluster', 'take apart', '$mod+Shift+G', unclusterAll],
      ['fold', 'fold', 'Shift+F', fold],
      ['fit-cluster', 'fit to content', [], fit],
      ['name-cluster', 'title', [], nameIt],
      ['cover', 'make it the cover', [], makeCover],
      ['fix', 'fix in place', 'j', fixInPlace],
      ['spare', 'put away as spare', 'h', putAway],
    ]),
  ],
};
