import { normalAzimuth } from '@miradero/core/geometry';
import { isPlacement, type Placement } from '@miradero/core/items';
import { LENS_MM, type ModelView, NAMED_VIEWS, type Section, turnedTo } from '@miradero/core/model';
import type { ReactNode } from 'react';
import type { Desk } from '../desk/index.ts';
import { TakingLine } from '../live/index.ts';
import type { ReadModel } from '../models/index.ts';
import { Choices, FoldingCard, NumberField } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { modelsOn } from './models-on-desk.ts';
import { type TurningDrag, turningSettings } from './settings.ts';
import { takeTurn, takeView, viewWords, wholeDeg } from './taking.ts';

const WORD = 'underline underline-offset-3 disabled:text-muted disabled:no-underline';
/** Focal lengths that are offered, mm; any other can be typed. */
const LENSES = [18, 28, 35, 50, 85, 135] as const;
const MOST_STILLS = 72;
const UNCUT = 'none';

type Cut = typeof UNCUT | Section['axis'];
const CUT_WORDS: Readonly<Record<Cut, string>> = { none: 'none', x: 'side', y: 'height', z: 'depth' };
const DRAG_WORDS: Readonly<Record<TurningDrag, string>> = { turn: 'turns', light: 'lights', aside: 'pushes' };

function Line({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="mt-2 grid grid-cols-[46px_minmax(0,1fr)] items-baseline gap-x-2">
      <span className="text-muted">{title}</span>
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">{children}</div>
    </div>
  );
}

interface Part {
  readonly desk: Desk;
  readonly item: Placement;
  readonly view: ModelView;
  readonly set: (part: Partial<ModelView>) => void;
}

/** Through which lens: from a wide one to one without any perspective. */
function Lens({ desk, view: { lensMm }, set }: Part) {
  return (
    <Line title="lens">
      <span className="flex flex-wrap gap-0.5">
        {LENSES.map((mm) => (
          <button
            key={mm}
            type="button"
            className="figures min-w-[27px] border border-line px-0.5 py-0.5 text-[12px] pointer-coarse:min-w-9 pointer-coarse:py-1.5 aria-pressed:bg-ink aria-pressed:text-paper"
            aria-pressed={lensMm === mm}
            aria-label={`Lens of ${mm} mm`}
            onClick={() => set({ lensMm: mm })}
          >
            {mm}
          </button>
        ))}
      </span>
      <button
        type="button"
        className="choice"
        aria-pressed={lensMm === null}
        onClick={() => set({ lensMm: null })}
      >
        parallel
      </button>
      {lensMm !== null && (
        <span className="figures">
          <NumberField
            label="Focal length, as of a 35-mm camera"
            value={lensMm}
            unit=" mm"
            {...LENS_MM}
            onRefuse={(words) => desk.say(words)}
            onChange={(mm) => set({ lensMm: mm })}
          />
        </span>
      )}
    </Line>
  );
}

/** Where the light comes from, as the viewer sees it. */
function Light({ desk, view: { light }, set }: Part) {
  return (
    <Line title="light">
      <span className="figures">
        <NumberField
          label="Light round, from behind you"
          value={Math.round(light.azimuthDeg)}
          unit="°"
          {...{ least: -180, most: 180 }}
          onRefuse={(words) => desk.say(words)}
          onChange={(azimuthDeg) => set({ light: { ...light, azimuthDeg } })}
        />
      </span>
      <span className="text-muted">round</span>
      <span className="figures">
        <NumberField
          label="Light above the horizon"
          value={Math.round(light.elevationDeg)}
          unit="°"
          {...{ least: -90, most: 90 }}
          onRefuse={(words) => desk.say(words)}
          onChange={(elevationDeg) => set({ light: { ...light, elevationDeg } })}
        />
      </span>
      <span className="text-muted">up</span>
    </Line>
  );
}

/** A plane that lays its inside open. */
function SectionLine({ view: { section }, set }: Part) {
  return (
    <>
      <Line title="section">
        <Choices<Cut>
          label="Section"
          value={section?.axis ?? UNCUT}
          words={CUT_WORDS}
          onChange={(cut) =>
            set({ section: cut === UNCUT ? undefined : { at: 0.5, isOther: false, ...section, axis: cut } })
          }
        />
      </Line>
      {section && (
        <div className="flex items-center gap-3">
          <input
            type="range"
            aria-label="Where the section lies"
            className="min-w-0 flex-1 accent-verdigris"
            {...{ min: 0, max: 1, step: 0.01, value: section.at }}
            onChange={(event) => set({ section: { ...section, at: Number(event.target.value) } })}
          />
          <button
            type="button"
            className="choice"
            aria-pressed={section.isOther}
            onClick={() => set({ section: { ...section, isOther: !section.isOther } })}
          >
            other side
          </button>
        </div>
      )}
    </>
  );
}

/** Which way it stands: what its file does not say, and all figures of its views rest on. */
function Stands({ desk, item, view }: Part) {
  const models = modelsOn(desk);
  const stance = models.stanceOf(item);
  const isFront = Math.abs(view.azimuthDeg) < 0.05;
  return (
    <Line title="stands">
      <Choices
        label="Which axis of its file is up"
        value={stance.up}
        words={{ y: 'y up', z: 'z up' }}
        onChange={(up) => models.stand(item, { ...stance, up })}
      />
      <button
        type="button"
        className={WORD}
        disabled={isFront}
        onClick={() => {
          const turned = stance.frontDeg + view.azimuthDeg;
          models.stand(item, { ...stance, frontDeg: Math.round(normalAzimuth(turned) * 10) / 10 });
          models.set(item, turnedTo(view, { ...view, azimuthDeg: 0 }));
        }}
      >
        this is its front
      </button>
    </Line>
  );
}

