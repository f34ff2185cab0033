import { CHOSEN_LENSES, type LensId, lensOf } from '@miradero/core/lens';
import { useCommands, useKeyWords, useRun } from '../commands/index.ts';
import { ZoomFigure } from '../desk/index.ts';
import { LensAmounts, lensCommand } from '../looking/index.ts';
import { Choices, NumberField } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { type ArrangementStore, HOVER_RANGE_MS, type Opens } from './arrangement.ts';
import { PERCH_ALSO, PERCH_CHAPTERS, type PerchInHand } from './commands.ts';
import type { PaneControls } from './pane-controls.ts';
import { SECONDS_RANGE } from './slideshow.ts';
import { usePerchTitle } from './use-perch-title.ts';

const OPENS_WORDS: Readonly<Record<Opens, string>> = {
  board: 'the board',
  last: 'what it showed last',
  stage: 'the working set',
};

const WORD = 'word shrink-0 whitespace-nowrap px-1 hover:bg-raised aria-pressed:text-verdigris';

/** In a window narrower than this there is room for the title alone, and for words without their keys, CSS pixels. */
const WORDS_PX = 300;
const KEYS_PX = 560;

/** A command by its word, with its key where there is room. */
function Word({
  id,
  label,
  isPressed,
  hasKey = true,
}: {
  id: string;
  label: string;
  isPressed?: boolean;
  hasKey?: boolean;
}) {
  const run = useRun();
  const key = useKeyWords()(id);
  return (
    <button type="button" className={WORD} aria-pressed={isPressed} onClick={() => run(id)}>
      {hasKey && key && <kbd className="key">{key}</kbd>} {label}
    </button>
  );
}

/** The controls of the perch: they come up at its edge when the pointer or the keyboard comes near, and go again. */
export function PerchStrip({
  arrangement,
  controls,
  inHand,
  isNear,
  width,
  isMoreOpen,
  setMoreOpen,
}: {
  arrangement: ArrangementStore;
  controls: PaneControls;
  inHand: PerchInHand;
  isNear: boolean;
  /** Of the window, CSS pixels. */
  width: number;
  isMoreOpen: boolean;
  setMoreOpen: (isOpen: boolean) => void;
}) {
  const { edge } = useStore(arrangement.store);
  const title = usePerchTitle(controls);
  const areNamesOpen = useStore(controls.store, (shown) => shown.areNamesOpen);
  const isUp = isNear || isMoreOpen;
  return (
    <>
      {isMoreOpen && <MoreCard {...{ arrangement, controls, inHand }} onClose={() => setMoreOpen(false)} />}
      <footer
        hidden={areNamesOpen}
        // The keyboard stays with the stage: pressed with a pointer, the strip goes when that leaves.
        onPointerDown={(event) => event.preventDefault()}
        data-up={isUp || undefined}
        className={`absolute inset-x-0 z-10 flex h-7 [&[hidden]]:hidden items-center gap-1.5 pointer-coarse:h-11 border-line bg-paper px-2 text-[12px] text-ink transition-opacity duration-150 has-[:focus-visible]:opacity-100 motion-reduce:transition-none ${edge === 'top' ? 'top-0 border-b' : 'bottom-0 border-t'} ${isUp ? 'opacity-100' : 'pointer-events-none opacity-0 has-[:focus-visible]:pointer-events-auto'}`}
      >
        <h1 className="min-w-0 flex-1 truncate font-serif text-[14px] italic">
          <bdi>{title}</bdi>
        </h1>
        {width >= WORDS_PX && (
          <>
            <Word id="perch-names" label="names" hasKey={width >= KEYS_PX} />
            <Word id="perch-close" label="come close" hasKey={width >= KEYS_PX} />
            <Word id="perch-all" label="all" hasKey={width >= KEYS_PX} />
          </>
        )}
        <button
          type="button"
          className={WORD}
          aria-expanded={isMoreOpen}
          onClick={() => setMoreOpen(!isMoreOpen)}
        >
          more
        </button>
        <ZoomFigure view={controls.view} />
      </footer>
    </>
  );
}

/** Lenses of the pane: on for good by a press. */
function LensWords({ controls }: { controls: PaneControls }) {
  const lenses = useStore(controls.open.desk.store, (now) => now.lenses);
  const isOn = (lens: LensId) => lenses.some((one) => one.lens === lens);
  return (
    <>
      {CHOSEN_LENSES.filter((lens) => !lensOf(lens).dimsOthers).map((lens) => (
        <Word key={lens} id={lensCommand(lens)} label={lensOf(lens).words} isPressed={isOn(lens)} />
      ))}
    </>
  );
}

