import { LAYER_KINDS, type LayerFacts, type LayerKind } from '@miradero/core/paint';
import { useRef } from 'react';
import type { Desk } from '../../../desk/index.ts';
import { useStore } from '../../../state/index.ts';
import { PLAIN_TONES, TONES, type Tone, toneGround } from '../sheet/ground-tones.ts';
import type { Painting } from '../sheet/painting.ts';

const WORD = 'underline underline-offset-3 disabled:no-underline disabled:opacity-40';

/** What is said of a layer beside its name. */
const wordsOf = ({ isHidden, isLocked, keepsToPainted, opacity }: LayerFacts): string =>
  [
    ...(isHidden ? ['hidden'] : []),
    ...(isLocked ? ['locked'] : []),
    ...(keepsToPainted ? ['keeps to paint'] : []),
    ...(opacity < 1 ? [`${Math.round(opacity * 100)} %`] : []),
  ].join(', ');

/** How the ground is toned: by what is studied, where something is. */
function GroundTones({ desk, painting }: { desk: Desk; painting: Painting }) {
  const hasReference = useStore(painting.store, ({ facts }) => facts?.reference != null);
  const tones = (Object.keys(TONES) as Tone[]).filter((one) => hasReference || PLAIN_TONES.includes(one));
  return (
    <p className="mt-1 flex flex-wrap gap-x-3 text-[12px] text-muted">
      toned
      {tones.map((tone) => (
        <button
          key={tone}
          type="button"
          className={WORD}
          onClick={() => void toneGround(desk, painting, tone)}
        >
          {TONES[tone]}
        </button>
      ))}
    </p>
  );
}

/** The layers of a sheet, the uppermost first, and what can be done to the one on which one draws. */
export function LayersList({ desk, painting }: { desk: Desk; painting: Painting }) {
  const facts = useStore(painting.store, (state) => state.facts);
  useStore(painting.store, (state) => state.active);
  /** Whether the slider was pulled already since it was taken hold of. */
  const isPulled = useRef(false);
  const { layer } = painting;
  if (!facts || !layer) return null;
  const { layers } = facts;
  const at = layers.findIndex(({ id }) => id === layer.id);
  const below = layers[at - 1];
  const alter = (part: Partial<Omit<LayerFacts, 'id'>>) =>
    painting.alterLayers({ act: 'alter', id: layer.id, facts: part });
  const letGo = () => {
    isPulled.current = false;
  };
  const move = (by: number) => painting.alterLayers({ act: 'move', id: layer.id, to: at + by });
  const isMergeable =
    below !== undefined &&
    !below.isLocked &&
    [layer, below].every(({ kind }) => kind !== 'shadow' && kind !== 'light');
  const add = (kind: LayerKind) => {
    const id = crypto.randomUUID();
    painting.alterLayers({ act: 'add', id, layer: kind, above: layer.id });
    painting.chooseLayer(id);
  };
  const remove = () => {
    painting.alterLayers({ act: 'remove', id: layer.id });
    if (below) painting.chooseLayer(below.id);
  };
  return (
    <section aria-label="Layers" className="mt-3 border-line border-t pt-2">
      <ul className="max-h-[176px] overflow-y-auto pointer-coarse:max-h-none">
        {[...layers].reverse().map((one) => (
          <li key={one.id} className="flex items-baseline gap-2">
            <button
              type="button"
              aria-pressed={one.id === layer.id}
              className="min-w-0 flex-1 truncate py-0.5 text-left text-muted aria-pressed:font-medium aria-pressed:text-ink"
              onClick={() => painting.chooseLayer(one.id)}
            >
              <span
                aria-hidden
                className={`mr-2 inline-block h-[2px] w-4 align-middle ${one.id === layer.id ? 'bg-verdigris' : ''}`}
              />
              {one.name} <span className="text-[12px] text-muted">{wordsOf(one)}</span>
            </button>
            <button
              type="button"
              aria-label={`${one.isHidden ? 'Show' : 'Hide'} ${one.name}`}
              className={`${WORD} text-[12px] text-muted`}
              onClick={() =>
                painting.alterLayers({ act: 'alter', id: one.id, facts: { isHidden: !one.isHidden } })
              }
            >
              {one.isHidden ? 'show' : 'hide'}
            </button>
          </li>
        ))}
      </ul>
      <label className="mt-1 grid grid-cols-[72px_minmax(0,1fr)_44px] items-center gap-2 text-muted">
        layer
        <input
          type="range"
          aria-label={`Opacity of ${layer.name}`}
          className="min-w-0 accent-verdigris"
          {...{ min: 0, max: 100, step: 1, value: Math.round(layer.opacity * 100) }}
          onChange={(event) => {
            const facts = { opacity: Number(event.target.value) / 100 };
            painting.alterLayers({ act: 'alter', id: layer.id, facts, goesOn: isPulled.current });
            isPulled.current = true;
          }}
          onPointerUp={letGo}
          onKeyUp={letGo}
          onBlur={letGo}
        />
        <span className="figures text-right text-ink">{Math.round(layer.opacity * 100)} %</span>
      </label>
      {layer.kind === 'ground' && <GroundTones desk={desk} painting={painting} />}
      <p className="mt-1 flex flex-wrap gap-x-3 text-[12px] text-muted">
        <button type="button" className={WORD} onClick={() => alter({ isLocked: !layer.isLocked })}>
          {layer.isLocked ? 'unlock' : 'lock'}
        </button>
        <button
          type="button"
          className={WORD}
          aria-pressed={layer.keepsToPainted}
          onClick={() => alter({ keepsToPainted: !layer.keepsToPainted })}
        >
          {layer.keepsToPainted ? 'paint anywhere' : 'keep to paint'}
        </button>
        <button type="button" className={WORD} disabled={at === layers.length - 1} onClick={() => move(1)}>
          up
        </button>
        <button type="button" className={WORD} disabled={at <= 0} onClick={() => move(-1)}>
          down
        </button>
        <button
          type="button"
          className={WORD}
          disabled={!isMergeable}
          onClick={() => {
            painting.alterLayers({ act: 'merge', id: layer.id });
            if (below) painting.chooseLayer(below.id);
          }}
        >
          merge down
        </button>
        <button
          type="button"
          className={WORD}
          disabled={layers.length < 2 || layer.kind === 'ground'}
          onClick={remove}
        >
          take away
        </button>
        <select
          aria-label="Add a layer"
          className="border-line border-b bg-transparent text-muted"
          value=""
          onChange={(event) => add(event.target.value as LayerKind)}
        >
          <option value="" disabled>
            add
          </option>
          {LAYER_KINDS.filter((kind) => kind !== 'ground').map((kind) => (
            <option key={kind} value={kind}>
              {kind}
            </option>
          ))}
        </select>
      </p>
    </section>
  );
}