/** What is to be known of a model that is not shown as it is. */
function About({ read: { triangles, shown, missing } }: { read: ReadModel }) {
  const count = (many: number) => many.toLocaleString('en');
  return (
    <div className="mt-2 text-[12px] text-muted">
      {shown < triangles ? (
        <p>
          <span className="figures">{count(triangles)}</span> triangles: it is shown with{' '}
          <span className="figures">{count(shown)}</span>, so that it can be turned. Its file stays as it is.
        </p>
      ) : (
        <p>
          <span className="figures">{count(triangles)}</span> triangles
        </p>
      )}
      {missing.length > 0 && (
        <p className="break-words">
          Of its surface {missing.slice(0, 3).join(', ')}
          {missing.length > 3 && ` and ${missing.length - 3} more`} did not come with it.
        </p>
      )}
    </div>
  );
}

function Take({ desk, item }: Pick<Part, 'desk' | 'item'>) {
  const { stills } = useStore(turningSettings.store);
  return (
    <div className="mt-2 flex flex-wrap items-baseline gap-x-1.5 gap-y-1 border-line border-t pt-2">
      <button type="button" className={`${WORD} w-full text-left`} onClick={() => void takeView(desk, item)}>
        this view as a picture
      </button>
      <button type="button" className={WORD} onClick={() => void takeTurn(desk, item)}>
        a turn of
      </button>
      <span className="figures">
        <NumberField
          label="Stills of a turn"
          value={stills}
          unit=" stills"
          {...{ least: 2, most: MOST_STILLS }}
          onRefuse={(words) => desk.say(words)}
          onChange={(next) => turningSettings.set({ stills: Math.round(next) })}
        />
      </span>
    </div>
  );
}

/** How a model that was read is looked at. */
function Views({ read, ...part }: Part & { read: ReadModel }) {
  const { desk, item, view, set } = part;
  const { drag } = useStore(turningSettings.store);
  const models = modelsOn(desk);
  return (
    <>
      <p className="flex items-baseline justify-between" data-testid="view-figure">
        <span className="font-serif text-[15px]">{viewWords(view)}</span>
        <span className="figures text-muted">
          {wholeDeg(view.azimuthDeg)}° · {wholeDeg(view.elevationDeg)}°
        </span>
      </p>
      <p className="mt-1 flex flex-wrap gap-x-3 gap-y-1">
        {NAMED_VIEWS.map(([words, azimuthDeg, elevationDeg]) => (
          <button
            key={words}
            type="button"
            className={WORD}
            onClick={() => models.set(item, turnedTo(view, { azimuthDeg, elevationDeg }))}
          >
            {words}
          </button>
        ))}
        <button
          type="button"
          className={WORD}
          onClick={() => models.set(item, models.whole(item, view) ?? view)}
        >
          whole
        </button>
      </p>
      <Line title="a drag">
        <Choices
          label="What a drag does"
          value={drag}
          words={DRAG_WORDS}
          onChange={(to) => turningSettings.set({ drag: to })}
        />
      </Line>
      <Lens {...part} />
      <Light {...part} />
      <Line title="surface">
        <Choices
          label="Surface"
          value={view.isPlain ? 'plain' : 'own'}
          words={{ own: 'its own', plain: 'plain grey' }}
          onChange={(surface) => set({ isPlain: surface === 'plain' })}
        />
      </Line>
      <SectionLine {...part} />
      <Stands {...part} />
      <Take desk={desk} item={item} />
      <TakingLine desk={desk} />
      <About read={read} />
    </>
  );
}

/** How the model that is selected is looked at. */
export function TurningCard({ desk }: { desk: Desk }) {
  const models = modelsOn(desk);
  useStore(models.store);
  const item = desk.selected.find((one): one is Placement => isPlacement(one) && models.isModel(one));
  if (!item) return null;
  const open = models.open(item);
  const view = models.viewOf(item);
  const read = open?.read;
  return (
    <FoldingCard
      label="Model"
      testId="turning-card"
      isBusy={!read && !open?.why}
      inShort={
        view ? `${viewWords(view)}, ${view.lensMm === null ? 'parallel' : `${view.lensMm} mm`}` : 'model'
      }
      onDone={() => desk.leaveTool()}
      beside={
        models.isTurned(item.id) && (
          <button
            type="button"
            className={`${WORD} mr-auto text-muted`}
            onClick={() => models.putBack(item.id)}
          >
            as it stood
          </button>
        )
      }
    >
      {open?.why !== undefined && (
        <p role="alert">
          {open.why}{' '}
          <button type="button" className={WORD} onClick={() => models.retry(item)}>
            again
          </button>
        </p>
      )}
      {open?.why === undefined && !(view && read) && <p className="text-muted">The model is being read.</p>}
      {open?.why === undefined && view && read && (
        <Views
          {...{ desk, item, view, read }}
          set={(part) => models.set(item, { ...(models.viewOf(item) ?? view), ...part })}
        />
      )}
    </FoldingCard>
  );
}