/** One line of what can be done: a word, and its key. */
function ActWord({
  id,
  label,
  isPressed,
  onPress,
}: {
  id: string;
  label: string;
  isPressed: boolean | undefined;
  onPress: () => void;
}) {
  const key = useKeyWords()(id);
  return (
    <button
      type="button"
      className="flex w-full gap-2 py-0.5 text-left hover:bg-paper aria-pressed:text-verdigris"
      aria-pressed={isPressed}
      onClick={onPress}
    >
      <span className="min-w-0 flex-1">{label}</span>
      {key && <kbd className="key self-start whitespace-nowrap pointer-coarse:hidden">{key}</kbd>}
    </button>
  );
}

/** Everything the perch can do, as words with their keys, and what is set for it. */
function MoreCard({
  arrangement,
  controls,
  inHand,
  onClose,
}: {
  arrangement: ArrangementStore;
  controls: PaneControls;
  inHand: PerchInHand;
  onClose: () => void;
}) {
  const { hoverMs, isHoverLook, edge, isFollowing, opens, panes } = useStore(arrangement.store);
  const degrees = panes[controls.pane]?.orientation.degrees ?? 0;
  const key = useKeyWords()('perch');
  const { seconds, isShuffled, isOn } = useStore(controls.slideshow.store);
  const { desk } = controls.open;
  const pressed: Readonly<Record<string, boolean>> = {
    'perch-hover': isHoverLook,
    'perch-slideshow': isOn,
  };
  const also: Readonly<Record<string, boolean | undefined>> = { 'perch-follows': isFollowing };
  const run = useRun();
  const { registry } = useCommands();
  const refuse = (words: string) => desk.say(words);
  return (
    <section
      aria-label="What the perch can do"
      className={`absolute inset-x-0 z-10 max-h-[calc(100%-28px)] pointer-coarse:max-h-[calc(100%-44px)] overflow-auto bg-raised px-2.5 py-2 text-[13px] text-ink ${edge === 'top' ? 'top-7 border-line border-b pointer-coarse:top-11' : 'bottom-7 border-line border-t pointer-coarse:bottom-11'}`}
    >
      <div className="columns-[190px] gap-5">
        <div className="mb-2 break-inside-avoid">
          <h2 className="text-[12px] text-muted">Through a lens</h2>
          <div className="flex flex-col items-start">
            <LensWords controls={controls} />
            <LensAmounts desk={desk} isOnAlone />
          </div>
        </div>
        {PERCH_CHAPTERS.map(({ title, rows }) => (
          <div key={title} className="mb-2 break-inside-avoid-column">
            <h2 className="text-[12px] text-muted">{title}</h2>
            {rows.map(([id, label, , act]) => (
              <ActWord
                key={id}
                {...{ id, label }}
                isPressed={pressed[id]}
                onPress={() => {
                  act(inHand, 0);
                  if (!(id in pressed)) onClose();
                }}
              />
            ))}
          </div>
        ))}
        <div className="mb-2 break-inside-avoid-column">
          {PERCH_ALSO.map((id) => (
            <ActWord
              key={id}
              id={id}
              label={id === 'perch' ? 'close the perch' : registry.of(id).label}
              isPressed={also[id]}
              onPress={() => run(id)}
            />
          ))}
        </div>
        <div className="mb-1 break-inside-avoid">
          <h2 className="text-[12px] text-muted">Set for this board</h2>
          {controls.open.base && (
            <div className="py-0.5">
              <p>{key ? `${key} opens, with nothing selected` : 'it opens with'}</p>
              <Choices
                label="What the perch opens"
                className="flex-wrap pl-2"
                words={OPENS_WORDS}
                value={opens}
                onChange={(next) => arrangement.set({ opens: next })}
              />
            </div>
          )}
          <p className="flex items-baseline gap-2 py-0.5">
            <span className="flex-1">view turned clockwise by</span>
            <NumberField
              label="Turn of the view"
              value={Math.round(degrees)}
              {...{ least: 0, most: 359, unit: '°' }}
              onRefuse={refuse}
              onChange={(value) => controls.turnTo(value)}
            />
          </p>
          <p className="flex items-baseline gap-2 py-0.5">
            <span className="flex-1">rest so long until it comes close</span>
            <NumberField
              label="Rest until it comes close, ms"
              value={hoverMs}
              {...HOVER_RANGE_MS}
              onRefuse={refuse}
              onChange={(value) => arrangement.set({ hoverMs: value })}
            />
            <span>ms</span>
          </p>
          <p className="flex items-baseline gap-2 py-0.5">
            <span className="flex-1">each picture of a slideshow</span>
            <NumberField
              label="Seconds of a picture"
              value={seconds}
              {...SECONDS_RANGE}
              onRefuse={refuse}
              onChange={(value) => controls.slideshow.set({ seconds: value })}
            />
            <span>s</span>
          </p>
          <label className="flex items-baseline gap-2 py-0.5">
            <input
              type="checkbox"
              checked={isShuffled}
              onChange={(event) => controls.slideshow.set({ isShuffled: event.target.checked })}
            />
            shuffled
          </label>
        </div>
      </div>
    </section>
  );
}
